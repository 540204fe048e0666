import { writeFileSync } from 'node:fs';
import { fontExamples, madeExamples } from './examples';
import { confusionMarkdown, judge } from './judge';
import { train } from './train';

// Trains what is heard and writes the model and its confusion table. The test font is never seen in training.
const TRAIN_FONT = '/usr/share/sounds/sf2/FluidR3_GM.sf2';
const TEST_FONT = '/usr/share/sounds/sf3/MuseScore_General_Full.sf3';
const began = Date.now();
const say = (text: string): void => console.log(`${((Date.now() - began) / 1000).toFixed(0)} s: ${text}`);

const examples = [...fontExamples(TRAIN_FONT, 1, 3, 2), ...madeExamples(3, 60)];
say(`${examples.length} examples to train on`);
const held = fontExamples(TRAIN_FONT, 9, 1, 1);
const test = fontExamples(TEST_FONT, 2, 2, 1);
say(`${test.length} to test on`);
const model = train(examples, 5);
say('trained');
const onTest = judge(model, test);
const report = `# What is heard\n\nMade by \`npm run train:heard\`: trained on \`fluid-soundfont-gm\` and on sounds this project synthesises, clean and as they might be recorded (bleed, room, compression, noise); tested on \`musescore-general-soundfont\`, never used in training, other phrases.\n\n## A font never heard before\n\n${confusionMarkdown(onTest)}\n\n## The font of the training, other phrases\n\n${confusionMarkdown(judge(model, held))}\n`;
console.log(report);
const wrong = new Map<string, number>();
for (const e of test) {
  const j = judge(model, [e]);
  if (j.sure === 1 && j.right === 0)
    wrong.set(`${e.kind} ${e.source}`, (wrong.get(`${e.kind} ${e.source}`) ?? 0) + 1);
}
console.log(
  [...wrong]
    .sort((a, b) => b[1] - a[1])
    .slice(0, 25)
    .map(([k, n]) => `${n} ${k}`)
    .join('\n'),
);
if (process.argv.includes('--write')) {
  writeFileSync(
    'src/core/analysis/heard-model.ts',
    `import type { HeardModel } from './heard-as';\n\n/** Made by \`npm run train:heard\`; see docs/what-is-heard.md. */\nexport const HEARD_MODEL: HeardModel = ${JSON.stringify(model)};\n`,
  );
  writeFileSync('docs/what-is-heard.md', report);
}
