import { spawnSync } from 'node:child_process';

/** Plays a MIDI file on a sound font into a WAVE file, 16 bit, two channels, without reverb and chorus. Throws where the program does. */
export function playOnFont(font: string, midiFile: string, wavFile: string, rateHz: number): void {
  const made = spawnSync(
    'fluidsynth',
    [
      ...['-ni', '-q', '-R', '0', '-C', '0', '-g', '0.5', '-r', String(rateHz), '-O', 's16', '-F', wavFile],
      // Only the sounds that are played are unpacked from the font.
      ...['-o', 'synth.dynamic-sample-loading=1', font, midiFile],
    ],
    { encoding: 'utf8' },
  );
  if (made.status !== 0) throw new Error(`fluidsynth: ${made.stderr}`);
}
