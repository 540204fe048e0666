import { writeFileSync } from 'node:fs';
import { SOUND_CLASSES } from '../../src/core/analysis';
import { type Example, fontExamples, kitExamples, madeExamples, voiceExamples } from './examples';
import { confusionMarkdown, judgeKinds, judgeSounds, likeliest } from './judge';
import { TEST_SPEAKERS, TRAIN_SPEAKERS } from './speech';
import { train } from './train';

// Trains what is heard and writes the model and its confusion tables. Fonts, kits and speakers of the test are never heard in training.
const SF2 = '/usr/share/sounds/sf2';
const TRAIN_FONTS = [
  { file: 'TimGM6mb.sf2', seed: 11 },
  { file: 'FluidR3_GM.sf2', seed: 1 },
  { file: 'sf_GMbank.sf2', seed: 21 },
];
const TRAIN_KIT = `${SF2}/Black_Pearl_4_LV2.sf2`;
const TEST_FONT = '/usr/share/sounds/sf3/MuseScore_General_Full.sf3';
const TEST_KIT = `${SF2}/Red_Zeppelin_4_LV2.sf2`;

const began = Date.now();
const say = (text: string): void => console.log(`${((Date.now() - began) / 1000).toFixed(0)} s: ${text}`);

const examples: Example[] = [];
const add = (what: string, more: readonly Example[]): void => {
  examples.push(...more);
  say(`${more.length} examples of ${what}`);
};
for (const { file, seed } of TRAIN_FONTS)
  add(file, fontExamples(`${SF2}/${file}`, seed, { per: 2, kits: 24, more: 1 }));
add('made sounds', madeExamples(3, 40, 1));
add(TRAIN_KIT, kitExamples(TRAIN_KIT, 5, 24, 1));
add('voices', voiceExamples(TRAIN_SPEAKERS, 4, 4, 1));
const test = [
  ...fontExamples(TEST_FONT, 2, { per: 1, kits: 12, more: 1 }),
  ...kitExamples(TEST_KIT, 6, 12, 1),
  ...voiceExamples(TEST_SPEAKERS, 7, 4, 1),
];
say(`${test.length} to test on`);
const model = train(examples, 5);
say('trained');
const report = `# What is heard

Made by \`npm run train:heard\`: trained on Debian's \`fluid-soundfont-gm\`, \`timgm6mb-soundfont\`, \`csound-soundfont\`, a kit of \`avldrums.lv2-soundfont\`, speakers of \`espeak-ng\` and \`flite\` (speaking, and sung by a voice model of linear prediction), and sounds this project synthesises; as they are and as they might be recorded (bleed, room, tilt, drive, compression, noise). Tested on \`musescore-general-soundfont\`, the other kit and other speakers, never used in training, with other phrases. Part of that font was made from the first one: figures for it flatter a little; kits and speakers have nothing in common with those of the training.

## Sounds never heard before, by source

${confusionMarkdown(judgeSounds(model, test))}

## The same by kind

${confusionMarkdown(judgeKinds(model, test))}
`;
console.log(report);
const wrong = new Map<string, number>();
for (const e of test) {
  const { sound, confidence } = likeliest(model, e);
  if (confidence < 0.7 || e.label.includes(sound)) continue;
  const line = `${e.label.length > 3 ? 'any' : e.label.join('/')} (${e.source}) heard as ${sound}`;
  wrong.set(line, (wrong.get(line) ?? 0) + 1);
}
console.log(
  [...wrong]
    .sort((a, b) => b[1] - a[1])
    .slice(0, 30)
    .map(([k, n]) => `${n} ${k}`)
    .join('\n'),
);
if (process.argv.includes('--write')) {
  writeFileSync(
    'src/core/analysis/sound-model.ts',
    `import type { SoundModel } from './sound-likeness';\n\n/** Made by \`npm run train:heard\` for ${SOUND_CLASSES.length} sounds; see docs/what-is-heard.md. */\n// prettier-ignore\nexport const SOUND_MODEL: SoundModel = ${JSON.stringify(model)};\n`,
  );
  writeFileSync('docs/what-is-heard.md', report);
}
