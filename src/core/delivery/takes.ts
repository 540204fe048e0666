import { channelsOf, endOf, movedPieces, piecesOf, soundingLanes } from '../arrange';
import { isUncut, type Lane, lanesOf, laneTracks, type Track } from '../session';
import type { HouseStyle } from '../style';
import type { PackageSource, PlannedFile } from './plan';

/** A take of a track from end to end, beside the file of the track. */
export interface PlannedTake extends PlannedFile {
  readonly trackId: string;
  readonly laneId: string;
  readonly takeNumber: number;
}

const isHanded = (track: Track, { takes }: Pick<HouseStyle, 'takes'>): boolean =>
  takes === 'all' && track.otherLanes.length > 0;

/** Lanes whose sound a package holds: those that sound, and where the house style wants all takes those too but the ones put aside. */
export function handedLanes(track: Track, style: Pick<HouseStyle, 'takes'>): readonly Lane[] {
  const sounding = soundingLanes(track);
  if (!isHanded(track, style)) return sounding;
  return lanesOf(track).filter((l) => !l.takeAside || sounding.includes(l));
}

/** Takes of tracks as files of their own, by track and number; those whose sound is not at hand are left out. `files`: those of the tracks, after which they are called. */
export function planTakes(
  tracks: readonly Track[],
  sources: ReadonlyMap<string, PackageSource>,
  style: Pick<HouseStyle, 'takes'>,
  {
    files,
    padFrames,
    base,
  }: { readonly files: readonly PlannedFile[]; readonly padFrames: number; readonly base: string },
): PlannedTake[] {
  const stems = new Map(
    files.map((f) => [f.trackId, f.path.slice(f.path.lastIndexOf('/') + 1).replace(/\.wav$/, '')]),
  );
  return tracks
    .filter((t) => isHanded(t, style))
    .flatMap((track) =>
      laneTracks(track).flatMap((take): PlannedTake[] => {
        const source = sources.get(take.laneId);
        if (!source || take.takeAside) return [];
        const pieces = piecesOf(take, (lane) => ({ sound: lane.id, lengthFrames: source.lengthFrames }));
        return [
          {
            path: `${base}takes/${stems.get(track.id)}_take-${take.takeNumber}.wav`,
            trackId: track.id,
            laneId: take.laneId,
            takeNumber: take.takeNumber,
            name: track.name,
            channels: channelsOf(pieces, () => source.channels),
            startFrames: padFrames + take.startFrames,
            pieces: movedPieces(pieces, padFrames),
            isUncut: isUncut(take),
          },
        ];
      }),
    );
}

/** First frame after all takes that a package would hold; 0 without any. */
export const endOfTakes = (
  tracks: readonly Track[],
  sources: ReadonlyMap<string, PackageSource>,
  style: Pick<HouseStyle, 'takes'>,
): number =>
  planTakes(tracks, sources, style, { files: [], padFrames: 0, base: '' }).reduce(
    (end, take) => Math.max(end, endOf(take.pieces)),
    0,
  );
