import type { Lane, TakeRating } from '../session';
import type { LaneChoice } from './put-together';
import { type Phrase, soundsShare, type TakeLevels } from './phrases';

/** A take that can be chosen. */
export interface RatedTake {
  readonly lane: Pick<Lane, 'id' | 'takeNumber' | 'takeRating' | 'takeAside'>;
  readonly levels: TakeLevels;
  /** Frames of the session where it begins and ends. */
  readonly fromFrames: number;
  readonly toFrames: number;
}

const RANKS: Readonly<Record<TakeRating, number>> = { keep: 3, maybe: 2, no: 0 };
const rankOf = ({ lane }: RatedTake): number => (lane.takeRating === null ? 1 : RANKS[lane.takeRating]);
/** A take sounds in a phrase that has so much of what the fullest has there. */
const SOUNDS = 0.5;

/** Takes, the best first: as they were rated, then what sounds in more of the song, then the later one. */
export function bestFirst(takes: readonly RatedTake[], phrases: readonly Phrase[]): RatedTake[] {
  const full = new Map(
    takes.map((t) => [
      t,
      phrases.reduce((sum, p) => sum + soundsShare(t.levels, p) * (p.toSeconds - p.fromSeconds), 0),
    ]),
  );
  // Some breaths more or less make no take fuller.
  const isFuller = (a: RatedTake, b: RatedTake): number => {
    const [x, y] = [full.get(a) as number, full.get(b) as number];
    return Math.abs(x - y) > 0.05 * Math.max(x, y) ? y - x : 0;
  };
  return [...takes].sort(
    (a, b) => rankOf(b) - rankOf(a) || isFuller(a, b) || b.lane.takeNumber - a.lane.takeNumber,
  );
}

/** One whole take through the song, gaps filled from the next best: no phrase is left empty that some take has. Takes put aside, and those rated “no”, only where nothing else sounds. */
export function roughPass(
  takes: readonly RatedTake[],
  phrases: readonly Phrase[],
  sampleRateHz: number,
): LaneChoice[] {
  const ranked = bestFirst(takes, phrases).sort((a, b) => last(a) - last(b));
  return phrases.flatMap((phrase) => {
    const fromFrames = Math.round(phrase.fromSeconds * sampleRateHz);
    const toFrames = Math.round(phrase.toSeconds * sampleRateHz);
    const shares = new Map(ranked.map((t) => [t, soundsShare(t.levels, phrase)]));
    const least = SOUNDS * Math.max(...shares.values());
    const fits = ranked.filter((t) => (shares.get(t) as number) >= least && t.toFrames > fromFrames);
    return filled(fits.length > 0 ? fits : ranked, fromFrames, toFrames);
  });
}

const last = ({ lane }: RatedTake): number => Number(lane.takeAside || lane.takeRating === 'no');

/** A stretch given to the first take that reaches into it, what that leaves to the next. */
function filled(takes: readonly RatedTake[], fromFrames: number, toFrames: number): LaneChoice[] {
  const [take, ...others] = takes;
  if (!take || toFrames <= fromFrames) return [];
  const [from, to] = [Math.max(fromFrames, take.fromFrames), Math.min(toFrames, take.toFrames)];
  if (to <= from) return filled(others, fromFrames, toFrames);
  return [
    ...filled(others, fromFrames, from),
    { laneId: take.lane.id, fromFrames: from, toFrames: to },
    ...filled(others, to, toFrames),
  ];
}
