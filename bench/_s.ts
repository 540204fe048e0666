import { ownSessions, folderSessions } from './tempo/features';
import { streamsOf } from '../src/core/tempo/streams';
import { readBars, EVEN_STRUCTURES } from '../src/core/tempo/bar-readings';
const [set, name, ...which] = process.argv.slice(2);
const it = set === 'own' ? ownSessions('/tmp/tempo-cache', 1, [name!]) : folderSessions('/tmp/tb', '/tmp/tempo-cache', [name!]);
for await (const s of it) {
  const streams = streamsOf(s.tracks, s.tracks.map(() => 1));
  const b = s.truth.beats;
  const at = (x: number) => { const j = Math.min(b.length - 2, Math.floor(x)); return b[j]! + (x - j) * (b[j + 1]! - b[j]!); };
  const lattice = (step: number) => { const out: number[] = []; for (let x = 0; x <= b.length - 1; x += step) out.push(at(x)); return out; };
  for (const r of [0.5, 2 / 3, 1, 2]) {
    const path = lattice(r);
    for (const st of EVEN_STRUCTURES.filter((q) => which.includes(q.name))) {
      const all = readBars(path, streams, [st])[0]!;
      console.log(`step ${r.toFixed(2)} ${st.name.padEnd(14)} ${all.score.toFixed(1).padStart(7)} off ${all.offset.toFixed(2)} | ` + streams.map((q) => `${q.role} ${q.seconds.length} ${(globalThis as any).parts?.(path, q, st, all.offset) ?? ''}`).join(' | '));
    }
  }
}
