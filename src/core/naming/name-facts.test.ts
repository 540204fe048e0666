import { factsInName } from './index';

const said = (path: string): string[] => factsInName(path).map((f) => `${f.kind} ${f.value}`);

it.each<[string, string[]]>([
  ['Low Water 96bpm 44k1 Gm/Kick In_03.wav', ['tempo 96', 'rate 44100', 'key G minor']],
  ['LowWater_97.5 BPM_48kHz_24bit_F#m/x.wav', ['tempo 97.5', 'rate 48000', 'depth 24', 'key F# minor']],
  ['bpm 120/88.2k/Bb major/x.wav', ['tempo 120', 'rate 88200', 'key Bb major']],
  ['Slack Tide (6-8 time) 48000.wav', ['rate 48000', 'meter 6/8']],
  ['96k 16-bit.wav', ['rate 96000', 'depth 16']],
  ['KICK in_03.wav', []],
  ['Am I wrong Vox 2.wav', ['key A minor']],
  ['Gtr 1-2.wav', []],
  ['Drum Bm.wav', ['key B minor']],
  ['Bass DI 57.wav', []],
  ['Ebow.wav', []],
  ['999bpm 500k.wav', []],
])('%s', (path, expected) => {
  expect(said(path)).toEqual(expected);
});
