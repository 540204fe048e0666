import type { SoundPeaks } from '../arrange';

/** Levels a second. */
export const LEVELS_PER_SECOND = 50;

/** How loud a take is over time. */
export interface TakeLevels {
  /** dB, {@link LEVELS_PER_SECOND}. */
  readonly db: Float32Array;
  /** Where in the session it begins. */
  readonly startSeconds: number;
}

/** Levels of a take by its waveform; `framesPerEntry` at its rate should be a good deal less than a level lasts. */
export function levelsOfPeaks(
  { minMax, framesPerEntry, sampleRateHz }: SoundPeaks,
  startSeconds: number,
): TakeLevels {
  const perEntry = framesPerEntry / sampleRateHz;
  const count = Math.ceil((minMax.length / 2) * perEntry * LEVELS_PER_SECOND);
  const highest = new Float32Array(count);
  for (let k = 0; k < minMax.length / 2; k++) {
    const at = Math.min(count - 1, Math.floor(k * perEntry * LEVELS_PER_SECOND));
    const size = Math.max(-(minMax[2 * k] as number), minMax[2 * k + 1] as number) / 32_767;
    highest[at] = Math.max(highest[at] as number, size);
  }
  // Where entries are wider than levels the one before goes on.
  return {
    db: highest.map(
      (x, n) =>
        20 * Math.log10(Math.max(x, perEntry * LEVELS_PER_SECOND > 1 ? (highest[n - 1] ?? 0) : 0, 1e-6)),
    ),
    startSeconds,
  };
}

/** A stretch of the song that is put together as one. Those of a track follow each other without a gap. */
export interface Phrase {
  readonly fromSeconds: number;
  readonly toSeconds: number;
  /** Whether its end lies where all takes rest. */
  readonly isRestAtEnd: boolean;
}

/** Quieter than this below its loudest a take rests, and so it does below this, dB. */
const [REST_DB, LEAST_DB] = [30, -66];
/** Shorter rests part no phrases; shorter sounds are none; s. */
const [LEAST_REST, LEAST_SOUND] = [0.24, 0.12];
/** What is longer is parted where it dips, if by so many dB; no part is shorter; s. */
const [LONGEST, LEAST_DIP_DB, LEAST_PART] = [10, 6, 2];
/** Left of a rest before the sound behind it, for its breath and onset, s. */
const ONSET_SECONDS = 0.08;
/** Around a dip the level is that of so many seconds. */
const DIP_SPAN = 1;

/** Level of each take against its own loudest, the highest of all takes, from 0 s on; −Infinity = none sounds. */
function togetherLevels(takes: readonly TakeLevels[]): Float32Array {
  const ends = takes.map((t) => Math.round(t.startSeconds * LEVELS_PER_SECOND) + t.db.length);
  const out = new Float32Array(Math.max(0, ...ends)).fill(-Infinity);
  for (const { db, startSeconds } of takes) {
    const loudest = db.reduce((m, x) => Math.max(m, x), -Infinity);
    const start = Math.round(startSeconds * LEVELS_PER_SECOND);
    db.forEach((x, n) => {
      const at = start + n;
      const level = x > LEAST_DB ? x - loudest : -Infinity;
      if (at >= 0 && level > (out[at] as number)) out[at] = level;
    });
  }
  return out;
}

/** Runs of values that fit, as index ranges. */
function runsOf(values: Float32Array, fits: (x: number) => boolean): [number, number][] {
  const runs: [number, number][] = [];
  let begin = -1;
  for (let n = 0; n <= values.length; n++) {
    const isIn = n < values.length && fits(values[n] as number);
    if (isIn && begin < 0) begin = n;
    if (!isIn && begin >= 0) {
      runs.push([begin, n]);
      begin = -1;
    }
  }
  return runs;
}

const frames = (seconds: number): number => Math.round(seconds * LEVELS_PER_SECOND);

/** Phrases of a part by all its takes: they meet where all rest, or in long runs where they are quietest between words. Empty where nothing sounds. */
export function phrasesOf(takes: readonly TakeLevels[]): Phrase[] {
  const levels = togetherLevels(takes);
  const sounds = runsOf(levels, (x) => x > -REST_DB)
    .reduce<[number, number][]>((merged, run) => {
      const last = merged.at(-1);
      if (last && run[0] - last[1] < frames(LEAST_REST)) last[1] = run[1];
      else merged.push([...run]);
      return merged;
    }, [])
    .filter(([from, to]) => to - from >= frames(LEAST_SOUND));
  const [first, last] = [sounds[0], sounds.at(-1)];
  if (!first || !last) return [];
  const begins = takes.map((t) => frames(t.startSeconds));
  const edges: { readonly at: number; readonly isRest: boolean }[] = [];
  sounds.forEach(([from, to], i) => {
    edges.push(...dipsIn(levels, from, to).map((at) => ({ at, isRest: false })));
    const next = sounds[i + 1];
    if (next) edges.push({ at: quietestIn(levels, to, next[0]), isRest: true });
  });
  const all = [...edges, { at: levels.length, isRest: true }];
  let from = Math.max(0, Math.min(...begins));
  return all.map(({ at, isRest }) => {
    const phrase = {
      fromSeconds: from / LEVELS_PER_SECOND,
      toSeconds: at / LEVELS_PER_SECOND,
      isRestAtEnd: isRest,
    };
    from = at;
    return phrase;
  });
}

/** Where in a rest one take goes over to another: where it is quietest, rather late than early, but before the onset. */
function quietestIn(levels: Float32Array, from: number, to: number): number {
  const end = Math.max(from + 1, to - frames(ONSET_SECONDS));
  let best = { at: from, level: Infinity };
  for (let n = from; n < end; n++) {
    const level = Math.max(levels[n] as number, levels[Math.max(from, n - 1)] as number);
    if (level <= best.level) best = { at: n, level };
  }
  return best.at;
}

/** Where a long run dips between words, so that no part is longer than need be. */
function dipsIn(levels: Float32Array, from: number, to: number): number[] {
  if (to - from <= frames(LONGEST)) return [];
  const around = frames(DIP_SPAN);
  let best: { at: number; depth: number } | null = null;
  for (let n = from + frames(LEAST_PART); n < to - frames(LEAST_PART); n++) {
    const depth = loudestIn(levels, n - around, n + around) - (levels[n] as number);
    // Of equals the one nearer to the middle: parts are alike in length.
    const middle = Math.abs(n - (from + to) / 2) / (to - from);
    const worth = Math.min(depth, REST_DB) - 6 * middle;
    if (depth >= LEAST_DIP_DB && (best === null || worth > best.depth)) best = { at: n, depth: worth };
  }
  return best ? [...dipsIn(levels, from, best.at), best.at, ...dipsIn(levels, best.at, to)] : [];
}

function loudestIn(levels: Float32Array, from: number, to: number): number {
  let most = -Infinity;
  for (let n = Math.max(0, from); n < Math.min(levels.length, to); n++)
    most = Math.max(most, levels[n] as number);
  return most;
}

/** Share of a stretch of time in which a take sounds, 0–1. */
export function soundsShare(
  { db, startSeconds }: TakeLevels,
  { fromSeconds, toSeconds }: Pick<Phrase, 'fromSeconds' | 'toSeconds'>,
): number {
  const loudest = db.reduce((m, x) => Math.max(m, x), -Infinity);
  const least = Math.max(LEAST_DB, loudest - REST_DB);
  const [from, to] = [frames(fromSeconds - startSeconds), frames(toSeconds - startSeconds)];
  let count = 0;
  for (let n = Math.max(0, from); n < Math.min(db.length, to); n++) if ((db[n] as number) > least) count++;
  return to > from ? count / (to - from) : 0;
}

/** Phrases whose edges are those of stretches given by hand (sections): each put to the rest, or the dip, nearest to it within `reachSeconds`. */
export function phrasesAlong(
  phrases: readonly Phrase[],
  places: readonly number[],
  reachSeconds: number,
): Phrase[] {
  const [first, last] = [phrases[0], phrases.at(-1)];
  if (!first || !last) return [];
  const near = (at: number): { readonly at: number; readonly isRest: boolean } => {
    const found = phrases
      .slice(0, -1)
      .map((p) => ({ at: p.toSeconds, isRest: p.isRestAtEnd }))
      .filter((e) => Math.abs(e.at - at) <= reachSeconds)
      .sort((a, b) => Math.abs(a.at - at) - Math.abs(b.at - at))[0];
    return found ?? { at, isRest: false };
  };
  const edges = places
    .map(near)
    .filter((e) => e.at > first.fromSeconds && e.at < last.toSeconds)
    .sort((a, b) => a.at - b.at)
    .filter((e, i, list) => e.at !== list[i - 1]?.at);
  let from = first.fromSeconds;
  return [...edges, { at: last.toSeconds, isRest: true }].map(({ at, isRest }) => {
    const phrase = { fromSeconds: from, toSeconds: at, isRestAtEnd: isRest };
    from = at;
    return phrase;
  });
}
