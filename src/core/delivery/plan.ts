import { endOf, movedPieces, type Piece, piecesOf, soundingLanes } from '../arrange';
import { framesBefore, leadInBars } from './bar-numbers';
import {
  isTrack,
  isUncut,
  type Marker,
  NOWHERE,
  noteTracks,
  pathOf,
  soundTracks,
  type SessionState,
  type Track,
} from '../session';
import { fileNameFor, type HouseStyle } from '../style';
import {
  type ClickBeat,
  type ClickParts,
  type ClickSound,
  createSongMap,
  pulseLengths,
  type SongMap,
} from '../time';
import { err, ok, type Result } from '../units';
import { endOfTakes, type PlannedTake, planTakes } from './takes';

/** Audio of a lane at the session rate. */
export interface PackageSource {
  readonly laneId: string;
  readonly channels: number;
  readonly lengthFrames: number;
}

/** One sound file of a package. */
export interface PlannedFile {
  /** From the package's root, `/` between. */
  readonly path: string;
  /** Null for the click, which is made. */
  readonly trackId: string | null;
  /** Name in the session. */
  readonly name: string;
  readonly channels: number;
  /** Where the recording that stands for the track begins in the file, frames. */
  readonly startFrames: number;
  /** Its sound: stretches of lanes, by their ids; frames count in the file. Empty for the click. */
  readonly pieces: readonly Piece<string>[];
  /** Whether it is one recording from end to end, at its own level. */
  readonly isUncut: boolean;
}

/** One file of notes. */
export interface PlannedNotes {
  /** From the package's root, `/` between. */
  readonly path: string;
  readonly trackId: string;
  /** Name in the session. */
  readonly name: string;
  readonly tiedTo: 'bars' | 'time';
  /** Where the notes' own zero lies against the common zero, frames; of no meaning for those tied to bars. */
  readonly startFrames: number;
}

/** Samples above full scale by file path: what 24 bits cannot hold, so these files are 32-bit float. */
export type Overs = Readonly<Record<string, number>>;

/** Everything a package will hold, before anything is written. Times count from package time 0 = tick 0 = a bar line. */
export interface PackagePlan {
  readonly folderName: string;
  /** Where in the package its files lie: `data/`, or a folder in it. */
  readonly base: string;
  readonly sampleRateHz: number;
  readonly bitDepth: 24;
  /** Silence put before everything, frames; below 0 so much is cut from the beginning of everything instead. */
  readonly padFrames: number;
  /** Frames of every file. */
  readonly lengthFrames: number;
  /** Whole bars before the first downbeat; 0 without a map. */
  readonly leadInBars: number;
  /** What people call the bar of the first downbeat; in a program where tick 0 is bar 1 it is one more than there are bars before it. */
  readonly firstBarNumber: number;
  readonly files: readonly PlannedFile[];
  /** Takes beside the tracks put together from them, where the house style wants them; they are in no list of tracks. */
  readonly takes: readonly PlannedTake[];
  /** Files of notes; they take no part in the common length. */
  readonly notes: readonly PlannedNotes[];
  /** Quarters before the first downbeat. */
  readonly leadInQuarters: number;
  /** Tempo anchors; empty without a map. */
  readonly anchors: readonly { readonly quarters: number; readonly seconds: number }[];
  readonly meters: readonly {
    readonly quarters: number;
    readonly numerator: number;
    readonly denominator: number;
  }[];
  /** Without a map they have no quarters. */
  readonly markers: readonly {
    readonly quarters: number | null;
    readonly seconds: number;
    readonly text: string;
  }[];
  /** What the click of it strikes, and how that sounds. */
  readonly click: { readonly strokes: readonly ClickBeat[]; readonly sound: ClickSound };
  /** Every pulse to the end, with its downbeats. */
  readonly beats: readonly {
    readonly seconds: number;
    readonly quarters: number;
    readonly bar: number;
    readonly accent: boolean;
  }[];
}

/** All sound files of a package. */
export const soundFiles = ({ files, takes }: PackagePlan): readonly PlannedFile[] => [...files, ...takes];

/** Markers that lie on the bars. */
export const markersInQuarters = ({
  markers,
}: PackagePlan): { readonly quarters: number; readonly text: string }[] =>
  markers.flatMap(({ quarters, text }) => (quarters === null ? [] : [{ quarters, text }]));

/** Where in the package its files go, and the session as worked on (as played): both of its versions begin alike. */
export interface PlanOptions {
  readonly base?: string;
  readonly worked?: SessionState;
}

/** Why nothing can be planned. */
export interface PlanFault {
  readonly code: 'delivery.no_tracks' | 'delivery.not_ready';
  readonly tracks?: readonly string[];
}

/** Where the files of a package lie. */
const MAIN_BASE = 'data/';

/** Where the recordings as played lie in a package that holds the conformed ones first. */
export const PLAYED_BASE = 'data/as-played/';

/** Ticks a quarter of all we write. */
export const PPQ = 960;

/** At most this far from one anchor to the next, so that rounding to whole µs stays below 10 µs. */
const ANCHOR_QUARTERS = 16;

/**
 * Plans a package: common start, names, tempo in package time.
 * Rule: whole lead-in bars at the first bar's tempo precede the first downbeat; at least the style's, more when sound
 * lies before it; the silence is put before all files alike. Nothing is cut, unless the session says from which bar it is handed over.
 */
export function planPackage(
  session: SessionState,
  sources: readonly PackageSource[],
  style: HouseStyle,
  folderName: string,
  { base = MAIN_BASE, worked = session }: PlanOptions = {},
): Result<PackagePlan, PlanFault> {
  const tracks = soundTracks(session);
  const byLane = new Map(sources.map((s) => [s.laneId, s]));
  if (tracks.length === 0) return err({ code: 'delivery.no_tracks' });
  const missing = tracks.filter((t) => soundingLanes(t).some((lane) => !byLane.has(lane.id)));
  if (missing.length > 0 || session.sampleRateHz === null)
    return err({ code: 'delivery.not_ready', tracks: missing.map((t) => t.name) });
  const rate = session.sampleRateHz;
  const map = session.map ? createSongMap(session.map.points, session.map.meters) : null;
  const arranged = tracks.map((track) => arrangedTrack(track, byLane));
  // Takes are handed over as they were played.
  const takes = session === worked ? style.takes : 'none';
  const end = Math.max(...arranged.map((a) => a.end), endOfTakes(tracks, byLane, { takes }));
  const time = map
    ? packageTime(map, rate, leadInBars(worked, style), session.cutBars !== null)
    : { padFrames: framesBefore(session), leadInBars: 0 };
  const lengthFrames = time.padFrames + end;
  if (lengthFrames <= 0) {
    const whole = { ...session, cutBars: null };
    const wholeWorked = session === worked ? whole : { ...worked, cutBars: null };
    return planPackage(whole, sources, style, folderName, { base, worked: wholeWorked });
  }
  const planned = planFiles(session, arranged, style, {
    padFrames: time.padFrames,
    click: map === null ? null : time.leadInBars > 0 ? COUNTED_CLICK : PLAIN_CLICK,
    base,
  });
  return ok({
    folderName,
    base,
    sampleRateHz: rate,
    bitDepth: 24,
    padFrames: time.padFrames,
    lengthFrames,
    leadInBars: time.leadInBars,
    firstBarNumber: worked.map?.meters[0]?.number ?? time.leadInBars + 1,
    leadInQuarters: map ? leadQuarters(map, time.leadInBars) : 0,
    ...planned,
    takes: planTakes(tracks, byLane, { takes }, { files: planned.files, padFrames: time.padFrames, base }),
    ...(map
      ? planTime(map, time, rate, lengthFrames, session.markers, style.click)
      : {
          click: { strokes: [], sound: style.click.sound },
          anchors: [],
          meters: [],
          markers: session.markers.map((m) => ({
            quarters: null,
            seconds: Math.max(0, m.seconds + time.padFrames / rate),
            text: m.name,
          })),
          beats: [],
        }),
  });
}

function packageTime(
  map: SongMap,
  rate: number,
  leadIn: number,
  isCut: boolean,
): { padFrames: number; leadInBars: number } {
  const firstDownbeat = map.tempo.toSeconds(0);
  const bar = map.tempo.toSeconds(map.meters.barToQuarters(2)) - firstDownbeat;
  const padFrames = Math.round((leadIn * bar - firstDownbeat) * rate);
  return { padFrames: isCut ? padFrames : Math.max(0, padFrames), leadInBars: leadIn };
}

function leadQuarters(map: SongMap, bars: number): number {
  const { numerator, denominator } = map.meters.meterAt(1);
  return (bars * numerator * 4) / denominator;
}

function planTime(
  map: SongMap,
  time: { padFrames: number; leadInBars: number },
  rate: number,
  lengthFrames: number,
  named: readonly Marker[],
  click: HouseStyle['click'],
): Pick<PackagePlan, 'anchors' | 'meters' | 'markers' | 'beats' | 'click'> {
  const { tempo, meters } = map;
  const first = meters.meterAt(1);
  const lead = leadQuarters(map, time.leadInBars);
  const pad = time.padFrames / rate;
  const lengthSeconds = lengthFrames / rate;
  const secondsOf = (q: number): number => tempo.toSeconds(q) + pad;
  const lastQuarter = Math.max(1, Math.ceil(tempo.toQuarters(lengthSeconds - pad)));
  const own = tempo.corners().filter((q) => q > 0 && q < lastQuarter);
  const places = [0, ...own, lastQuarter];
  const dense = places.flatMap((q, i) => {
    const next = places[i + 1];
    if (next === undefined) return [q];
    const steps = Math.max(1, Math.ceil((next - q) / ANCHOR_QUARTERS));
    return Array.from({ length: steps }, (_, k) => Math.round((q + ((next - q) * k) / steps) * PPQ) / PPQ);
  });
  const unique = [...new Set(dense)].sort((a, b) => a - b);
  const anchors = [
    { quarters: 0, seconds: 0 },
    ...unique.map((q) => ({ quarters: q + lead, seconds: secondsOf(q) })),
  ].filter((a, i) => i === 0 || a.quarters > 0);
  const beats: { seconds: number; quarters: number; bar: number; accent: boolean }[] = [];
  const quarterSeconds = secondsOf(0) / Math.max(1, lead);
  for (let q = 0, bar = 1; q < lead - 1e-9; bar++)
    pulseLengths(first).forEach((length, i) => {
      if (q < lead - 1e-9) beats.push({ seconds: q * quarterSeconds, quarters: q, bar, accent: i === 0 });
      q += length;
    });
  for (let bar = 1; ; bar++) {
    const from = meters.barToQuarters(bar);
    if (secondsOf(from) >= lengthSeconds || bar > 20_000) break;
    for (const q of meters.pulsesIn(bar))
      if (secondsOf(q) < lengthSeconds)
        beats.push({
          seconds: secondsOf(q),
          quarters: q + lead,
          bar: bar + time.leadInBars,
          accent: q === from,
        });
  }
  // Before the first downbeat the lead-in's own tempo holds.
  const placeOf = (seconds: number): number =>
    Math.max(
      0,
      Math.round(
        (seconds < secondsOf(0) ? seconds / quarterSeconds : tempo.toQuarters(seconds - pad) + lead) * PPQ,
      ) / PPQ,
    );
  return {
    anchors,
    meters: [
      { quarters: 0, numerator: first.numerator, denominator: first.denominator },
      ...meters.meters.slice(1).map((m) => ({
        quarters: meters.barToQuarters(m.bar) + lead,
        numerator: m.numerator,
        denominator: m.denominator,
      })),
    ],
    markers: [
      { quarters: lead, seconds: secondsOf(0), text: 'First downbeat' },
      ...named.map(({ name, seconds }) => ({
        quarters: placeOf(seconds + pad),
        seconds: Math.max(0, seconds + pad),
        text: name,
      })),
    ].sort((a, b) => a.quarters - b.quarters),
    beats,
    click: {
      sound: click.sound,
      strokes: dividedBeats(
        beats,
        click.parts,
        (q) => (q < lead ? q * quarterSeconds : secondsOf(q - lead)),
        lengthSeconds,
      ),
    },
  };
}

/** Strokes of a click on beats, and on parts of the way from each to the next. */
function dividedBeats(
  beats: PackagePlan['beats'],
  parts: ClickParts,
  secondsOf: (quarters: number) => number,
  endSeconds: number,
): ClickBeat[] {
  return beats.flatMap(({ seconds, quarters, accent }, i) => {
    const gap = (beats[i + 1]?.quarters ?? 2 * quarters - (beats[i - 1]?.quarters ?? quarters)) - quarters;
    return Array.from({ length: parts }, (_, k): ClickBeat =>
      k === 0
        ? { seconds, stroke: accent ? 'accent' : 'pulse' }
        : { seconds: secondsOf(quarters + (k * gap) / parts), stroke: 'part' },
    ).filter((s) => s.seconds < endSeconds);
  });
}

/** Gives out names, each once. */
function uniqueNames(): (stem: string) => string {
  const taken = new Set<string>();
  return (stem) => {
    let name = stem;
    // Names differing in case only are one file on some systems.
    for (let n = 2; taken.has(name.toLowerCase()); n++) name = `${stem}_${n}`;
    taken.add(name.toLowerCase());
    return name;
  };
}

const COUNTED_CLICK = { file: 'Click_with-count-in.wav', name: 'Click with count-in' };
/** Handed over from a bar on without any before it. */
const PLAIN_CLICK = { file: 'Click.wav', name: 'Click' };

interface ArrangedTrack {
  readonly track: Track;
  readonly pieces: readonly Piece<string>[];
  readonly channels: number;
  /** First frame after its sound; where nothing of it sounds, after its recording. */
  readonly end: number;
}

function arrangedTrack(track: Track, sources: ReadonlyMap<string, PackageSource>): ArrangedTrack {
  const pieces = piecesOf(track, (lane) => {
    const source = sources.get(lane.id);
    return source && { sound: lane.id, lengthFrames: source.lengthFrames };
  });
  const lanes = soundingLanes(track).map((lane) => ({ lane, source: sources.get(lane.id) as PackageSource }));
  return {
    track,
    pieces,
    channels: Math.max(...lanes.map((l) => (l.lane.monoFrom === null ? l.source.channels : 1))),
    end:
      pieces.length > 0
        ? endOf(pieces)
        : Math.max(...lanes.map((l) => l.lane.startFrames + l.source.lengthFrames)),
  };
}

function planFiles(
  session: SessionState,
  tracks: readonly ArrangedTrack[],
  style: HouseStyle,
  options: { padFrames: number; click: typeof PLAIN_CLICK | null; base: string },
): Pick<PackagePlan, 'files' | 'notes'> {
  const unique = uniqueNames();
  const digits = Math.max(2, String(tracks.length).length);
  let order = 0;
  const files = tracks.map(({ track: t, pieces, channels }): PlannedFile => {
    const reference = t.family === 'reference' || t.family === 'click';
    const stem = fileNameFor(style, t);
    const name = reference
      ? unique(`${stem}_as-received`)
      : `${String(++order).padStart(digits, '0')}_${unique(stem)}`;
    return {
      path: `${options.base}${reference ? 'reference' : 'audio'}/${name}.wav`,
      trackId: t.id,
      name: t.name,
      channels,
      startFrames: options.padFrames + t.startFrames,
      pieces: movedPieces(pieces, options.padFrames),
      isUncut: isUncut(t),
    };
  });
  if (options.click)
    files.push({
      path: `${options.base}reference/${options.click.file}`,
      trackId: null,
      name: options.click.name,
      channels: 1,
      startFrames: 0,
      pieces: [],
      isUncut: true,
    });
  const uniqueNotes = uniqueNames();
  const notes = noteTracks(session).map((t): PlannedNotes => ({
    path: `${options.base}notes/${uniqueNotes(fileNameFor(style, t))}.mid`,
    trackId: t.id,
    name: t.name,
    tiedTo: t.tiedTo ?? 'time',
    startFrames: t.startFrames,
  }));
  return { files, notes };
}

/** Folder path and bus name of a track, for lists. */
export function routingOf(
  session: SessionState,
  trackId: string,
): { readonly folder: string; readonly bus: string } {
  const track = session.nodes[trackId];
  return {
    folder: pathOf(session, trackId).join(' / '),
    bus:
      isTrack(track) && track.busId !== null
        ? track.busId === NOWHERE
          ? 'nowhere'
          : (session.buses[track.busId]?.name ?? '')
        : '',
  };
}

/** Bytes a package takes on the disk, to within its papers: the sound, and a megabyte for all else. */
export const packageBytes = (plan: PackagePlan): number =>
  soundFiles(plan).reduce((n, f) => n + plan.lengthFrames * f.channels * (plan.bitDepth / 8), 0) + (1 << 20);
