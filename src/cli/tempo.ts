import { writeFileSync } from 'node:fs';
import { basename, resolve } from 'node:path';
import { faultText } from '@/contracts';
import { describeReading, detectTempo, readingToMap } from '@/core/tempo';
import { songMapToFile, songMapToMidi } from '@/core/time';
import { type Arguments, CallFault, print } from './arguments';
import { soundFiles, tempoTracks, withSounds } from './sound-files';

/** `tempo`: one map over several files. */
export async function commandTempo(args: Arguments): Promise<number> {
  const files = soundFiles(args.words);
  const wanted = args.all('timekeeper').map((f) => resolve(f));
  const missing = wanted.find((w) => !files.some((f) => resolve(f) === w));
  if (missing) throw new CallFault(`the timekeeper ${missing} is not among the files`);
  const sounds = await withSounds(files, { truePeak: false, listen: true, split: false }, async (all) => all);
  for (const { file, outcome } of sounds)
    if (!outcome.ok) process.stderr.write(`left out: ${file}: ${faultText(outcome.error)}\n`);
  const found = detectTempo(tempoTracks(sounds), {
    timekeepers: wanted.length > 0 ? files.filter((f) => wanted.includes(resolve(f))) : null,
  });
  if (!found.ok) {
    print(
      args.json,
      {
        beats: [],
        downbeats: [],
        meters: [],
        tempoSegments: [],
        steady: false,
        bpm: null,
        gridOffsetSeconds: null,
        confidence: [],
        timekeepers: [],
        alternatives: [],
        reason: found.error.code,
      },
      [['nothing found', found.error.code]],
    );
    return 1;
  }
  const value = describeReading(found.value);
  const map = readingToMap(found.value);
  const mapOut = args.one('map-out');
  const midiOut = args.one('midi-out');
  if (mapOut !== null) writeFileSync(mapOut, `${JSON.stringify(songMapToFile(map))}\n`);
  if (midiOut !== null) writeFileSync(midiOut, songMapToMidi(map, value.beats.at(-1) ?? 0));
  print(args.json, value, [
    ['pulses', value.beats.length],
    ['tempo', value.bpm ?? 'not steady'],
    ['first downbeat', value.downbeats[0]],
    ['meter', value.meters.map((m) => `${m.numerator}/${m.denominator}`).join(', ')],
    ...value.timekeepers
      .filter((t) => t.chosen)
      .map((t) => ['timekeeper', basename(t.file), t.weight.toFixed(2)]),
  ]);
  return 0;
}
