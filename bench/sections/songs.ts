import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { homedir } from 'node:os';
import { basename, join } from 'node:path';
import { gunzipSync, gzipSync } from 'node:zlib';
import { OnsetAnalysis, type SoundSketch } from '../../src/core/analysis';
import { isSoundFileName, readNames } from '../../src/core/naming';
import type { SectionTrack } from '../../src/core/sections';
import { listenToFile } from '../../src/engine';
import { RATE, render } from '../tempo/render';
import { composeSong, type SongTruth } from './compose-song';

/** Where what was heard of songs is kept. */
export const SECTIONS_CACHE =
  process.env.FERNMOSS_SECTIONS_CACHE ??
  join(process.env.XDG_CACHE_HOME ?? join(homedir(), '.cache'), 'fernmoss-sections');

/** Fonts of Debian's packages that load fast, taken in turn. */
const FONTS = ['/usr/share/sounds/sf2/FluidR3_GM.sf2', '/usr/share/sounds/sf2/TimGM6mb.sf2'];

/** A song as the detection gets it, and what is true of it. */
export interface BenchSong {
  readonly truth: SongTruth;
  readonly tracks: readonly SectionTrack[];
}
interface KeptTrack {
  readonly file: string;
  readonly levels: string;
  readonly chroma: string;
}
interface Heard {
  readonly sketch: SoundSketch;
  readonly chroma: Float32Array;
}

const packed = (bytes: Uint8Array): string => Buffer.from(bytes).toString('base64');
const bytesOf = (x: Float32Array): Uint8Array => new Uint8Array(x.buffer, x.byteOffset, x.byteLength);

/** What was heard of the files of a song, from the cache or by listening. */
async function heardSong(
  path: string,
  listen: () => Promise<{ readonly truth: SongTruth; readonly heard: readonly (Heard & { file: string })[] }>,
): Promise<BenchSong> {
  if (!existsSync(path)) {
    const { truth, heard } = await listen();
    const tracks: KeptTrack[] = heard.map((h) => ({
      file: h.file,
      levels: packed(h.sketch.levels),
      chroma: packed(bytesOf(h.chroma)),
    }));
    writeFileSync(path, gzipSync(JSON.stringify({ truth, tracks })));
  }
  const kept = JSON.parse(gunzipSync(readFileSync(path)).toString()) as {
    readonly truth: SongTruth;
    readonly tracks: readonly KeptTrack[];
  };
  const names = readNames(kept.tracks.map((t) => basename(t.file)));
  return {
    truth: kept.truth,
    tracks: kept.tracks.flatMap((t, i): SectionTrack[] => {
      const levels = new Uint8Array(Buffer.from(t.levels, 'base64'));
      const chroma = new Float32Array(Uint8Array.from(Buffer.from(t.chroma, 'base64')).buffer);
      const name = names[i];
      if (!name || ['reference', 'click'].includes(name.family)) return [];
      return [
        {
          family: name.family,
          part: name.part,
          pieces: [{ sketch: { frames: levels.length / 24, levels }, chroma, atSeconds: 0 }],
        },
      ];
    }),
  };
}

/** A song of our own making; rendered once. */
export async function madeSong(seed: number, hard: boolean): Promise<BenchSong> {
  mkdirSync(SECTIONS_CACHE, { recursive: true });
  const song = composeSong(seed, hard);
  return heardSong(join(SECTIONS_CACHE, `${song.name}.json.gz`), () => {
    const font = FONTS[Math.floor(seed / 2) % FONTS.length] as string;
    const files = render({ ...song, click: null, genre: { mics: song.mics } }, font, seed);
    const heard = files.map(({ file, samples }) => {
      const analysis = new OnsetAnalysis(RATE);
      for (let i = 0; i < samples.length; i += RATE) analysis.push([samples.subarray(i, i + RATE)]);
      return { file, sketch: analysis.sketch(), chroma: analysis.finish().chroma };
    });
    return Promise.resolve({ truth: song.truth, heard });
  });
}

/** Sessions that lie in folders, each with its `truth.json` of sections and downbeats. */
export async function* folderSongs(root: string): AsyncGenerator<BenchSong> {
  mkdirSync(SECTIONS_CACHE, { recursive: true });
  for (const folder of readdirSync(root).sort()) {
    const truthPath = join(root, folder, 'truth.json');
    if (!existsSync(truthPath)) continue;
    yield await heardSong(join(SECTIONS_CACHE, `folder-${folder}.json.gz`), async () => {
      const files = readdirSync(join(root, folder)).filter(isSoundFileName).sort();
      const heard = [];
      for (const file of files) {
        const listening = await listenToFile(join(root, folder, file), { truePeak: false });
        if (!listening.ok) continue;
        heard.push({ file, sketch: listening.value.sketch, chroma: listening.value.onsets.chroma });
      }
      return {
        truth: folderTruth(folder, JSON.parse(readFileSync(truthPath, 'utf8')) as FolderTruth),
        heard,
      };
    });
  }
}

interface FolderTruth {
  readonly downbeats: readonly number[];
  readonly sections: readonly { readonly name: string; readonly time: number }[];
}

/** Sections by bars; the held end is none. */
function folderTruth(name: string, { downbeats, sections }: FolderTruth): SongTruth {
  const nearest = (time: number): number =>
    downbeats.reduce(
      (best, t, i) => (Math.abs(t - time) < Math.abs((downbeats[best] as number) - time) ? i : best),
      0,
    );
  const last = downbeats.at(-1) as number;
  return {
    name,
    hard: false,
    bars: [...downbeats, 2 * last - (downbeats.at(-2) as number)],
    sections: sections.flatMap((s, i) =>
      s.name === 'end'
        ? []
        : [
            {
              kind: s.name,
              fromBar: nearest(s.time),
              toBar: nearest(sections[i + 1]?.time ?? last),
            },
          ],
    ),
  };
}
