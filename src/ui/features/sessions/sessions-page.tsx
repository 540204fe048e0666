'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { Alert } from 'react-bootstrap';
import { type Fault, faultText, type SessionListItem } from '@/contracts';
import { useStore } from 'zustand';
import { api, faultOf, uploadsStore } from '@/ui/client';
import {
  Button,
  Dialog,
  FernMark,
  formatBytes,
  formatDuration,
  formatPercent,
  Icon,
  ThemeSwitch,
} from '@/ui/kit';
import { NewSessionDialog } from './new-session-dialog';
import { OpenDialog } from './open-dialog';
import { SpaceDialog } from './space-dialog';

const POLL_MS = 3000;

/** All sessions: open, new, delete. */
export function SessionsPage({ initial }: { readonly initial: readonly SessionListItem[] }) {
  const router = useRouter();
  const [sessions, setSessions] = useState(initial);
  const [making, setMaking] = useState(false);
  const [leaving, setLeaving] = useState<SessionListItem | null>(null);
  /** Name of the project whose open matters are shown. */
  const [opened, setOpened] = useState<string | null>(null);
  const uploads = useStore(uploadsStore, (u) => u.items);
  const [measured, setMeasured] = useState<SessionListItem | null>(null);
  const [fault, setFault] = useState<Fault | null>(null);
  const refresh = (): void => void api<SessionListItem[]>('/api/sessions').then(setSessions, () => undefined);
  useEffect(() => {
    const timer = setInterval(refresh, POLL_MS);
    return () => clearInterval(timer);
  }, []);
  const remove = async (item: SessionListItem): Promise<void> => {
    setLeaving(null);
    try {
      await api(`/api/sessions/${item.id}`, 'DELETE');
    } catch (cause) {
      setFault(faultOf(cause));
    }
    refresh();
  };
  return (
    <main className="fm-sessions">
      <header className="fm-sessions-head">
        <FernMark />
        <h1>
          Fernmoss <span className="fm-faint">sessions</span>
        </h1>
        <span className="fm-faint">
          One song each: from the recordings as they came to a package for the mixer.
        </span>
        <span className="fm-top-spring" />
        <Link href="/styles" className="fm-quiet">
          House styles
        </Link>
        <Button tone="main" onClick={() => setMaking(true)}>
          New session
        </Button>
        <ThemeSwitch />
      </header>
      {fault && (
        <Alert variant="danger" dismissible onClose={() => setFault(null)}>
          {faultText(fault)}
        </Alert>
      )}
      {sessions.length === 0 ? (
        <div className="fm-empty">
          <p>No sessions yet.</p>
          <p className="fm-faint">Make one, then drop the recordings of a song on it.</p>
          <Button tone="main" onClick={() => setMaking(true)}>
            New session
          </Button>
        </div>
      ) : (
        <table className="fm-table">
          <thead>
            <tr>
              <th>Song</th>
              <th>Artist</th>
              <th className="num">Tracks</th>
              <th className="num">Length</th>
              <th className="num">Size</th>
              <th>Tempo</th>
              <th>Handover</th>
              <th>Last change</th>
              <th>
                <span className="fm-unseen">Delete</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {inProjects(sessions).map((s) =>
              s.kind === 'project' ? (
                <tr key={`project ${s.name}`} className="fm-project">
                  <td colSpan={9}>
                    <b>{s.name}</b>{' '}
                    <span className="fm-faint">
                      {s.songs.length} {s.songs.length === 1 ? 'song' : 'songs'}
                    </span>{' '}
                    <Button onClick={() => setOpened(s.name)}>What is open</Button>
                  </td>
                </tr>
              ) : (
                <tr key={s.id} className={s.project ? 'fm-of-project' : undefined}>
                  <td>
                    <Link href={`/sessions/${s.id}`} className="fm-strong-link">
                      {s.name}
                    </Link>
                    <Sending
                      count={
                        uploads.filter(
                          (u) =>
                            u.sessionId === s.id &&
                            ['waiting', 'sending', 'paused', 'failed'].includes(u.state),
                        ).length
                      }
                    />
                    {s.openJobs > 0 && (
                      <div className="fm-note" role="status">
                        {s.openJobs} {s.openJobs === 1 ? 'job' : 'jobs'} at work
                        {s.jobProgress !== null ? ` · ${formatPercent(s.jobProgress)}` : ''}
                      </div>
                    )}
                  </td>
                  <td>{s.artist}</td>
                  <td className="num">
                    {s.trackCount}
                    {s.recordingCount > s.trackCount ? (
                      <span className="fm-faint"> of {s.recordingCount}</span>
                    ) : null}
                  </td>
                  <td className="num">{s.lengthSeconds > 0 ? formatDuration(s.lengthSeconds) : '–'}</td>
                  <td className="num">
                    <Button
                      tone="quiet"
                      className="fm-size"
                      onClick={() => setMeasured(s)}
                      title="Space on this disk, and cleaning up"
                      aria-label={`Space of ${s.name}: ${formatBytes(s.sizeBytes)}`}
                    >
                      {formatBytes(s.sizeBytes)}
                    </Button>
                  </td>
                  <td>{s.hasMap ? 'mapped' : <span className="fm-faint">not yet</span>}</td>
                  <td>
                    {s.handoverCount > 0 ? `v${s.handoverCount}` : <span className="fm-faint">not yet</span>}
                  </td>
                  <td>
                    <time dateTime={s.updatedAt} suppressHydrationWarning>
                      {new Date(s.updatedAt).toLocaleString('en-GB', {
                        dateStyle: 'medium',
                        timeStyle: 'short',
                      })}
                    </time>
                  </td>
                  <td className="fm-end">
                    <Button
                      tone="quiet"
                      onClick={() => setLeaving(s)}
                      aria-label={`Delete ${s.name}`}
                      title="Delete"
                    >
                      <Icon name="trash3" />
                    </Button>
                  </td>
                </tr>
              ),
            )}
          </tbody>
        </table>
      )}
      {making && (
        <NewSessionDialog
          onClose={() => setMaking(false)}
          onMade={(id) => router.push(`/sessions/${id}/intake`)}
        />
      )}
      {measured && <SpaceDialog session={measured} onClose={() => setMeasured(null)} onChanged={refresh} />}
      {opened !== null && (
        <OpenDialog project={opened} songs={songsOf(sessions, opened)} onClose={() => setOpened(null)} />
      )}
      {leaving && (
        <Dialog
          title={<>Delete “{leaving.name}”</>}
          onClose={() => setLeaving(null)}
          footer={
            <>
              <Button onClick={() => setLeaving(null)}>Cancel</Button>
              <Button tone="danger" onClick={() => void remove(leaving)}>
                Delete session and recordings
              </Button>
            </>
          }
        >
          <p>This removes for good:</p>
          <ul>
            <li>
              {leaving.recordingCount} recordings ({formatBytes(leaving.sizeBytes)}), unless another session
              uses the same files
            </li>
            <li>all names, folders, the tempo map and the whole history of this session</li>
            {leaving.handoverCount > 0 && (
              <li>
                {leaving.handoverCount === 1 ? 'its package' : `its ${leaving.handoverCount} packages`} on
                this machine; downloaded copies stay
              </li>
            )}
          </ul>
          <p className="fm-tight">This cannot be undone.</p>
        </Dialog>
      )}
    </main>
  );
}

/** Songs of one delivery, under their name. */
interface Project {
  readonly kind: 'project';
  readonly name: string;
  readonly songs: readonly SessionListItem[];
}

const songsOf = (sessions: readonly SessionListItem[], project: string): SessionListItem[] =>
  sessions
    .filter((s) => s.project === project)
    .sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));

/** Sessions in order, those of a project together where the newest of them stands. */
function inProjects(
  sessions: readonly SessionListItem[],
): (Project | (SessionListItem & { readonly kind?: undefined }))[] {
  const rows: (Project | SessionListItem)[] = [];
  const done = new Set<string>();
  for (const s of sessions) {
    if (s.project === '') rows.push(s);
    else if (!done.has(s.project)) {
      done.add(s.project);
      const songs = songsOf(sessions, s.project);
      rows.push({ kind: 'project', name: s.project, songs }, ...songs);
    }
  }
  return rows as ReturnType<typeof inProjects>;
}

const Sending = ({ count }: { readonly count: number }) =>
  count > 0 ? (
    <div className="fm-note" role="status">
      {count} {count === 1 ? 'file' : 'files'} being sent from this page
    </div>
  ) : null;
