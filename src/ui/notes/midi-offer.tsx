'use client';
import type { RecordingView, NotesView } from '@/contracts';
import { mapEdit } from '@/core/tempo';
import { createSongMap, pulseTempi } from '@/core/time';
import { songSeconds, useSession, useSessionStore } from '@/ui/client';
import { Button, Icon } from '@/ui/kit';
import { PlacesOffer } from './places-offer';
import { useNotes } from './use-notes';

/** Name of the file a row of notes came in. */
export const midiFileName = ({ receivedName, notes }: RecordingView): string =>
  receivedName.split('/').at(notes ? -2 : -1) ?? receivedName;

/** Tempo, meters and places a MIDI file brings; the map can be taken over, nothing is applied by itself. */
export function MidiOffer({ recording }: { readonly recording: RecordingView }) {
  const store = useSessionStore();
  const { session, recordings, tempo } = useSession((s) => s.view);
  const view = useNotes(recording.id);
  if (!view) return null;
  const { map, markers } = view;
  const notesEnd = Math.max(0, ...recordings.map((r) => r.notes?.lastSeconds ?? 0));
  const end = Math.max(songSeconds(session, recordings), notesEnd, 4);
  const acceptMap = (): void => {
    if (map)
      store
        .getState()
        .commit(`Tempo map of ${midiFileName(recording)}`, [mapEdit(map, end, tempo?.jobId ?? null)]);
  };
  const isInUse = map !== null && JSON.stringify(session.map) === JSON.stringify(map);
  return (
    <>
      {map ? (
        <>
          <p className="fm-below-1">
            <b>{tempoText(map)}</b>{' '}
            <span className="fm-faint">
              {map.meters
                .map((m) => `${m.numerator}/${m.denominator}${m.bar > 1 ? ` from bar ${m.bar}` : ''}`)
                .slice(0, 4)
                .join(', ')}
            </span>
          </p>
          {isInUse ? (
            <p className="fm-good fm-below-1">
              <Icon name="check-lg" /> This is the session’s map.
            </p>
          ) : (
            <Button onClick={acceptMap}>Use as the tempo map</Button>
          )}
          {session.map && !isInUse && (
            <p className="fm-faint fm-above-1">
              It takes the place of the map there is; one undo brings that back.
            </p>
          )}
        </>
      ) : (
        <p className="fm-faint">The file says no tempo.</p>
      )}
      <PlacesOffer places={markers} from={midiFileName(recording)} />
    </>
  );
}

function tempoText(file: NonNullable<NotesView['map']>): string {
  const bpm = pulseTempi(createSongMap(file.points, file.meters));
  // Not spread into a call: a file may hold a tempo for every tick.
  const low = bpm.reduce((m, x) => Math.min(m, x), Infinity);
  const high = bpm.reduce((m, x) => Math.max(m, x), 0);
  return high - low < 0.005
    ? `${low.toFixed(2)} BPM throughout`
    : `${low.toFixed(1)} – ${high.toFixed(1)} BPM, ${bpm.length} tempi`;
}
