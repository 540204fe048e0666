'use client';
import { useRef, useState } from 'react';
import { fileKind } from '@/core/audio';
import { mapEdit } from '@/core/tempo';
import {
  mapFromCsv,
  mapToCsv,
  MOST_MIDI_BYTES,
  readMidi,
  songMapFromMidi,
  songMapToFile,
  songMapToMidi,
} from '@/core/time';
import { songSeconds, useSession, useSessionStore } from '@/ui/client';
import { Button, FileInput, Line } from '@/ui/kit';
import type { TempoModel } from './tempo-model';

/** Hands a file to the browser to be kept. */
function save(name: string, type: string, body: BlobPart): void {
  const address = URL.createObjectURL(new Blob([body], { type }));
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 10_000);
}

/** The map out to a MIDI file or a table, and in from one. */
export function MapFiles({ model }: { readonly model: TempoModel }) {
  const store = useSessionStore();
  const { session, recordings, tempo } = useSession((s) => s.view);
  const chooser = useRef<HTMLInputElement>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const name = session.name.replace(/[^\p{L}\p{N} _-]+/gu, '_').slice(0, 80) || 'Song';
  const end = songSeconds(session, recordings);
  const midi = (): void => {
    try {
      save(`${name} tempo.mid`, 'audio/midi', songMapToMidi(model.map, end) as BlobPart);
      setProblem(null);
    } catch (cause) {
      if (!(cause instanceof RangeError)) throw cause;
      setProblem(`a MIDI file cannot hold it: ${cause.message}`);
    }
  };
  const read = async (file: File): Promise<void> => {
    if (file.size > MOST_MIDI_BYTES) return setProblem(`${file.name} is larger than any tempo map`);
    const bytes = new Uint8Array(await file.arrayBuffer());
    const isMidi = fileKind(bytes) === 'midi';
    // Without a tempo the standard's 120 would hold, which nobody has said.
    const midi = isMidi ? readMidi(bytes) : null;
    if (midi?.ok && midi.value.tempos.length === 0) return setProblem(`${file.name} says no tempo`);
    const read = isMidi ? songMapFromMidi(bytes) : mapFromCsv(new TextDecoder().decode(bytes), model.file);
    if (!read.ok)
      return setProblem(
        `${file.name} is no tempo map: ${read.error.reason}${'line' in read.error && read.error.line !== null ? ` (line ${read.error.line})` : ''}`,
      );
    setProblem(null);
    const map = 'tempo' in read.value ? songMapToFile(read.value) : read.value;
    store
      .getState()
      .commit(`Tempo map of ${file.name}`.slice(0, 200), [mapEdit(map, end, tempo?.jobId ?? null)]);
  };
  return (
    <>
      <h3>As a file</h3>
      <Line align="start" wraps className="fm-below-1">
        <Button onClick={midi}>Save as MIDI</Button>
        <Button onClick={() => save(`${name} tempo.csv`, 'text/csv', mapToCsv(model.map))}>
          Save as table
        </Button>
        <Button onClick={() => chooser.current?.click()}>Take a MIDI file or table</Button>
        <FileInput
          ref={chooser}
          accept=".mid,.midi,.csv,.txt"
          aria-label="A MIDI file or a table of points"
          onChange={(e) => {
            const file = e.target.files?.[0];
            e.target.value = '';
            if (file) void read(file);
          }}
        />
      </Line>
      {problem && (
        <p className="fm-attention" role="alert">
          Not done: {problem}.
        </p>
      )}
    </>
  );
}
