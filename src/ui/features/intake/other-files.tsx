'use client';
import type { RecordingView } from '@/contracts';
import { MOST_NOTES } from '@/core/session';
import { useSession, useSessionStore } from '@/ui/client';
import { Button } from '@/ui/kit';

const MOST_NAMED = 4;

/** Texts, pictures and other files that came along: one line for all, a text offered as the notes of the session. */
export function OtherFiles() {
  const store = useSessionStore();
  const { recordings, session } = useSession((s) => s.view);
  const others = recordings.filter((r) => r.fault?.code === 'file.no_recording');
  if (others.length === 0) return null;
  const shown = others.slice(0, MOST_NAMED).map(fileName).join(', ');
  const rest = others.length - MOST_NAMED;
  const addNotes = (name: string, text: string): void =>
    void store.getState().commit(`Notes from ${name}`.slice(0, 200), [
      {
        kind: 'session.describe',
        notes: session.notes === '' ? text : `${session.notes}\n\n${text}`.slice(0, MOST_NOTES),
      },
    ]);
  return (
    <p className="fm-over-hand" role="note">
      {others.length === 1 ? 'One file is no recording' : `${others.length} files are no recordings`}:{' '}
      <span className="fm-mono">{shown}</span>
      {rest > 0 ? ` and ${rest} more` : ''}.{' '}
      {others.flatMap((r) => {
        const text = r.fault?.text;
        return typeof text === 'string' && !session.notes.includes(text)
          ? [
              <Button key={r.id} title={text.slice(0, 400)} onClick={() => addNotes(fileName(r), text)}>
                {fileName(r)} as notes
              </Button>,
            ]
          : [];
      })}{' '}
      <Button
        tone="quiet"
        onClick={() => {
          for (const r of others) void store.getState().call(`/api/recordings/${r.id}`, undefined, 'DELETE');
        }}
      >
        Take off the list
      </Button>
    </p>
  );
}

const fileName = (r: RecordingView): string => r.receivedName.split('/').at(-1) ?? r.receivedName;
