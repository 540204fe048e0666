import { existsSync } from 'node:fs';
import { SOUND_MODEL, soundLikeness, OnsetAnalysis } from '@/core/analysis';
import { createRandom } from '@/core/units';
import { fontExamples, kitExamples, voiceExamples } from '../../bench/heard/examples';
import { confusionMarkdown, judgeKinds, judgeSounds, type Judgement } from '../../bench/heard/judge';
import { TEST_SPEAKERS } from '../../bench/heard/speech';
import { MADE_SOUNDS, madeSound, RATE } from '../../bench/heard/synth';

// Debian's musescore-general-soundfont, a kit of avldrums.lv2-soundfont and two speakers, never used in training, with phrases that training has not seen.
const FONT = '/usr/share/sounds/sf3/MuseScore_General_Full.sf3';
const KIT = '/usr/share/sounds/sf2/Red_Zeppelin_4_LV2.sf2';

/** Right where it says so, says so of most, and no name is right by never being said. */
function expectGood(j: Judgement, sure: number, least: number): void {
  console.log(confusionMarkdown(j));
  expect(j.right).toBeGreaterThanOrEqual(0.85);
  expect(j.sure / j.count).toBeGreaterThan(sure);
  j.table.forEach((row, k) => {
    const count = row.reduce((s, n) => s + n, 0);
    if (count > 3)
      expect({ name: j.names[k], share: (row[k] as number) / count > least }).toEqual({
        name: j.names[k],
        share: true,
      });
  });
}

it('tells sources and kinds of a font, a kit and speakers it has never heard: ≥ 85 % right where it says so', () => {
  expect(existsSync(FONT) && existsSync(KIT)).toBe(true);
  const examples = [
    ...fontExamples(FONT, 77, { per: 0.14, kits: 2, more: 0 }),
    ...kitExamples(KIT, 78, 2, 0),
    ...voiceExamples(TEST_SPEAKERS, 79, 1, 0),
  ];
  expect(examples.length).toBeGreaterThan(70);
  expectGood(judgeSounds(SOUND_MODEL, examples), 0.5, 0.2);
  expectGood(judgeKinds(SOUND_MODEL, examples), 0.6, 0.4);
}, 300_000);

it('says nothing of silence, of a moment, and the same at any level', () => {
  const hear = (sound: Float32Array) => {
    const pass = new OnsetAnalysis(RATE);
    pass.push([sound]);
    return soundLikeness(pass.finish(), pass.sketch(), pass.pitchWidth());
  };
  expect(hear(new Float32Array(RATE * 3))).toBeNull();
  expect(hear(madeSound('kit', 0.5, createRandom(3)))).toBeNull();
  for (const { name, label } of MADE_SOUNDS) {
    const sound = madeSound(name, 8, createRandom(11));
    const [loud, soft] = [hear(sound.map((x) => 0.5 * x)), hear(sound.map((x) => 0.02 * x))];
    const [first] = loud?.sounds ?? [];
    expect({ name, heard: first && label.some((l) => l === first.sound) }).toEqual({ name, heard: true });
    expect(soft?.kind).toBe(loud?.kind);
    expect(Math.abs((soft?.confidence ?? 0) - (loud?.confidence ?? 0))).toBeLessThan(0.2);
  }
}, 120_000);
