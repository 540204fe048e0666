import { sharedGainDb } from '../matching';
import { beginOf } from '../arrange';
import {
  type Bus,
  isFolder,
  isTrack,
  isEntire,
  lanesOf,
  NOWHERE,
  pathOf,
  type SessionState,
  type Track,
  tracksInOrder,
} from '../session';
import { cutLane, keptStretches, silencedStretches } from '../tidy';
import { roundTo } from '../units';

/** Names in a row, the first few of many. */
const MOST_NAMED = 12;

/** A few names, and how many more there are. */
export const named = (names: readonly string[]): string =>
  names.length <= MOST_NAMED
    ? names.join(', ')
    : `${names.slice(0, MOST_NAMED).join(', ')} and ${names.length - MOST_NAMED} more`;

export const many = (n: number, one: string, more: string): string => `${n} ${n === 1 ? one : more}`;

/**
 * What is different from what was received, in words; what was done and undone is not among it. Tracks are compared by
 * id with the session as received: what a later recording took over, or what was made here, counts as that.
 */
export function whatWasDone(
  received: SessionState,
  session: SessionState,
  recordingFrames: RecordingFrames,
): string[] {
  const lines: string[] = [];
  const tracks = tracksInOrder(session);
  const before = (t: Track): Track | undefined => {
    const node = received.nodes[t.id];
    return isTrack(node) ? node : undefined;
  };
  const changed = (is: (now: Track, then: Track) => boolean): Track[] =>
    tracks.filter((t) => {
      const then = before(t);
      return then !== undefined && is(t, then);
    });
  const say = (found: readonly Track[], text: (names: string) => string): void => {
    if (found.length > 0) lines.push(text(named(found.map((t) => t.name))));
  };
  const renamed = changed((t, then) => t.name !== then.name);
  if (renamed.length > 0)
    lines.push(`${many(renamed.length, 'track was', 'tracks were')} renamed; the received names stand below`);
  const folders = Object.values(session.nodes).filter(isFolder).length;
  const inFolders = tracks.filter((t) => pathOf(session, t.id).length > 0).length;
  if (inFolders > 0)
    lines.push(
      `${inFolders} of ${many(tracks.length, 'track', 'tracks')} ${inFolders === 1 ? 'lies' : 'lie'} in ${many(folders, 'folder', 'folders')}`,
    );
  const routed = tracks.filter((t) => t.busId !== null && t.busId !== NOWHERE).length;
  if (routed > 0)
    lines.push(
      `${routed} of ${many(tracks.length, 'track', 'tracks')} ${routed === 1 ? 'goes' : 'go'} through ${many(session.busOrder.length, 'bus', 'buses')}, empty of processing`,
    );
  say(
    changed((t, then) => lanesOf(t).every((lane) => lane.recordingId !== then.recordingId)),
    (n) => `Later recordings took the place of earlier ones: ${n}`,
  );
  say(
    tracks.filter((t) => t.inverted),
    (n) => `Polarity was inverted: ${n}`,
  );
  for (const side of ['left', 'right'] as const)
    say(
      tracks.filter((t) => t.monoFrom === side),
      (n) => `Only the ${side} side of a stereo file was taken: ${n}`,
    );
  const packed = tracks.filter((t) => t.otherLanes.length > 0).map(takesOf);
  if (packed.length > 0) lines.push(`Takes of one part on one track, of which these sound: ${named(packed)}`);
  const rate = session.sampleRateHz ?? 48_000;
  lines.push(...pieceLines(tracks, recordingFrames, rate));
  say(tracks.filter(isSilenced), (n) => `Nothing that was recorded is left in: ${n}`);
  for (const t of changed((now, then) => now.startFrames !== then.startFrames))
    lines.push(
      `${t.name} was moved by ${roundTo(((t.startFrames - (before(t)?.startFrames ?? 0)) / rate) * 1000, 3)} ms`,
    );
  say(
    changed((t, then) => t.gainDb !== then.gainDb || t.pan !== then.pan || t.muted !== then.muted),
    (n) => `Levels, pans or mutes are suggested: ${n}`,
  );
  const setBuses = session.busOrder.flatMap((id) => busSetting(session.buses[id]) ?? []);
  if (setBuses.length > 0) lines.push(`Levels, pans or mutes of buses are suggested: ${setBuses.join('; ')}`);
  if (session.groups.length > 0) lines.push(`Groups: ${named(session.groups.map((g) => g.name))}`);
  if (session.markers.length > 0) lines.push(`Markers: ${named(session.markers.map((m) => m.name))}`);
  return lines;
}

/** Which takes of a track sound: `Lead Vocal take 7, out of 4`. */
function takesOf(track: Track): string {
  const sounding = new Set(track.clips.filter((c) => !c.off).map((c) => c.laneId));
  const lanes = lanesOf(track);
  const numbers = lanes.filter((l) => sounding.has(l.id)).map((l) => l.takeNumber);
  const said = numbers.length === 0 ? 'none' : numbers.sort((a, b) => a - b).join(' and ');
  return `${track.name} take ${said}, out of ${lanes.length}`;
}

/** What a bus is set to, with its figures: no list of the package has them; null where it leaves everything as it comes. */
function busSetting(bus: Bus | undefined): string | null {
  if (!bus) return null;
  const level = bus.gainDb === 0 ? [] : [`${roundTo(bus.gainDb, 2)} dB`];
  const pan = bus.pan === 0 ? [] : [`pan ${roundTo(bus.pan, 2)}`];
  const said = [...level, ...pan, ...(bus.muted ? ['muted'] : [])];
  return said.length === 0 ? null : `${bus.name} ${said.join(', ')}`;
}

/** What was done to the pieces of tracks. */
function pieceLines(tracks: readonly Track[], recordingFrames: RecordingFrames, rate: number): string[] {
  const cleaned = (t: Track): string | null => takenOut(t, recordingFrames, rate);
  const silenced = (t: Track): string | null => silencedIn(t, recordingFrames, rate);
  const isPieceByPiece = (t: Track): boolean =>
    isPieced(t) && (!isPlainlyCut(t) || (cleaned(t) ?? silenced(t)) === null);
  const lines: readonly (readonly [text: string, found: readonly string[]])[] = [
    [
      'Silence, noise or spill was taken out, what stays is in its place',
      tracks.flatMap((t) => cleaned(t) ?? []),
    ],
    [
      'Silent here, though it was recorded and is kept in the session',
      tracks.flatMap((t) => silenced(t) ?? []),
    ],
    [
      'Cut, moved inside, faded or set in level piece by piece',
      tracks.filter(isPieceByPiece).map((t) => t.name),
    ],
    [
      'Written at another level than received',
      tracks.filter(isLevelled).map((t) => `${t.name} ${signedDb(sharedGainDb(t))} dB`),
    ],
  ];
  return lines.flatMap(([text, found]) => (found.length > 0 ? [`${text}: ${named(found)}`] : []));
}

/** Lengths of recordings by id, frames at the session's rate. */
export type RecordingFrames = Readonly<Record<string, number>>;

/** Whether pieces of one recording stand where they were recorded, all at one level. */
const isPlainlyCut = (t: Track): boolean =>
  cutLane(t) !== null && t.clips.every((c) => c.gainDb === t.clips[0]?.gainDb);

const signedDb = (db: number): string => `${db < 0 ? '−' : '+'}${roundTo(Math.abs(db), 1)}`;

/** What was taken out of a track, in words; null = nothing, or it is arranged otherwise. */
function takenOut(t: Track, recordingFrames: RecordingFrames, rateHz: number): string | null {
  const lane = cutLane(t);
  const lengthFrames = lane && recordingFrames[lane.recordingId];
  if (!lane || lengthFrames === undefined || lengthFrames === null) return null;
  let [at, gone, places] = [lane.startFrames, 0, 0];
  const end = at + lengthFrames;
  const there = [...keptStretches(t, lane, lengthFrames), ...silencedStretches(t, lane, lengthFrames)];
  for (const { fromFrames, toFrames } of [
    ...there.sort((a, b) => a.fromFrames - b.fromFrames),
    { fromFrames: end, toFrames: end },
  ]) {
    if (fromFrames > at) {
      gone += fromFrames - at;
      places++;
    }
    at = Math.max(at, toFrames);
  }
  return places === 0
    ? null
    : `${t.name} ${roundTo(gone / rateHz, 1)} s in ${many(places, 'place', 'places')}`;
}

/** One gain over all of a track makes no pieces of it. */
/** What of a track is silenced, in words; null = nothing, or all of it. */
function silencedIn(t: Track, recordingFrames: RecordingFrames, rateHz: number): string | null {
  const lane = cutLane(t);
  const lengthFrames = lane && recordingFrames[lane.recordingId];
  if (!lane || lengthFrames === undefined || lengthFrames === null || isSilenced(t)) return null;
  const silent = silencedStretches(t, lane, lengthFrames);
  const frames = silent.reduce((sum, s) => sum + s.toFrames - s.fromFrames, 0);
  return frames === 0 ? null : `${t.name} ${roundTo(frames / rateHz, 1)} s`;
}

const isPieced = (t: Track): boolean => t.tiedTo === null && !isEntire(t) && beginOf(t) !== null;
const isLevelled = (t: Track): boolean => t.tiedTo === null && sharedGainDb(t) !== 0 && beginOf(t) !== null;
const isSilenced = (t: Track): boolean => t.tiedTo === null && beginOf(t) === null;

/** What of the sound itself is not as it came, in words; empty = nothing. */
export function soundChanges(
  session: SessionState,
  { converted, repitched, joined }: Readonly<Record<'converted' | 'repitched' | 'joined', number>>,
): string[] {
  const tracks = tracksInOrder(session);
  const files = (n: number, one: string, more: string): string[] => (n === 0 ? [] : [many(n, one, more)]);
  return [
    ...files(
      tracks.filter((t) => t.inverted).length,
      'file has its polarity inverted',
      'files have their polarity inverted',
    ),
    ...files(
      tracks.filter((t) => t.monoFrom !== null).length,
      'is one side of a stereo file',
      'are one side of a stereo file',
    ),
    ...files(tracks.filter(isPieced).length, 'is put together of pieces', 'are put together of pieces'),
    ...files(
      tracks.filter(isLevelled).length,
      'is at another level than received',
      'are at another level than received',
    ),
    ...files(tracks.filter(isSilenced).length, 'is silence', 'are silence'),
    ...files(converted, 'was converted to the session’s rate', 'were converted to the session’s rate'),
    ...files(repitched, 'plays at another speed and pitch', 'play at another speed and pitch'),
    ...files(joined, 'was joined of two mono files', 'were joined of two mono files each'),
  ];
}
