import { existsSync } from 'node:fs';
import { HEARD_KINDS, HEARD_MODEL, heardAs, OnsetAnalysis } from '@/core/analysis';
import { createRandom } from '@/core/units';
import { fontExamples } from '../../bench/heard/examples';
import { confusionMarkdown, judge } from '../../bench/heard/judge';
import { madeSound, RATE } from '../../bench/heard/synth';

// Debian's musescore-general-soundfont, never used in training: instruments recorded by others, played by phrases that training has not seen.
const FONT = '/usr/share/sounds/sf3/MuseScore_General_Full.sf3';

it('tells drums, bass, held, plucked and voices of a sound font it has never heard: ≥ 85 % right where it says so, and it says so of most', () => {
  expect(existsSync(FONT)).toBe(true);
  const found = judge(HEARD_MODEL, fontExamples(FONT, 77, 1, 0));
  console.log(confusionMarkdown(found));
  expect(found.count).toBeGreaterThan(120);
  expect(found.right).toBeGreaterThanOrEqual(0.85);
  expect(found.sure / found.count).toBeGreaterThan(0.6);
  // No kind is right by never being said.
  found.table.forEach((row, k) =>
    expect((row[k] as number) / row.reduce((s, n) => s + n, 0)).toBeGreaterThan(0.4),
  );
}, 300_000);

it('says nothing of silence, of a moment, and the same at any level', () => {
  const hear = (sound: Float32Array) => {
    const pass = new OnsetAnalysis(RATE);
    pass.push([sound]);
    return heardAs(pass.finish(), pass.sketch(), pass.pitchWidth());
  };
  expect(hear(new Float32Array(RATE * 3))).toBeNull();
  expect(hear(madeSound('drums', 0.5, createRandom(3)))).toBeNull();
  for (const kind of HEARD_KINDS) {
    const sound = madeSound(kind, 8, createRandom(11));
    const [loud, soft] = [hear(sound.map((x) => 0.5 * x)), hear(sound.map((x) => 0.02 * x))];
    expect({ kind, heard: loud?.kind }).toEqual({ kind, heard: kind });
    expect(soft?.kind).toBe(loud?.kind);
    expect(Math.abs((soft?.confidence ?? 0) - (loud?.confidence ?? 0))).toBeLessThan(0.2);
  }
}, 120_000);
