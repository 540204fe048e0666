import { writeFileSync } from 'node:fs';
import { basename, resolve } from 'node:path';
import { faultText } from '@/contracts';
import { detectTempo, readingMeters, readingToMap, type TempoReading } from '@/core/tempo';
import { songMapToFile, songMapToMidi, tempoSegments } from '@/core/time';
import { roundTo } from '@/core/units';
import { type Arguments, CallFault, print } from './arguments';
import { soundFiles, tempoTracks, withSounds } from './sound-files';

/** `tempo`: one map over several files. */
export async function commandTempo(args: Arguments): Promise<number> {
  const files = soundFiles(args.words);
  const wanted = args.all('timekeeper').map((f) => resolve(f));
  const missing = wanted.find((w) => !files.some((f) => resolve(f) === w));
  if (missing) throw new CallFault(`the timekeeper ${missing} is not among the files`);
  const sounds = await withSounds(files, { truePeak: false, listen: true, split: false }, async (all) => all);
  for (const { file, outcome } of sounds) if (!outcome.ok) process.stderr.write(`left out: ${file}: ${faultText(outcome.error)}\n`);
  const found = detectTempo(tempoTracks(sounds), { timekeepers: wanted.length > 0 ? files.filter((f) => wanted.includes(resolve(f))) : null });
  if (!found.ok) {
    print(args.json, { beats: [], downbeats: [], meters: [], tempoSegments: [], steady: false, bpm: null, gridOffsetSeconds: null, confidence: [], timekeepers: [], alternatives: [], reason: found.error.code }, [['nothing found', found.error.code]]);
    return 1;
  }
  const value = describe(found.value);
  const map = readingToMap(found.value);
  const mapOut = args.one('map-out');
  const midiOut = args.one('midi-out');
  if (mapOut !== null) writeFileSync(mapOut, `${JSON.stringify(songMapToFile(map))}\n`);
  if (midiOut !== null) writeFileSync(midiOut, songMapToMidi(map, value.beats.at(-1) ?? 0));
  print(args.json, value, [['pulses', value.beats.length], ['tempo', value.bpm ?? 'not steady'], ['first downbeat', value.downbeats[0]], ['meter', value.meters.map((m) => `${m.numerator}/${m.denominator}`).join(', ')], ...value.timekeepers.filter((t) => t.chosen).map((t) => ['timekeeper', basename(t.file), t.weight.toFixed(2)])]);
  return 0;
}

/** The reading in the words of the command line's contract. */
function describe(reading: TempoReading) {
  const map = readingToMap(reading);
  const last = reading.beats.at(-1) ?? 0;
  const downbeats: number[] = [];
  for (let bar = 1; ; bar++) {
    const t = map.tempo.toSeconds(map.meters.barToQuarters(bar));
    if (t > last + 0.01) break;
    downbeats.push(t);
  }
  const seconds = (x: number): number => roundTo(x, 6);
  return {
    beats: reading.beats.map(seconds),
    downbeats: downbeats.map(seconds),
    meters: readingMeters(reading).map((m) => ({ time: seconds(map.tempo.toSeconds(map.meters.barToQuarters(m.bar))), numerator: m.numerator, denominator: m.denominator })),
    tempoSegments: tempoSegments(map.tempo).map((s) => ({ time: seconds(s.time), bpm: roundTo(s.bpm, 6) })),
    steady: reading.steady,
    bpm: reading.bpm === null ? null : roundTo(reading.bpm, 6),
    gridOffsetSeconds: reading.gridOffsetSeconds === null ? null : seconds(reading.gridOffsetSeconds),
    confidence: reading.confidence.map((c) => roundTo(c, 3)),
    timekeepers: reading.timekeepers.map((t) => ({ file: t.id, chosen: t.chosen, weight: roundTo(t.weight, 4), reason: t.reason })),
    alternatives: reading.alternatives.map((a) => ({ reading: a.reading, confidence: roundTo(a.confidence, 3) })),
  };
}
