import { err, ok, type Result } from '../units';
import { createMeterMap, type Meter, type MeterMap, pulseQuarters } from './meter-map';
import { writeMidi } from './midi-file';
import { readMidi } from './midi-song';
import { createTempoMap, type TempoMap, type TempoPoint } from './tempo-map';

/** Tempo and bars of a song together. */
export interface SongMap {
  readonly tempo: TempoMap;
  readonly meters: MeterMap;
}

/** Our own JSON for a map (`--map-out`, database, edits). */
export interface SongMapFile {
  readonly schemaVersion: 1;
  /** Anchors, see {@link TempoPoint}. */
  readonly points: readonly TempoPoint[];
  readonly meters: readonly Meter[];
}

/** Both halves from plain values. Throws RangeError as their makers do. */
export function createSongMap(points: readonly TempoPoint[], meters: readonly Meter[]): SongMap {
  return { tempo: createTempoMap(points), meters: createMeterMap(meters) };
}

/** Plain JSON value of a map. */
export const songMapToFile = (map: SongMap): SongMapFile => ({
  schemaVersion: 1,
  points: map.tempo.points,
  meters: map.meters.meters,
});

/** A map from JSON that may be at fault. */
export function songMapFromFile(
  file: SongMapFile,
): Result<SongMap, { readonly code: 'map.invalid'; readonly reason: string }> {
  try {
    return ok(createSongMap(file.points, file.meters));
  } catch (cause) {
    return err({ code: 'map.invalid', reason: cause instanceof Error ? cause.message : 'unreadable' });
  }
}

/** Tempo after each corner of a map but the last, in pulses a minute as the first bar feels them (dotted quarters of 6/8), in order of time. */
export function pulseTempi({ tempo, meters }: SongMap): number[] {
  const perPulse = pulseQuarters(meters.meterAt(1));
  return tempo
    .corners()
    .slice(0, -1)
    .map((q) => tempo.tempoAt(q) / perPulse);
}

const PPQ = 960;
/** Marker that tells where quarter 0 of a map lies in a file that begins before it. */
const FIRST_DOWNBEAT = 'First downbeat';

/**
 * The tempo map of a Standard MIDI File whose tick 0 is the first frame of the recordings. Quarter 0 is the marker
 * `First downbeat` as {@link songMapToMidi} writes it, else tick 0; what leads up to it is no music and gives no points.
 * Meter changes count from the nearest bar line.
 */
export function songMapFromMidi(
  bytes: Uint8Array,
): Result<SongMap, { readonly code: 'map.invalid'; readonly reason: string }> {
  const read = readMidi(bytes);
  if (!read.ok) return err({ code: 'map.invalid', reason: read.error.code });
  const { ppq, tempos, meters, markers, toSeconds } = read.value;
  const zero = markers.find((m) => m.text === FIRST_DOWNBEAT)?.tick ?? 0;
  const last = tempos.at(-1)?.tick ?? 0;
  const ticks = [
    ...new Set([zero, ...tempos.map((t) => t.tick).filter((t) => t > zero), Math.max(zero, last) + ppq]),
  ].sort((a, b) => a - b);
  const out: Meter[] = [];
  let [bar, tick] = [1, zero];
  for (const m of meters) {
    const before = out.at(-1);
    if (before)
      bar += Math.max(0, Math.round(((m.tick - tick) * before.denominator) / (4 * ppq * before.numerator)));
    const meter = { bar, numerator: m.numerator, denominator: m.denominator };
    if (before?.bar === bar) out[out.length - 1] = meter;
    else out.push(meter);
    tick = Math.max(m.tick, zero);
  }
  return songMapFromFile({
    schemaVersion: 1,
    points: ticks.map((t) => ({ quarters: (t - zero) / ppq, seconds: toSeconds(t) })),
    meters: out.length > 0 ? out : [{ bar: 1, numerator: 4, denominator: 4 }],
  });
}

/**
 * A map as a Standard MIDI File that lies beside the files it was found in: tick 0 is their first frame and a bar line.
 * Whole bars lead to the first downbeat, as many as come nearest its tempo, and take just the time there is.
 * `endSeconds` = last moment that matters. Throws RangeError if the first downbeat lies before 0 s.
 */
export function songMapToMidi(map: SongMap, endSeconds: number): Uint8Array {
  const { tempo, meters } = map;
  const start = tempo.toSeconds(0);
  if (start < 0) throw new RangeError('the first downbeat lies before the start');
  const first = meters.meterAt(1);
  const bar = meters.barToQuarters(2);
  const lead = start === 0 ? 0 : bar * Math.max(1, Math.round(start / (tempo.toSeconds(bar) - start)));
  const last = Math.max(1, Math.ceil(tempo.toQuarters(endSeconds)));
  const places = [
    0,
    ...tempo
      .corners()
      .map((q) => Math.round(q * PPQ) / PPQ)
      .filter((q) => q > 0 && q < last),
    last,
  ];
  const anchors = [...new Set(places)].map((q) => ({ quarters: q + lead, seconds: tempo.toSeconds(q) }));
  return writeMidi({
    name: 'Tempo map',
    ppq: PPQ,
    anchors: lead > 0 ? [{ quarters: 0, seconds: 0 }, ...anchors] : anchors,
    meters: [
      { quarters: 0, numerator: first.numerator, denominator: first.denominator },
      ...meters.meters.slice(1).map((m) => ({
        quarters: meters.barToQuarters(m.bar) + lead,
        numerator: m.numerator,
        denominator: m.denominator,
      })),
    ],
    markers: [{ quarters: lead, text: FIRST_DOWNBEAT }],
  });
}
