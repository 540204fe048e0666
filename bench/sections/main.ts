import { writeFileSync } from 'node:fs';
import { findSections, type SectionModel } from '../../src/core/sections';
import { scoreSong, type SongScore, told } from './score';
import { type BenchSong, folderSongs, madeSong } from './songs';
import { prepare, type Prepared, thinned, THINNED, train } from './train';

/** Seeds of songs that are learned from; the bench is heard on others. Odd seeds are hard. */
const LEARNED = [1000, 1050] as const;
const UNSEEN = [2000, 2016] as const;
const FOLDS = 5;

async function songs([from, to]: readonly [number, number]): Promise<BenchSong[]> {
  const out: BenchSong[] = [];
  for (let seed = from; seed < to; seed++) out.push(await madeSong(seed, seed % 2 === 1));
  return out;
}

/** Scores by group of songs. */
class Table {
  private readonly groups = new Map<string, SongScore[]>();
  note(group: string, score: SongScore): void {
    this.groups.set(group, [...(this.groups.get(group) ?? []), score]);
  }
  print(title: string): void {
    console.log(`\n${title}`);
    for (const [group, list] of this.groups) console.log(told(group, list));
    if (process.env.FERNMOSS_BENCH_DETAIL)
      for (const s of this.groups.get('whole') ?? []) console.log(`  ${told(s.name, [s])}`);
  }
}

function scoreAll(table: Table, song: BenchSong, seed: number, model?: SectionModel): void {
  for (const how of THINNED) {
    const { tracks } = thinned(song, how, seed);
    const score = scoreSong(song.truth, findSections(tracks, song.truth.bars, model));
    table.note(how, score);
    if (how === 'whole') table.note(song.truth.hard ? 'hard' : 'plain', score);
  }
}

/** Figures of the model that is shipped, on songs it was not learned from. */
async function bench(): Promise<void> {
  const own = new Table();
  for (const [k, song] of (await songs(UNSEEN)).entries()) scoreAll(own, song, k);
  own.print('Songs not learned from');
  if (!process.env.FERNMOSS_TEMPO_BENCH) return;
  const shared = new Table();
  let k = 0;
  for await (const song of folderSongs(process.env.FERNMOSS_TEMPO_BENCH)) scoreAll(shared, song, k++);
  shared.print('Sessions of the folder');
}

function judge(made: readonly BenchSong[], prepared: readonly (readonly Prepared[])[]): void {
  const crossed = new Table();
  for (let fold = 0; fold < FOLDS; fold++) {
    const model = train(prepared.filter((_, k) => k % FOLDS !== fold).flat());
    made.forEach((song, k) => {
      if (k % FOLDS === fold) scoreAll(crossed, song, k, model);
    });
  }
  crossed.print('Each fifth by what was learned from the others');
}

/** Learns from made songs and writes the model; `judged` = each is judged by a model that did not learn from it, first. */
async function learn(judged: boolean): Promise<void> {
  const made = await songs(LEARNED);
  const prepared = made.map((song, k) => THINNED.map((how) => prepare(thinned(song, how, k))));
  if (judged) judge(made, prepared);
  const rounded = JSON.stringify(train(prepared.flat()), (_key, x: unknown) =>
    typeof x === 'number' ? Math.round(x * 1000) / 1000 : x,
  );
  writeFileSync(
    new URL('../src/core/sections/section-model.ts', import.meta.url),
    `// Written by \`npm run train:sections\`.\nimport type { SectionModel } from './find-sections';\n\nexport const SECTION_MODEL: SectionModel = ${rounded};\n`,
  );
}

if (process.argv.includes('--learn')) await learn(!process.argv.includes('--quick'));
else await bench();
