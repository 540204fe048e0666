'use client';
import Link from 'next/link';
import { useEffect, useRef, useState } from 'react';
import type { SessionListItem, SessionView } from '@/contracts';
import { findingTitle } from '@/core/findings';
import { api, findingsOf, stageStates } from '@/ui/client';
import { Dialog } from '@/ui/kit';

/** Everything that is open in the songs of a project, in one list. */
export function OpenDialog({
  project,
  songs,
  onClose,
}: {
  readonly project: string;
  readonly songs: readonly SessionListItem[];
  readonly onClose: () => void;
}) {
  const [views, setViews] = useState<readonly SessionView[]>([]);
  const seen = useRef(new Map<string, string>());
  // What a song is now, as far as the list knows. Jobs change it too, and a short one is never seen at work.
  const now = JSON.stringify(
    songs.map((s) => [s.id, `${s.revision} ${s.recordingCount} ${s.lastJobAt ?? ''}`]),
  );
  useEffect(() => {
    let live = true;
    void (async () => {
      for (const [id, state] of JSON.parse(now) as [string, string][]) {
        if (seen.current.get(id) === state) continue;
        const view = await api<SessionView>(`/api/sessions/${id}`).catch(() => null);
        if (!live) return;
        if (!view) continue;
        seen.current.set(id, state);
        setViews((before) => [...before.filter((v) => v.id !== id), view]);
      }
    })();
    return () => {
      live = false;
    };
  }, [now]);
  return (
    <Dialog title={<>What is open in “{project}”</>} isWide scrolls onClose={onClose}>
      <table className="fm-table fm-open">
        <thead>
          <tr>
            <th>Song</th>
            <th>Stage</th>
            <th>Open</th>
          </tr>
        </thead>
        <tbody>
          {songs.flatMap((song) => {
            const view = views.find((v) => v.id === song.id);
            const rows = view ? openRows(view) : [];
            return rows.length === 0
              ? [
                  <tr key={song.id}>
                    <td>
                      <Link href={`/sessions/${song.id}`} className="fm-strong-link">
                        {song.name}
                      </Link>
                    </td>
                    <td colSpan={2} className="fm-faint">
                      {view ? 'nothing open' : 'looking …'}
                    </td>
                  </tr>,
                ]
              : rows.map((r, i) => (
                  <tr key={`${song.id}${i}`}>
                    <td>
                      {i === 0 ? (
                        <Link href={`/sessions/${song.id}`} className="fm-strong-link">
                          {song.name}
                        </Link>
                      ) : null}
                    </td>
                    <td>
                      <Link href={`/sessions/${song.id}/${r.stage}`}>{r.name}</Link>
                    </td>
                    <td>{r.what}</td>
                  </tr>
                ));
          })}
        </tbody>
      </table>
    </Dialog>
  );
}

/** What a person still has to do in a song; findings of a note's weight are left out. */
function openRows(
  view: SessionView,
): { readonly stage: string; readonly name: string; readonly what: string }[] {
  const found = findingsOf(view)
    .open.filter((f) => f.severity !== 'note')
    .map((f) => ({
      stage: 'intake',
      name: 'Intake',
      what: `${findingTitle(f.code)}: ${f.files.length} ${f.files.length === 1 ? 'file' : 'files'}`,
    }));
  const stages = stageStates(view)
    .filter((s) => s.state === 'open' && !(s.key === 'intake' && found.length > 0))
    .map((s) => ({ stage: s.key as string, name: s.name, what: s.note }));
  return [...found, ...stages];
}
