/** Bytes with a fitting unit: `41.2 MB`. */
export function formatBytes(bytes: number): string {
  const units = ['B', 'kB', 'MB', 'GB', 'TB'];
  let value = bytes;
  let unit = 0;
  while (value >= 1000 && unit < units.length - 1) {
    value /= 1000;
    unit++;
  }
  return `${unit === 0 || value >= 100 ? value.toFixed(0) : value.toFixed(1)} ${units[unit]}`;
}

/** Level with a true minus, one decimal; `silent` for null. */
export const formatDb = (db: number | null): string =>
  db === null || !Number.isFinite(db) ? 'silent' : db.toFixed(1).replace('-', '−');

/** Seconds as m:ss. */
export function formatDuration(seconds: number): string {
  const whole = Math.round(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
}

/** Share 0–1 as whole percent. */
export const formatPercent = (share: number): string => `${Math.round(share * 100)} %`;

/** Sample rate in kHz: 44.1, 48. */
export const formatRate = (hz: number): string => String(hz / 1000);

/** Another speed, with the pitch that follows from it. */
export const formatRepitch = ({
  factor,
  semitones,
}: {
  readonly factor: number;
  readonly semitones: number;
}): string =>
  `${factor.toFixed(4)} times as fast, ${semitones < 0 ? '−' : '+'}${Math.abs(semitones).toFixed(2)} semitones`;

/** A distance in time with its sign. */
export const formatMs = (seconds: number): string =>
  `${seconds < 0 ? '−' : '+'}${Math.abs(1000 * seconds).toFixed(Math.abs(seconds) < 0.00995 ? 1 : 0)} ms`;

/** How far to a side, 0–100; C = the middle. */
export function formatPan(pan: number): string {
  const part = Math.round(Math.abs(pan) * 100);
  return part === 0 ? 'C' : `${pan < 0 ? 'L' : 'R'}${part}`;
}
