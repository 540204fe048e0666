import { appendFileSync } from 'node:fs';
import { detectTempo } from '../src/core/tempo';
import { describeReading } from '../src/core/tempo';
import { folderSessions, ownSessions } from './tempo/features';
import { score, summary, type Score } from './tempo/metrics';
const [set, ...only] = process.argv.slice(2);
const scores: Score[] = [];
const round = Number(process.env.ROUND ?? 1);
const sessions = set === 'own' ? ownSessions("/tmp/tempo-cache", round, only.length ? only : null) : folderSessions('/tmp/tb', '/tmp/tempo-cache', only.length ? only : null);
for await (const s of sessions) {
  const t0 = process.hrtime.bigint();
  const found = detectTempo(s.tracks, { timekeepers: null });
  const ms = Number(process.hrtime.bigint() - t0) / 1e6;
  const est = found.ok ? describeReading(found.value) : { beats: [], downbeats: [], meters: [], steady: false, bpm: null, gridOffsetSeconds: null, confidence: [] };
  const sc = score(s.truth, est);
  scores.push(sc);
  const med = [...sc.errors].sort((a, b) => a - b)[Math.floor(sc.errors.length / 2)] ?? NaN;
  const bpm = 60 * (s.truth.beats.length - 1) / (s.truth.beats.at(-1)! - s.truth.beats[0]!);
  const eb = est.beats.length > 1 ? 60 * (est.beats.length - 1) / (est.beats.at(-1)! - est.beats[0]!) : 0;
  if (found.ok) { const l = found.value.alternatives[0]!.confidence; console.log(`   LOCAL ${(found.value.confidence.reduce((a, x) => a + x / l, 0) / found.value.confidence.length).toFixed(3)} level ${l.toFixed(2)} perPulse ${(-75 * Math.log(1 - Math.min(0.999999, l)) / found.value.beats.length).toFixed(2)}`); }
  console.log(`${s.name.padEnd(26)} F ${sc.f.toFixed(3)} CMLt ${sc.cmlt.toFixed(2)} AMLt ${sc.amlt.toFixed(2)} err ${med.toFixed(1)} bias ${sc.biasMs.toFixed(1)} db ${sc.downbeatF.toFixed(2)} ${sc.meterRight ? 'meter' : 'METER'} ${est.meters.slice(0,3).map((m) => `${m.numerator}/${m.denominator}`).join(',')}(${est.meters.length}/${s.truth.meters.length}) ${sc.steady} bpm ${bpm.toFixed(1)}>${eb.toFixed(1)} dBpm ${sc.bpmError?.toFixed(4) ?? '-'} off ${sc.offsetMs?.toFixed(1) ?? '-'}/${sc.offsetPlayedMs?.toFixed(1) ?? '-'} sure ${(sc.sure / Math.max(1, sc.pulses)).toFixed(2)} wrong ${(sc.sureWrong / Math.max(1, sc.sure)).toFixed(3)} ${ms.toFixed(0)} ms`);
}
console.log(summary(scores));
