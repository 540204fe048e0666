import {
  createSongMap,
  type MidiNoteTrack,
  type MidiSong,
  type MidiTrackPlan,
  type SongMapFile,
  writeMidi,
} from '../time';
import { markersInQuarters, type PackagePlan, type PlannedNotes, PPQ } from './plan';

/** Where notes of a file lie in a package: its tempo, and the tick of each of their own ticks. */
interface Placement {
  readonly anchors: PackagePlan['anchors'];
  readonly meters: PackagePlan['meters'];
  readonly toTick: (tick: number) => number;
}

/**
 * Notes of a session as a Standard MIDI File with the package's tempo and meters; tick 0 is package time 0.
 * Tied to time they keep their moments, as the file's own tempo has them, from the common zero on; tied to bars they keep their places from the first downbeat on.
 * `played` = the map of what was played: through it moments become bars, whatever tempo the package has. Without a map the file's own tempo stays.
 */
export function notesMidi(
  plan: PackagePlan,
  file: PlannedNotes,
  song: MidiSong,
  track: MidiNoteTrack,
  played: SongMapFile | null,
): Uint8Array {
  const { anchors, meters, toTick } = placement(plan, file, song, track, played);
  const kept = plan.padFrames < 0 ? withoutNotes(track.events, (tick) => toTick(tick) < 0) : track.events;
  const events: MidiTrackPlan['events'] = kept.map((e) => ({ ...e, tick: Math.max(0, toTick(e.tick)) }));
  return writeMidi({
    name: plan.folderName,
    ppq: PPQ,
    anchors,
    meters,
    markers: markersInQuarters(plan),
    tracks: [{ name: file.name, events }],
  });
}

/** How many of a track's notes begin before what is handed over, and are cut with what sounds there. */
export function notesBefore(
  plan: PackagePlan,
  file: PlannedNotes,
  song: MidiSong,
  track: MidiNoteTrack,
  played: SongMapFile | null,
): number {
  const { toTick } = placement(plan, file, song, track, played);
  return plan.padFrames < 0 ? track.notes.filter((n) => toTick(n.tick) < 0).length : 0;
}

const placement = (
  plan: PackagePlan,
  file: PlannedNotes,
  song: MidiSong,
  track: MidiNoteTrack,
  played: SongMapFile | null,
): Placement =>
  played && plan.anchors.length > 1 ? byMap(plan, file, song, played) : byOwnTempo(plan, file, song, track);

/** Events without the notes that begin at some ticks; what else is set there stays. The first note off ends the first note on. */
function withoutNotes(
  events: MidiNoteTrack['events'],
  isCut: (tick: number) => boolean,
): MidiNoteTrack['events'] {
  const open = new Map<number, number>();
  return events.filter(({ tick, status, meta, body }) => {
    const kind = meta === null ? status & 0xf0 : 0;
    if (kind !== 0x80 && kind !== 0x90) return true;
    const key = ((status & 0x0f) << 7) | (body[0] ?? 0);
    if (kind === 0x90 && (body[1] ?? 0) > 0) {
      if (isCut(tick)) open.set(key, (open.get(key) ?? 0) + 1);
      return !isCut(tick);
    }
    const left = open.get(key) ?? 0;
    open.set(key, Math.max(0, left - 1));
    return left === 0;
  });
}

function byMap(plan: PackagePlan, file: PlannedNotes, song: MidiSong, played: SongMapFile): Placement {
  const { tempo } = createSongMap(played.points, played.meters);
  const start = file.startFrames / plan.sampleRateHz;
  const lead = plan.leadInQuarters;
  const downbeat = plan.anchors.find((a) => a.quarters === lead)?.seconds ?? 0;
  const atMoment = (seconds: number): number => {
    const before = tempo.toSeconds(0) - seconds;
    // The bars of the lead-in have a length of their own: what sounds before the first downbeat keeps its distance to it.
    return before > 0
      ? downbeat > 0
        ? ((downbeat - before) * lead) / downbeat
        : -before
      : tempo.toQuarters(seconds) + lead;
  };
  const quarters = (tick: number): number =>
    file.tiedTo === 'bars' && song.ppq !== null
      ? tick / song.ppq + lead
      : atMoment(song.toSeconds(tick) + start);
  return { anchors: plan.anchors, meters: plan.meters, toTick: (tick) => Math.round(quarters(tick) * PPQ) };
}

/** Quarters a second of a file that counts in time: 120 a minute, the standard's default. */
const QUARTERS_PER_SECOND = 2;

function byOwnTempo(plan: PackagePlan, file: PlannedNotes, song: MidiSong, track: MidiNoteTrack): Placement {
  const shift = Math.max(0, (plan.padFrames + file.startFrames) / plan.sampleRateHz);
  const own = (tick: number): number =>
    song.ppq === null ? song.toSeconds(tick) * QUARTERS_PER_SECOND : tick / song.ppq;
  const first = song.ppq === null ? QUARTERS_PER_SECOND : 1 / song.toSeconds(song.ppq);
  const lead = Math.round(shift * first * PPQ) / PPQ;
  const end = Math.max(1, Math.ceil(own(track.events.at(-1)?.tick ?? 0)));
  const changes =
    song.ppq === null
      ? []
      : song.tempos.map((t) => Math.round(own(t.tick) * PPQ) / PPQ).filter((q) => q > 0 && q < end);
  const secondsAt = (q: number): number =>
    song.ppq === null ? q / QUARTERS_PER_SECOND : song.toSeconds(q * song.ppq);
  const places = [...new Set([0, ...changes, end])].map((q) => ({
    quarters: q + lead,
    seconds: secondsAt(q) + shift,
  }));
  const ppq = song.ppq ?? 1;
  const meters = song.meters.map((m) => ({
    quarters: m.tick === 0 ? 0 : Math.round((m.tick / ppq) * PPQ) / PPQ + lead,
    numerator: m.numerator,
    denominator: m.denominator,
  }));
  return {
    anchors: lead > 0 ? [{ quarters: 0, seconds: 0 }, ...places] : places,
    meters,
    toTick: (tick) => Math.round((own(tick) + lead) * PPQ),
  };
}
