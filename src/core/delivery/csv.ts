import { isTrack, levelDb, type SessionState, type Track } from '../session';
import { roundTo } from '../units';
import { type Overs, routingOf, type PackagePlan } from './plan';

/** RFC 4180: quoted where needed; cells that a spreadsheet would run as a formula are defused with an apostrophe. */
function cell(value: string | number | boolean): string {
  const text = typeof value === 'string' && /^[=+\-@\t\r]/.test(value) ? `'${value}` : String(value);
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}

/** Cells of a table as {@link cell} writes them, row by row; the apostrophe before a formula is taken away again. */
export function parseTable(text: string): string[][] {
  const rows: string[][] = [];
  const pattern = /("(?:[^"]|"")*"|[^",\r\n]*)(,|\r\n|\n|$)/y;
  let row: string[] = [];
  while (pattern.lastIndex < text.length) {
    const match = pattern.exec(text);
    if (!match) break;
    const [, raw = '', end] = match;
    const plain = raw.startsWith('"') ? raw.slice(1, -1).replaceAll('""', '"') : raw;
    row.push(/^'[=+\-@\t\r]/.test(plain) ? plain.slice(1) : plain);
    if (end === ',') continue;
    rows.push(row);
    row = [];
  }
  return rows;
}

const table = (rows: readonly (readonly (string | number | boolean)[])[]): string =>
  rows.map((r) => `${r.map(cell).join(',')}\r\n`).join('');

/** Where a track sends besides its bus, in words. */
const sendsText = (session: SessionState, { sends }: Track): string =>
  sends
    .map(
      (s) =>
        `${session.buses[s.busId]?.name ?? ''} ${s.gainDb} dB ${s.before ? 'before' : 'after'} the level${s.pan === null ? '' : `, pan ${s.pan}`}`,
    )
    .join('; ');

/** How a recording came. */
export interface ReceivedFile {
  /** The file as it was sent. */
  readonly file: string;
  /** Which of its channels, from 1; null = all of it. */
  readonly channel: number | null;
  /** Its own time stamp, s from midnight; null = none. */
  readonly stampSeconds: number | null;
}

/** What the track list says beside the plan. */
export interface TracksCsvFacts {
  readonly overs?: Overs;
  /** By track. */
  readonly received?: Readonly<Record<string, ReceivedFile>>;
}

/** The track list: order, name, file, source, routing, colour, level, pan, mute, channels, offset and polarity against what was received, the side a mono file was made from, the channel of the file as it came, its time stamp, and of how many pieces it is put together where it is not one recording from end to end. Files of notes stand last, with no channels. */
export function tracksCsv(
  plan: PackagePlan,
  session: SessionState,
  { overs = {}, received = {} }: TracksCsvFacts = {},
): string {
  const head = [
    'order',
    'name',
    'file',
    'sourceFile',
    'folder',
    'bus',
    'family',
    'colour',
    'gainDb',
    'pan',
    'mute',
    'sends',
    'channels',
    'offsetFrames',
    'offsetSeconds',
    'polarity',
    'monoFrom',
    'bitDepth',
    'samplesAboveFullScale',
    'sourceChannel',
    'receivedTimeStampSeconds',
    'pieces',
  ];
  const rows = plan.files.flatMap((file, i) => {
    const track = file.trackId === null ? undefined : session.nodes[file.trackId];
    if (!isTrack(track)) return [];
    const { folder, bus } = routingOf(session, track.id);
    const came = received[track.id];
    return [
      [
        i + 1,
        track.name,
        file.path,
        came?.file ?? track.receivedName,
        folder,
        bus,
        track.family,
        track.color ?? '',
        levelDb(session, track),
        track.pan,
        track.muted,
        sendsText(session, track),
        file.channels,
        file.startFrames,
        roundTo(file.startFrames / plan.sampleRateHz, 9),
        track.inverted ? 'inverted' : 'as received',
        track.monoFrom ?? '',
        overs[file.path] === undefined ? plan.bitDepth : '32 float',
        overs[file.path] ?? 0,
        came?.channel ?? '',
        came?.stampSeconds == null ? '' : roundTo(came.stampSeconds, 6),
        file.isUncut ? '' : file.pieces.length,
      ],
    ];
  });
  const notes = plan.notes.flatMap((file, i) => {
    const track = session.nodes[file.trackId];
    if (!isTrack(track)) return [];
    const { folder, bus } = routingOf(session, track.id);
    return [
      [
        rows.length + i + 1,
        track.name,
        file.path,
        track.receivedName,
        folder,
        bus,
        track.family,
        track.color ?? '',
        levelDb(session, track),
        track.pan,
        track.muted,
        sendsText(session, track),
        0,
        '',
        '',
        '',
        '',
        '',
        '',
        '',
        '',
        '',
      ],
    ];
  });
  return table([head, ...rows, ...notes]);
}

/** Named places: sample, seconds, bar. */
export function markersCsv(plan: PackagePlan): string {
  return table([
    ['index', 'name', 'sample', 'seconds', 'quarters'],
    ...plan.markers.map((m, i) => [
      i + 1,
      m.text,
      Math.round(m.seconds * plan.sampleRateHz),
      roundTo(m.seconds, 9),
      m.quarters ?? '',
    ]),
  ]);
}
