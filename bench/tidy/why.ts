import { madeSession } from './made-tracks';
import { levelsOf, truthOf } from './score';
import { weigh } from '../../src/core/tidy/activity';
import { wantedSpans, NOTHING_UNWANTED } from '../../src/core/tidy/wanted';
import { spillPath } from '../../src/core/tidy/spill';
import { proposeTidy } from '../../src/core/tidy';
const [seed, db, kind] = [Number(process.argv[2]), Number(process.argv[3]), process.argv[4]!];
const { tracks, mix } = madeSession(seed, db, (process.argv[5] ?? 'steady') as never);
const t = tracks.find((x) => x.kind === kind)!;
const truth = truthOf(t);
const L = levelsOf(t.samples);
const w = weigh(L);
const p = proposeTidy(
  [
    { id: 'x', levels: L, family: 'guitars', part: null, source: null },
    { id: 'm', levels: levelsOf(mix), family: 'reference', part: null, source: null },
  ],
  { thresholdDb: null, shortestSeconds: 0.4, beforeSeconds: 0.06, afterSeconds: 0.12 },
)[0]!;
console.log(
  'path',
  spillPath(L, levelsOf(mix))
    ?.map((g) => g.toFixed(0))
    .join(' '),
);
console.log('alone', w.alone.length, 'gated', w.isGated);
const runs = (f: (n: number) => number) => {
  const out: string[] = [];
  let a = 0;
  for (let n = 1; n <= 2400; n++)
    if (n === 2400 || f(n) !== f(a)) {
      out.push(`${f(a)}:${(a / 50).toFixed(2)}-${(n / 50).toFixed(2)}`);
      a = n;
    }
  return out;
};
console.log(
  'truth',
  runs((n) => truth[n]!)
    .filter((r) => {
      const [a, b] = r.split(':')[1]!.split('-').map(Number);
      return b! - a! > 0.15;
    })
    .join(' '),
);
console.log(
  'wanted alone',
  wantedSpans(w, NOTHING_UNWANTED, { thresholdDb: null })
    .map((s) => `${s.from / 50}-${s.to / 50}`)
    .join(' '),
);
console.log(
  'kept',
  p.pieces
    .filter((x) => x.keeps)
    .map((s) => `${s.from / 50}-${s.to / 50}`)
    .join(' '),
);
const [a, b] = (process.argv[6] ?? '0,0').split(',').map(Number) as [number, number];
for (let n = 50 * a; n < 50 * b; n += 5)
  console.log(
    (n / 50).toFixed(2),
    'short',
    w.activity.short[n]!.toFixed(1),
    'long',
    w.activity.long[n]!.toFixed(1),
    'fade',
    w.fading[n]!.toFixed(1),
    'tot',
    (-127.5 + L.total[n]! / 2).toFixed(1),
    [...Array(24).keys()]
      .map((k) => (10 * Math.log10(w.powers[k * 2400 + n]! / w.floor[k * 2400 + n]!)).toFixed(0))
      .join(' '),
  );
