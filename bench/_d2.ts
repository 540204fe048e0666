import { OnsetAnalysis } from '../src/core/analysis';
import { createRandom } from '../src/core/units';
import { detectTempo, describeReading } from '../src/core/tempo';
import { madeSound } from './heard/synth';
const RATE = 16000;
function heard(samples: Float32Array, rate = RATE) { const a = new OnsetAnalysis(rate); a.push([samples]); return a.finish(); }
function struck(moments: readonly { at: number; hz: number; gain: number }[], seconds: number, seed: number) {
  const random = createRandom(seed);
  const samples = Float32Array.from({ length: seconds * RATE }, () => (random() - 0.5) * 0.0005);
  const length = 0.12 * RATE;
  const decay = Float32Array.from({ length }, (_, i) => Math.exp(-i / (0.025 * RATE)));
  for (const { at, hz, gain } of moments) { const begin = Math.round(at * RATE); for (let i = 0; i < length && begin + i < samples.length; i++) samples[begin + i] = samples[begin + i]! + gain * (0.6 * decay[i]! * Math.sin((2 * Math.PI * hz * i) / RATE) + 0.4 * decay[i]! * (random() * 2 - 1)); }
  return heard(samples);
}
const show = (name: string, tracks: any[]) => { const t0 = Date.now(); const r = detectTempo(tracks); console.log(name, r.ok ? `${r.value.beats.length} beats, first ${r.value.beats[0]?.toFixed(2)} db ${r.value.beats[r.value.firstDownbeat]?.toFixed(2)} bpm ${r.value.bpm} conf ${Math.max(...r.value.confidence).toFixed(2)} level ${r.value.alternatives[0]?.confidence.toFixed(2)} LOCAL ${(r.value.confidence.reduce((a: number, x: number) => a + x / r.value.alternatives[0]!.confidence, 0) / r.value.confidence.length).toFixed(3)}` : r.error.code, Date.now() - t0, 'ms'); };
const random = createRandom(3);
const beats = Array.from({ length: 80 }, (_, i) => 1.3 + (60 * i) / 128.37);
const loose = (t: number) => t + ((random() + random() - 1) * 8) / 1000;
show('band', [
  { id: 'k', family: 'drums', part: 'kick', curves: struck(beats.flatMap((t, i) => (i % 2 === 0 ? [{ at: loose(t), hz: 60, gain: i % 4 ? 0.65 : 0.8 }] : [])), 42, 1) },
  { id: 's', family: 'drums', part: 'snare', curves: struck(beats.flatMap((t, i) => (i % 2 ? [{ at: loose(t), hz: 220, gain: 0.7 }] : [])), 42, 2) },
  { id: 'h', family: 'drums', part: 'hihat', curves: struck(beats.flatMap((t) => [{ at: loose(t), hz: 5000, gain: 0.3 }, { at: loose(t + 0.2337), hz: 5000, gain: 0.2 }]), 42, 3) },
  { id: 'b', family: 'bass', part: 'electric-bass', curves: struck(beats.flatMap((t, i) => (i % 4 === 0 ? [{ at: loose(t), hz: 90, gain: 0.6 }] : [])), 42, 4) },
]);
import { findBeatPath } from '../src/core/tempo/beat-path';
