import { readFileSync, statSync } from 'node:fs';
import { basename, relative } from 'node:path';
import { faultText } from '@/contracts';
import { ROOT, type Change } from '@/core/session';
import { newTrack, type HouseStyle } from '@/core/style';
import { MOST_MIDI_BYTES, noteFacts, readMidiSong } from '@/core/time';
import { filesBelow } from './sound-files';

/** Notes beside the recordings of a delivery. */
export interface DeliveredNotes {
  /** A row for each track of notes. */
  readonly edits: readonly Change[];
  /** Where the notes of each row lie. */
  readonly sources: Readonly<Record<string, { readonly path: string; readonly index: number }>>;
  /** Rows whose file breaks off. */
  readonly cutOff: readonly string[];
  readonly refused: readonly { readonly name: string; readonly reason: string }[];
}

/** MIDI files of a folder as rows of notes. What they say of tempo is a claim like others: it is not applied. */
export function readNoteFiles(folder: string, style: HouseStyle): DeliveredNotes {
  const edits: Change[] = [];
  const sources: Record<string, { path: string; index: number }> = {};
  const cutOff: string[] = [];
  const refused: { name: string; reason: string }[] = [];
  for (const path of filesBelow(folder).filter((f) => /\.midi?$/i.test(f))) {
    const name = relative(folder, path);
    const song = statSync(path).size > MOST_MIDI_BYTES ? null : readMidiSong(readFileSync(path));
    if (!song?.ok) {
      refused.push({ name, reason: faultText({ code: song ? 'midi.broken' : 'midi.too_large' }) });
      continue;
    }
    song.value.tracks.forEach((track, index) => {
      const id = `n${edits.length + 1}`;
      const { tempoSaid } = noteFacts(song.value, track);
      edits.push({
        kind: 'track.add',
        track: newTrack(
          id,
          `${basename(name)}/${(track.name || `track ${index + 1}`).replace(/[\\/]/g, '-')}`,
          { tiedTo: tempoSaid ? 'time' : 'bars' },
          style,
        ),
        parentId: ROOT,
        index: Number.MAX_SAFE_INTEGER,
      });
      if (song.value.cutOff) cutOff.push(id);
      sources[id] = { path, index };
    });
  }
  return { edits, sources, cutOff, refused };
}
