import { ownSessions } from './tempo/features';
import { streamsOf } from '../src/core/tempo/streams';
import { readBars, EVEN_STRUCTURES } from '../src/core/tempo/bar-readings';
import { toConsensus } from '../src/core/tempo/clock';
for await (const s of ownSessions('/tmp/tempo-cache', 1, ['shuffle'])) {
  const streams = streamsOf(s.tracks, s.tracks.map(() => 1));
  const b = s.truth.beats;
  const third: number[] = [];
  for (let i = 0; i + 2 < b.length; i += 2) for (let k = 0; k < 3; k++) { const x = i + k * 2 / 3; const j = Math.floor(x); third.push(b[j]! + (x - j) * (b[j + 1]! - b[j]!)); }
  for (const st of streams) console.log(st.role, st.seconds.length, st.strength.slice(20,40).map((x)=>x.toFixed(1)).join(' '), readBars(b, [st], EVEN_STRUCTURES).filter((r) => ['6/8', '4/4 swung'].includes(r.structure.name)).map((r) => `${r.structure.name} ${r.offset} ${(r.score).toFixed(1)}`).join('; '), readBars(third, [st], EVEN_STRUCTURES).filter((r) => ['3/4'].includes(r.structure.name)).map((r) => `${r.structure.name} ${r.offset} ${(r.score).toFixed(1)}`).join('; '));
}
