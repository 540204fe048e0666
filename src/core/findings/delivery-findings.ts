import { sureFarMics } from './far-mics';
import { mayBeMix } from './may-be-mix';
import { findGaps } from '../naming';
import { roundTo } from '../units';
import { replacements } from './instalments';
import type { Finding, FindingFile, KnownFile, MicFact, PairFact, Relations, Twin } from './finding';

/** Lengths count as the same within this. */
const SAME_SECONDS = 0.002;
/** So many of the files, and at least three, make a rule that others break. */
const RULE_SHARE = 0.6;
const RULE_LEAST = 3;
/** What an aligned pair of microphones must reach before anything is said of it. */
const SURE = 0.6;
/** Less than this no two microphones of a source stand apart. */
const DELAY_MS = 0.15;
const AIR_CM_PER_SECOND = 34_300;
/** Below this nothing is left of a take but the rounding of its last bit. */
const TWIN_DB = -60;

const part = (
  id: string,
  figures: FindingFile['figures'] = {},
  other: string | null = null,
): FindingFile => ({ id, other, figures, places: [] });

/** Everything noticed between the files of a delivery. */
export function deliveryFindings(files: readonly KnownFile[], relations: Relations): Finding[] {
  return [
    ...replacements(files, relations.alikes),
    ...unlikeOthers(files),
    ...laterStarts(files),
    ...sameContent(files, relations.twins),
    ...pairFindings(relations.pairs),
    ...micFindings(files, relations),
    ...farMicFindings(files, relations),
    ...mixFindings(files, relations),
    ...gapFindings(files),
  ];
}

/** The value most files have, if enough have it; `same` says when two are equal. */
export function ruleOf<T>(values: readonly T[], same: (a: T, b: T) => boolean = (a, b) => a === b): T | null {
  let best: { readonly value: T; readonly count: number } | null = null;
  for (const value of values) {
    const count = values.filter((v) => same(v, value)).length;
    if (best === null || count > best.count) best = { value, count };
  }
  return best !== null && best.count >= RULE_LEAST && best.count >= RULE_SHARE * values.length
    ? best.value
    : null;
}

const recordedHz = (f: KnownFile): number => f.recordedHz ?? f.sampleRateHz;

function unlikeOthers(files: readonly KnownFile[]): Finding[] {
  const found: Finding[] = [];
  const rate = mostOften(files.map(recordedHz));
  const others = files.filter((f) => recordedHz(f) !== rate);
  if (rate !== null && others.length > 0)
    found.push({
      code: 'rate-differs',
      // In a session they are converted, or play as they are by a person's choice: then it is only good to know.
      severity: others.every((f) => f.recordedHz !== undefined) ? 'note' : 'check',
      remedy: null,
      files: others.map((f) => part(f.id, { rateHz: recordedHz(f), usualHz: rate })),
    });
  const lossless = files.filter((f) => !f.lossy);
  const depth = ruleOf(lossless.map(depthOf));
  const shallow = lossless.filter((f) => depthOf(f) !== depth);
  if (depth !== null && shallow.length > 0)
    found.push({
      code: 'depth-differs',
      severity: 'note',
      remedy: null,
      files: shallow.map((f) => part(f.id, { bits: depthOf(f), usualBits: depth })),
    });
  const seconds = (f: KnownFile): number => f.lengthFrames / f.sampleRateHz;
  const near = (a: number, b: number): boolean => Math.abs(a - b) <= SAME_SECONDS;
  const length = ruleOf(files.map(seconds), near);
  const unlike = length === null ? [] : files.filter((f) => !near(seconds(f), length));
  if (length !== null && unlike.length > 0)
    found.push({
      code: 'length-differs',
      severity: 'check',
      remedy: null,
      files: unlike.map((f) =>
        part(f.id, { seconds: roundTo(seconds(f), 3), usualSeconds: roundTo(length, 3) }),
      ),
    });
  return found;
}

const depthOf = (f: KnownFile): string =>
  f.encoding.startsWith('f') ? `${f.bitDepth} float` : String(f.bitDepth);

/** The value met most often; the first of them on a tie, null only for none. */
function mostOften<T>(values: readonly T[]): T | null {
  const counts = new Map<T, number>();
  for (const v of values) counts.set(v, (counts.get(v) ?? 0) + 1);
  return (
    [...counts].reduce<[T, number] | null>(
      (best, entry) => (best === null || entry[1] > best[1] ? entry : best),
      null,
    )?.[0] ?? null
  );
}

interface Stamped {
  readonly id: string;
  readonly seconds: number;
  readonly lengthSeconds: number;
}

/** A delivery is as long as its longest file; a stamp that places a file this far outside says nothing, s. */
const BEYOND_SECONDS = 10;
const HOUR_SECONDS = 3600;

/** Stamps that disagree with where the files lie, which is the common zero: each that can be meant. */
function laterStarts(files: readonly KnownFile[]): Finding[] {
  const stamped = files.flatMap((f): Stamped[] =>
    f.metadata.timeReferenceFrames === null
      ? []
      : [
          {
            id: f.id,
            seconds: f.metadata.timeReferenceFrames / f.sampleRateHz,
            lengthSeconds: f.lengthFrames / f.sampleRateHz,
          },
        ],
  );
  if (stamped.length === 0) return [];
  const longest = Math.max(...files.map((f) => f.lengthFrames / f.sampleRateHz));
  const zero = stampOfZero(stamped, files.length, longest);
  const later = stamped
    .map((s) => ({ ...s, offset: s.seconds - zero }))
    .filter(
      ({ offset, lengthSeconds }) =>
        Math.abs(offset) > SAME_SECONDS &&
        offset > -longest - BEYOND_SECONDS &&
        offset + lengthSeconds < 2 * longest + BEYOND_SECONDS,
    );
  return later.length === 0
    ? []
    : [
        {
          code: 'starts-later',
          severity: 'check',
          remedy: 'place-by-stamp',
          files: later.map((s) => part(s.id, { seconds: roundTo(s.offset, 4) })),
        },
      ];
}

/** The stamp of the common zero: what most share, or a file as long as the song has; else the first; of few files among many the hour before it, as clocks of recorders begin at whole hours (common practice, no source). */
function stampOfZero(stamped: readonly Stamped[], fileCount: number, longestSeconds: number): number {
  const sharing = (s: Stamped): number =>
    stamped.filter((o) => Math.abs(o.seconds - s.seconds) <= SAME_SECONDS).length;
  const most = stamped.reduce((a, b) => (sharing(b) > sharing(a) ? b : a));
  if (sharing(most) > 1 && 2 * sharing(most) > stamped.length) return most.seconds;
  const whole = stamped.find((s) => s.lengthSeconds > longestSeconds - SAME_SECONDS);
  if (whole && stamped.length < fileCount) return whole.seconds;
  const first = Math.min(...stamped.map((s) => s.seconds));
  return stamped.length >= RULE_SHARE * fileCount ? first : Math.floor(first / HOUR_SECONDS) * HOUR_SECONDS;
}

/** Which of two equal files is the copy's original: what was worked on, else the plainer name (“Vox” before “Vox copy 2”). */
const isRather = (a: KnownFile, b: KnownFile): boolean =>
  a.settled === b.settled ? a.receivedName.length < b.receivedName.length : a.settled;

function sameContent(files: readonly KnownFile[], twins: readonly Twin[]): Finding[] {
  const found: Finding[] = [];
  const own = new Map<string, KnownFile>();
  for (const f of files) {
    const other = own.get(f.sha256);
    if (!other || isRather(f, other)) own.set(f.sha256, f);
  }
  const copies = files.flatMap((f) => {
    const kept = own.get(f.sha256) as KnownFile;
    return kept === f ? [] : [part(f.id, {}, kept.id)];
  });
  if (copies.length > 0)
    found.push({ code: 'same-bytes', severity: 'check', remedy: 'take-out', files: copies });
  const sha = new Map(files.map((f) => [f.id, f.sha256]));
  const others = twins.filter(
    (t) =>
      sha.has(t.a) &&
      sha.has(t.b) &&
      sha.get(t.a) !== sha.get(t.b) &&
      (t.residualDb === null || t.residualDb <= TWIN_DB),
  );
  const exact = others.filter((t) => t.residualDb === null && t.gainDb === 0 && t.polarity === 1);
  const scaled = others.filter((t) => !exact.includes(t));
  if (exact.length > 0)
    found.push({
      code: 'same-audio',
      severity: 'check',
      remedy: 'take-out',
      files: exact.map((t) => part(t.b, {}, t.a)),
    });
  if (scaled.length > 0)
    found.push({
      code: 'same-take',
      severity: 'check',
      remedy: 'take-out',
      files: scaled.map((t) =>
        part(
          t.b,
          {
            gainDb: roundTo(t.gainDb, 2),
            polarity: t.polarity === 1 ? 'same' : 'turned over',
            residualDb: t.residualDb === null ? 'nothing' : roundTo(t.residualDb, 1),
          },
          t.a,
        ),
      ),
    });
  return found;
}

function pairFindings(pairs: readonly PairFact[]): Finding[] {
  const figures = (p: PairFact): FindingFile['figures'] =>
    p.correlation === null ? {} : { correlation: roundTo(p.correlation, 2) };
  const good = pairs.filter((p) => p.related !== false);
  const apart = pairs.filter((p) => p.related === false);
  return [
    ...(good.length > 0
      ? [
          {
            code: 'pair',
            severity: 'note',
            remedy: 'pair',
            files: good.map((p) => part(p.right, figures(p), p.left)),
          } as const,
        ]
      : []),
    ...(apart.length > 0
      ? [
          {
            code: 'pair-unrelated',
            severity: 'note',
            remedy: null,
            files: apart.map((p) => part(p.right, figures(p), p.left)),
          } as const,
        ]
      : []),
  ];
}

function micFindings(files: readonly KnownFile[], { mics, pairs, twins }: Relations): Finding[] {
  const rates = new Map(files.map((f) => [f.id, f.sampleRateHz]));
  // One take in two files is no second microphone, whatever its polarity: that is said as such.
  const isTwin = (m: MicFact): boolean =>
    twins.some((t) => [t.a, t.b].includes(m.leader) && [t.a, t.b].includes(m.other));
  const sure = mics.filter(
    (m) => m.confidence >= SURE && rates.has(m.leader) && rates.has(m.other) && !isTwin(m),
  );
  const figures = (m: MicFact): FindingFile['figures'] => {
    const seconds = m.delaySamples / (rates.get(m.other) as number);
    return {
      delaySamples: roundTo(m.delaySamples, 1),
      delayMs: roundTo(1000 * seconds, 3),
      delayCm: roundTo(AIR_CM_PER_SECOND * seconds, 1),
      correlation: roundTo(m.correlation, 2),
      confidence: roundTo(m.confidence, 2),
    };
  };
  const turned = sure.filter((m) => m.polarity === -1);
  // The time between the sides of one source is its width.
  const isPair = (m: MicFact): boolean =>
    pairs.some(
      (p) => (p.left === m.leader && p.right === m.other) || (p.left === m.other && p.right === m.leader),
    );
  const late = sure.filter(
    (m) => !isPair(m) && (1000 * Math.abs(m.delaySamples)) / (rates.get(m.other) as number) >= DELAY_MS,
  );
  return [
    ...(turned.length > 0
      ? [
          {
            code: 'mic-polarity',
            severity: 'check',
            remedy: 'flip-polarity',
            files: turned.map((m) => part(m.other, figures(m), m.leader)),
          } as const,
        ]
      : []),
    ...(late.length > 0
      ? [
          {
            code: 'mic-delay',
            severity: 'note',
            remedy: 'shift',
            files: late.map((m) => part(m.other, figures(m), m.leader)),
          } as const,
        ]
      : []),
  ];
}

/** Turned over beside the snare's own microphone; how much later they are is said where levels are made. */
function farMicFindings(files: readonly KnownFile[], { farMics }: Relations): Finding[] {
  const rates = new Map(files.map((f) => [f.id, f.sampleRateHz]));
  const turned = sureFarMics(files, farMics).filter((m) => m.polarity === -1);
  if (turned.length === 0) return [];
  return [
    {
      code: 'far-mic-polarity',
      severity: 'check',
      remedy: 'flip-polarity',
      files: turned.map((m) => {
        const delayMs = (1000 * m.delaySamples) / (rates.get(m.other) as number);
        return part(
          m.other,
          { delayMs: roundTo(delayMs, 3), confidence: roundTo(m.confidence, 2) },
          m.leader,
        );
      }),
    },
  ];
}

/** A mix follows the sum of the others this closely, and is more than one of their groups: overheads follow their kit. */
const MIX = { errorDb: 2.2, correlation: 0.93, groups: 3, strongest: 0.85 } as const;

function mixFindings(files: readonly KnownFile[], { mixes }: Relations): Finding[] {
  const possible = new Set(files.filter(mayBeMix).map((f) => f.id));
  const found = mixes.filter(
    (m) =>
      possible.has(m.id) &&
      m.errorDb <= MIX.errorDb &&
      m.correlation >= MIX.correlation &&
      m.groups >= MIX.groups &&
      m.strongest <= MIX.strongest,
  );
  return found.length === 0
    ? []
    : [
        {
          code: 'heard-mix',
          severity: 'check',
          remedy: 'as-mix',
          files: found.map((m) =>
            part(m.id, {
              errorDb: m.errorDb,
              groups: m.groups,
              ...(m.laterSeconds === 0 ? {} : { laterSeconds: m.laterSeconds }),
            }),
          ),
        },
      ];
}

function gapFindings(files: readonly KnownFile[]): Finding[] {
  const gaps = findGaps(files.map((f) => f.source));
  const of = (kind: 'side' | 'number'): FindingFile[] =>
    gaps
      .filter((g) => g.kind === kind)
      .map((g) => part((files[g.near] as KnownFile).id, { missing: g.missing }));
  const [sides, numbers] = [of('side'), of('number')];
  return [
    ...(sides.length > 0
      ? [{ code: 'missing-side', severity: 'check', remedy: null, files: sides } as const]
      : []),
    ...(numbers.length > 0
      ? [{ code: 'missing-number', severity: 'check', remedy: null, files: numbers } as const]
      : []),
  ];
}
