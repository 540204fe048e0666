import { err, ok, type Result } from '../units';
import { formatBarPulse } from './positions';
import { createSongMap, type SongMap, type SongMapFile, songMapFromFile, songMapToFile } from './song-map';
import type { TempoPoint } from './tempo-map';

const HEAD = ['place', 'quarters', 'seconds', 'bpm', 'then'];

/** The points of a map as a table: place in bars, quarters from the first downbeat, seconds, quarters a minute from there, and whether the tempo jumps or ramps to the next. */
export function mapToCsv(map: SongMap): string {
  const { tempo } = map;
  const rows = tempo.points.map((p, i) => [
    formatBarPulse(map, p.seconds + 1e-4).replace('−', '-'),
    p.quarters,
    p.seconds,
    tempo.tempoAt(p.quarters),
    i + 1 < tempo.points.length ? (p.ramp === undefined ? 'jump' : `ramp ${p.ramp}`) : '',
  ]);
  return `${[HEAD, ...rows].map((r) => r.join(',')).join('\r\n')}\r\n`;
}

/** Why a table is no map; `line` from 1. */
export interface CsvFault {
  readonly code: 'map.invalid';
  readonly reason: string;
  readonly line: number | null;
}

/**
 * Points of a table with columns `quarters` and `seconds`, in any order, `then` if it is there; meters are those of `file`.
 * Separated by commas, semicolons or tabs; with the latter two a number may have a decimal comma.
 */
export function mapFromCsv(text: string, file: Pick<SongMapFile, 'meters'>): Result<SongMapFile, CsvFault> {
  const lines = text.replace(/^\uFEFF/, '').split(/\r\n|\r|\n/);
  const head = lines[0] ?? '';
  const separator = [';', '\t', ','].find((s) => head.includes(s)) ?? ',';
  const columns = head.split(separator).map((c) => c.trim().toLowerCase());
  const [q, s, then] = [columns.indexOf('quarters'), columns.indexOf('seconds'), columns.indexOf('then')];
  if (q < 0 || s < 0)
    return err({
      code: 'map.invalid',
      reason: 'the first line must name the columns quarters and seconds',
      line: 1,
    });
  const number = (cell: string | undefined): number => {
    const t = (cell ?? '').trim();
    return t === '' ? NaN : Number(separator === ',' ? t : t.replace(',', '.'));
  };
  const points: TempoPoint[] = [];
  for (const [i, line] of lines.entries()) {
    if (i === 0 || line.trim() === '') continue;
    const cells = line.split(separator);
    const [quarters, seconds] = [number(cells[q]), number(cells[s])];
    if (!Number.isFinite(quarters) || !Number.isFinite(seconds))
      return err({ code: 'map.invalid', reason: 'quarters and seconds must be numbers', line: i + 1 });
    const ramp = /^ramp\s+([\d.,]+)$/.exec((cells[then] ?? '').trim());
    points.push({ quarters, seconds, ...(then >= 0 && ramp ? { ramp: number(ramp[1]) } : {}) });
  }
  const made = songMapFromFile({ schemaVersion: 1, points, meters: file.meters });
  return made.ok ? ok(songMapToFile(createSongMap(points, file.meters))) : err({ ...made.error, line: null });
}
