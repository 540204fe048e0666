import { folderSessions, ownSessions } from './tempo/features';
import { streamsOf } from '../src/core/tempo/streams';
import { median } from '../src/core/dsp';
const it = process.argv[2] === 'own' ? ownSessions('/tmp/tempo-cache', 1, null) : folderSessions('/tmp/tb', '/tmp/tempo-cache', process.argv[2] ? [process.argv[2]] : null);
for await (const s of it) {
  console.log(s.name);
  for (const t of s.tracks) {
    const out: string[] = [];
    for (const st of streamsOf([t], [1])) {
      if (st.role === 'harmony') continue;
      const off: number[] = [];
      let i = 0;
      st.seconds.forEach((x) => { while (i + 1 < s.truth.beats.length && Math.abs(s.truth.beats[i + 1]! - x) < Math.abs(s.truth.beats[i]! - x)) i++; const d = x - s.truth.beats[i]!; if (Math.abs(d) < 0.06) off.push(1000 * d); });
      if (off.length < 10) continue;
      const m = median(off);
      out.push(`${st.role} n ${off.length} median ${m.toFixed(1)} mad ${median(off.map((x) => Math.abs(x - m))).toFixed(1)}`);
    }
    if (out.length) console.log('   ', t.id.split('/').pop()!.slice(0, 30).padEnd(30), t.family, out.join(' | '));
  }
}
