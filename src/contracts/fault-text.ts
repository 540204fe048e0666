import type { Fault } from './faults';

type Texts = Readonly<Record<string, (f: Record<string, unknown>) => string>>;

const megabytes = (bytes: unknown): string =>
  Number(bytes) >= 1e9 ? `${(Number(bytes) / 1e9).toFixed(1)} GB` : `${Math.ceil(Number(bytes) / 1e6)} MB`;
const bits = (f: Record<string, unknown>): string =>
  f.codec === 'pcm' ? `${String(f.bits)}-bit samples` : `“${String(f.codec)}”`;

/** Why two tracks are no pair. */
const PAIR_TEXTS: Readonly<Record<string, string>> = {
  same: 'A pair is two tracks: select two.',
  notes: 'Notes cannot be joined to one stereo sound.',
  'not-ready': 'Wait until both recordings are ready.',
  channels: 'Both sides of a pair must be mono; make a stereo track mono first, in the right panel.',
  rate: 'The two were recorded at different sample rates. Pan them left and right instead.',
  level:
    'The two are set to different levels. Set both to the same first, or pan them left and right instead.',
  cut: 'The two are cut in different places, or have several takes. Pan them left and right instead.',
  stereo: 'Only a stereo sound can be split.',
};

/** What happened, what it means, what to do. */
const TEXTS: Texts = {
  'file.empty': () => 'The file is empty (0 bytes). Ask the sender for it again.',
  'file.no_recording': () => 'It is no recording.',
  'file.unreadable': () => 'The file could not be read on this machine. Add it again.',
  'file.missing': (f) =>
    `${String(f.path ?? 'A file used in place')} is not there any more. Connect its disk, or look for it at Intake under “In place”.`,
  'file.changed': (f) =>
    `${String(f.path ?? 'A file used in place')} was changed since it was taken in. Take it in as it is now, at Intake under “In place”.`,
  'sound.unknown': (f) =>
    `This is no sound file that can be read here (it begins with “${String(f.found)}”). Ask for WAV, AIFF or FLAC.`,
  'sound.no_format': () =>
    'The file says nothing about rate and bit depth: its header is broken. Ask for it again.',
  'sound.no_audio': () => 'The file holds no audio, only a header. Ask for it again.',
  'sound.unsupported_format': (f) =>
    `Its audio is stored as ${bits(f)}, which cannot be read here. Ask for WAV, AIFF or FLAC, 16 to 32 bit.`,
  'sound.unsupported_rate': (f) => `Its sample rate of ${String(f.sampleRateHz)} Hz is outside 8–384 kHz.`,
  'sound.unsupported_channels': (f) =>
    `It has ${String(f.channels)} channels; up to ${String(f.supported)} can be taken. Ask for the channels as files of their own.`,
  'decoder.missing': (f) =>
    `${String(f.kind).toUpperCase()} needs ffmpeg, which is not on this machine. Install it (Debian: apt-get install ffmpeg), then try again.`,
  'decoder.failed': (f) =>
    `Its ${String(f.kind).toUpperCase()} sound could not be decoded: ${String(f.reason)}. Ask for the file again, or for WAV.`,
  'decoder.too_long': () =>
    'Decoding it took longer or gave more than any recording needs, and was stopped. Ask for WAV.',
  'midi.broken': () => 'This MIDI file is damaged: its events break off or make no sense. Ask for it again.',
  'midi.too_large': () =>
    'This MIDI file is larger than 4 MB, more than any song needs. Ask for it in parts, or without its recorded controllers.',
  'archive.broken': (f) =>
    `The archive is damaged${f.entry ? ` at “${String(f.entry)}”` : ''}. Ask for it again, or add the files themselves.`,
  'archive.too_much': (f) => `The archive was not opened: ${String(f.reason)}. Add the files themselves.`,
  'archive.empty': () => 'The archive holds no recordings.',
  'upload.broken_off': () =>
    'The upload broke off. Try again, or add the file again: it goes on where it stopped.',
  'store.disk_full': () =>
    'The disk is full. Free some space, then try again; nothing received so far is lost.',
  'store.no_room': (f) =>
    `This needs about ${megabytes(f.neededBytes)} and ${megabytes(f.freeBytes)} are free. Nothing was begun. Clean up a session under “Space” in the list of sessions, or free some space.`,
  'store.too_slow': () =>
    'The database was too busy to do this in time; nothing was changed. Try again in a moment.',
  'store.database_away': () =>
    'The database is being started again. This was not done; try again in a moment.',
  'session.busy': () => 'Jobs of this session are at work. Wait for them or cancel them, then clean up.',
  'folder.not_allowed': () =>
    'This folder is not one of those allowed when Fernmoss was started (FERNMOSS_FOLDERS).',
  'folder.no_recordings': () => 'Nothing there is called like a recording (WAV, AIFF, FLAC …).',
  'folder.not_there': (f) =>
    `The folder ${String(f.path ?? '')} is not there. Choose another, or connect its disk.`,
  'folder.not_writable': (f) =>
    `Nothing can be written to ${String(f.path ?? 'this folder')}: ${String(f.reason ?? 'not permitted')}. The package itself is good; choose another folder or download it.`,
  'delivery.folder_taken': (f) =>
    `${String(f.path ?? 'A folder of this name')} is there already and is not this package. It was left as it is; choose another folder.`,
  'pair.unlike': (f) => PAIR_TEXTS[String(f.what)] ?? 'These two tracks cannot be joined.',
  'style.not_found': () => 'This house style does not exist any more, or not in this version.',
  'style.not_readable': (f) =>
    `This file is no house style that can be read: ${Array.isArray(f.issues) ? f.issues.slice(0, 5).join('; ') : 'it does not fit'}. Nothing was taken in.`,
  'style.stale': (f) =>
    `This house style was changed elsewhere meanwhile: version ${String(f.version ?? '')} is there now. Nothing was overwritten; compare the two, or keep yours as a style of its own.`,
  'style.in_use': (f) =>
    `${Number(f.sessions) > 0 ? `${String(f.sessions)} session${f.sessions === 1 ? ' follows' : 's follow'} this house style` : 'New sessions follow this house style'}. ${Number(f.sessions) > 0 ? 'Give them another first' : 'Let them follow another first'}, then remove it.`,
  'session.not_found': () => 'This session does not exist any more.',
  'session.in_waste': () =>
    'This session lies in the waste basket: put it back on the list to go on with it.',
  'session.not_in_waste': () => 'Only what lies in the waste basket is deleted for good.',
  'session.conflict': () => 'Somebody else changed the same thing meanwhile.',
  'session.stale_revision': () => 'The session was changed in another window meanwhile.',
  'edit.unknown_id': () => 'What this changes is not there any more.',
  'edit.not_empty': () => 'The folder still holds tracks. Move them out first.',
  'edit.in_use': () => 'Tracks are still routed to this bus. Route them elsewhere first.',
  'edit.into_itself': () => 'A folder cannot go into itself.',
  'edit.incomplete': () => 'This change misses something it needs. Reload the page and do it again.',
  'edit.too_many': () => 'There are more of these than a session can hold. Remove some first.',
  'edit.clips_overlap': () =>
    'Two stretches of one track would lie over each other without a cross-fade. Look at the track as it is now and do it again.',
  'edit.clip_too_short': () =>
    'A stretch of a track would end before it begins, or be shorter than its fades. Make its fades shorter first.',
  'edit.cut_notes': () =>
    'Notes are handed over whole: they cannot be cut or silenced in stretches. Mute their track.',
  'edit.mixed_lanes': () => 'Notes and sounds cannot lie on one track. Put them on a track of their own.',
  'history.nothing_to_undo': () => 'There is nothing to undo.',
  'history.nothing_to_redo': () => 'There is nothing to redo.',
  'request.invalid': (f) =>
    `That was not accepted: ${Array.isArray(f.issues) ? f.issues.join('; ') : 'check what you typed'}.`,
  'request.not_found': () => 'That is not there any more.',
  'request.foreign_origin': () => 'This page was opened under a foreign address. Open it at 127.0.0.1.',
  'tempo.no_timekeepers': () =>
    'No track keeps the time clearly enough. Tick one or more timekeepers and try again.',
  'tempo.nothing_found': () =>
    'No steady pulse was found. Tick other timekeepers and try again, tap it yourself, or type a tempo under Points.',
  'tempo.not_analysed': () => 'The recordings are still being listened to. Try again in a moment.',
  'delivery.no_tracks': () => 'There are no tracks yet. Add recordings at Intake.',
  'tempo.no_map': () => 'There is no tempo map yet. Find the tempo and accept it first.',
  'balance.all_muted': () =>
    'Every track is muted, or is a mix or a click: there is nothing to balance. Unmute what should be heard.',
  'conform.not_ready': () =>
    'Not all recordings are conformed yet. Wait for them, or hand over what was played.',
  'delivery.not_ready': () => 'Some recordings are still arriving. Wait until they are ready.',
  'delivery.check_failed': (f) =>
    `The finished package differed from its plan and was thrown away: ${Array.isArray(f.failed) ? f.failed.join('; ') : 'see the checks'}.`,
  'map.invalid': () =>
    'This tempo map cannot be used: its points do not rise in time and place. Find the tempo again.',
  'edit.id_taken': () => 'That is there already.',
  'upload.too_many': () =>
    'This session holds as many files as it can (2000). Make another session for the rest.',
  'upload.too_many_open': () =>
    'Five hundred uploads are under way at once, as many as can be. Wait until some are done, then add this one again.',
  'upload.too_large': () => 'The file is larger than 64 GiB. Ask for it in parts.',
  'job.cancelled': () => 'Cancelled.',
  'job.interrupted': (f) =>
    `It was cut off ${String(f.times)} times by the worker stopping in the middle of it, so it was not begun again by itself. Try again; if it stops once more, leave this file or step out and tell us.`,
  'job.unreadable': () =>
    'It was asked for by another version of Fernmoss and cannot be read by this one. Ask for it again.',
  internal: () => 'Something went wrong here. Try again; if it stays, restart Fernmoss.',
};

/** Words for a fault: on the page, in the cover note, on the command line. */
export const faultText = (fault: Fault): string =>
  (TEXTS[fault.code] ?? TEXTS.internal)?.(fault) ?? fault.code;
