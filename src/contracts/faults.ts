/** Every code a fault can carry across a border; the page turns code and facts into words. */
export const FAULT_CODES = [
  'file.empty',
  'file.unreadable',
  'file.missing',
  'file.changed',
  'file.no_recording',
  'sound.unknown',
  'sound.no_format',
  'sound.no_audio',
  'sound.unsupported_format',
  'sound.unsupported_rate',
  'sound.unsupported_channels',
  'sound.truncated',
  'sound.size_missing',
  'sound.second_data_ignored',
  'sound.damaged',
  'decoder.missing',
  'decoder.failed',
  'decoder.too_long',
  'midi.broken',
  'midi.too_large',
  'archive.broken',
  'archive.too_much',
  'archive.empty',
  'upload.broken_off',
  'upload.too_large',
  'upload.too_many',
  'upload.too_many_open',
  'store.disk_full',
  'session.not_found',
  'session.stale_revision',
  'session.conflict',
  'edit.unknown_id',
  'edit.id_taken',
  'edit.not_empty',
  'edit.in_use',
  'edit.into_itself',
  'edit.incomplete',
  'edit.too_many',
  'edit.clips_overlap',
  'edit.clip_too_short',
  'edit.mixed_lanes',
  'history.nothing_to_undo',
  'history.nothing_to_redo',
  'request.invalid',
  'request.foreign_origin',
  'request.not_found',
  'tempo.no_timekeepers',
  'tempo.nothing_found',
  'tempo.not_analysed',
  'delivery.no_tracks',
  'delivery.not_ready',
  'delivery.check_failed',
  'pair.unlike',
  'style.not_found',
  'style.not_readable',
  'style.stale',
  'style.in_use',
  'job.cancelled',
  'job.interrupted',
  'map.invalid',
  'tempo.no_map',
  'conform.not_ready',
  'store.no_room',
  'store.database_away',
  'store.too_slow',
  'session.busy',
  'folder.not_allowed',
  'folder.no_recordings',
  'folder.not_there',
  'folder.not_writable',
  'delivery.folder_taken',
  'internal',
] as const;

/** One of {@link FAULT_CODES}. */
export type FaultCode = (typeof FAULT_CODES)[number];

/** A fault as data: a code and facts. */
export interface Fault {
  readonly code: FaultCode;
  readonly [fact: string]: unknown;
}

/** Whether a fault lies in what was sent: doing the same again gives the same. */
export const liesInFile = ({ code }: Pick<Fault, 'code'>): boolean =>
  /^(sound|midi|archive)\./.test(code) ||
  ['file.empty', 'file.no_recording', 'decoder.failed', 'decoder.too_long'].includes(code);
