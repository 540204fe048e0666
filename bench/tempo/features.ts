import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { homedir } from 'node:os';
import { basename, join } from 'node:path';
import {
  type ClickLikeness,
  encodeOnsets,
  SOUND_MODEL,
  type SoundLikeness,
  heardFacts,
  likenessFromOdds,
  soundOdds,
  type RhythmCurves,
  OnsetAnalysis,
  readOnsets,
  soundFeatures,
} from '../../src/core/analysis';
import { isSoundFileName, readNames } from '../../src/core/naming';
import type { TempoTrack } from '../../src/core/tempo';
import { listenToFile } from '../../src/engine';
import { compose, type Truth } from './compose';
import { GENRES } from './genres';
import { MORE_GENRES } from './more-genres';
import { FONTS, RATE, render } from './render';

/** Where what was heard of made sessions is kept. */
export const TEMPO_CACHE =
  process.env.FERNMOSS_TEMPO_CACHE ??
  join(process.env.XDG_CACHE_HOME ?? join(homedir(), '.cache'), 'fernmoss-tempo');

/** A session as the detection gets it, and what is true of it. */
export interface BenchSession {
  readonly name: string;
  readonly truth: Truth;
  readonly tracks: readonly TempoTrack[];
}

const pad = (n: number): string => String(n).padStart(2, '0');

function named(files: readonly string[], heard: readonly RhythmCurves[]): TempoTrack[] {
  return readNames(files.map((f) => basename(f))).map((name, i) => ({
    id: files[i] as string,
    family: name.family,
    part: name.part,
    curves: heard[i] as RhythmCurves,
  }));
}

/** What was heard, from the cache or by listening. */
async function cached(
  cache: string,
  key: string,
  listen: () => Promise<RhythmCurves>,
): Promise<RhythmCurves> {
  const path = join(cache, createHash('sha256').update(key).digest('hex').slice(0, 24));
  if (existsSync(path)) return readOnsets(readFileSync(path));
  const heard = await listen();
  writeFileSync(path, encodeOnsets(heard));
  return heard;
}

/** From this round on sessions are of the second list of genres. */
const MORE_FROM_ROUND = 4;

/** What a recording of a session is by its sound. */
export interface BySound {
  readonly as: SoundLikeness | null;
  readonly click: ClickLikeness | null;
}

/** A session with nothing but the sound of its recordings. */
export interface OpaqueSession extends BenchSession {
  /** By id of the tracks. */
  readonly bySound: ReadonlyMap<string, BySound>;
}

/** Sessions of our own making on one sound font, with what their recordings sound like; `round` as in {@link ownSessions}. Rendered once into `cache`. */
export async function* heardSessions(
  cache: string,
  round: number,
  font: string,
  only: readonly string[] | null,
): AsyncGenerator<OpaqueSession> {
  mkdirSync(cache, { recursive: true });
  for (const [k, genre] of (round < MORE_FROM_ROUND ? GENRES : MORE_GENRES).entries()) {
    if (only && !only.includes(genre.name)) continue;
    const seed = 100 * round + k + 1;
    const session = compose(genre, seed);
    const list = join(cache, `heard-${genre.name}-${round}-${basename(font)}.json`);
    const key = (file: string): string => `heard ${genre.name} ${seed} ${font} ${file}`;
    if (!existsSync(list)) {
      const facts: Record<
        string,
        { readonly features: number[] | null; readonly click: ClickLikeness | null }
      > = {};
      for (const { file, samples } of render(session, font, seed)) {
        const analysis = new OnsetAnalysis(RATE);
        for (let i = 0; i < samples.length; i += RATE) analysis.push([samples.subarray(i, i + RATE)]);
        const rhythm = analysis.finish();
        await cached(cache, key(file), () => Promise.resolve(rhythm));
        const [sketch, pitch] = [analysis.sketch(), analysis.pitchWidth()];
        const features = soundFeatures(rhythm, sketch, pitch);
        facts[file] = {
          features: features && [...features],
          click: heardFacts(rhythm, sketch, pitch).click,
        };
      }
      writeFileSync(list, JSON.stringify(facts));
    }
    const facts = JSON.parse(readFileSync(list, 'utf8')) as Readonly<
      Record<string, { readonly features: number[] | null; readonly click: ClickLikeness | null }>
    >;
    const files = Object.keys(facts);
    const heard: RhythmCurves[] = [];
    for (const file of files)
      heard.push(await cached(cache, key(file), () => Promise.reject(new Error(`remove ${list}`))));
    yield {
      name: `${pad(k + 1)} ${genre.name}`,
      truth: session.truth,
      tracks: named(files, heard),
      bySound: new Map(
        files.map((f) => {
          const { features, click } = facts[f] as (typeof facts)[string];
          return [f, { as: features && likenessFromOdds(soundOdds(SOUND_MODEL, features)), click }];
        }),
      ),
    };
  }
}

/** The sessions of our own making, one a genre, or those named; `round` gives others of the same genres, from {@link MORE_FROM_ROUND} on of more. Rendered once into `cache`. */
export async function* ownSessions(
  cache: string,
  round: number,
  only: readonly string[] | null,
): AsyncGenerator<BenchSession> {
  mkdirSync(cache, { recursive: true });
  for (const [k, genre] of (round < MORE_FROM_ROUND ? GENRES : MORE_GENRES).entries()) {
    if (only && !only.includes(genre.name)) continue;
    const seed = 100 * round + k + 1;
    const session = compose(genre, seed);
    const list = join(cache, `own-${genre.name}-${round}.json`);
    let files = existsSync(list) ? (JSON.parse(readFileSync(list, 'utf8')) as string[]) : null;
    const key = (file: string): string => `own ${genre.name} ${seed} ${file}`;
    if (!files) {
      const recordings = render(session, FONTS[(k + round) % FONTS.length] as string, seed);
      for (const { file, samples } of recordings) {
        await cached(cache, key(file), async () => {
          const analysis = new OnsetAnalysis(RATE);
          for (let i = 0; i < samples.length; i += RATE) analysis.push([samples.subarray(i, i + RATE)]);
          return analysis.finish();
        });
      }
      files = recordings.map((r) => r.file);
      writeFileSync(list, JSON.stringify(files));
    }
    const heard = [];
    for (const file of files)
      heard.push(
        await cached(cache, key(file), () =>
          Promise.reject(new Error(`${file} is not in ${cache}; remove the folder`)),
        ),
      );
    yield { name: `${pad(k + 1)} ${genre.name}`, truth: session.truth, tracks: named(files, heard) };
  }
}

/** Sessions that lie in folders, each with its `truth.json`. */
export async function* folderSessions(
  root: string,
  cache: string,
  only: readonly string[] | null,
): AsyncGenerator<BenchSession> {
  mkdirSync(cache, { recursive: true });
  for (const folder of readdirSync(root).sort()) {
    const path = join(root, folder, 'truth.json');
    if (!existsSync(path) || (only && !only.some((o) => folder.startsWith(o)))) continue;
    const truth = JSON.parse(readFileSync(path, 'utf8')) as Truth;
    const files = readdirSync(join(root, folder))
      .filter(isSoundFileName)
      .sort()
      .map((f) => join(root, folder, f));
    const heard = [];
    for (const file of files)
      heard.push(
        await cached(cache, `${file} ${statSync(file).size}`, async () => {
          const listening = await listenToFile(file, { truePeak: false });
          if (!listening.ok) throw new Error(`${file}: ${listening.error.code}`);
          return listening.value.onsets;
        }),
      );
    yield { name: folder, truth, tracks: named(files, heard) };
  }
}
