'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { type Fault, faultText, type SessionListItem, type Shelf } from '@/contracts';
import { api, faultOf, useUploadWarning } from '@/ui/client';
import { Button, FernMark, later, Notice, Tabs, TextInput, ThemeSwitch } from '@/ui/kit';
import { DeleteDialog } from './delete-dialog';
import { FIRST_ORDER, foundSessions, type ListOrder, listRows, songsOf } from './list-order';
import { OpenDialog } from './open-dialog';
import { type Moved, SelectionBar, ShelfNotice } from './selection-bar';
import { SessionsTable } from './sessions-table';
import { WalkOffer } from './walk-offer';
import { SpaceDialog } from './space-dialog';

const POLL_MS = 3000;

const SHELF_NAMES: readonly (readonly [Shelf, string])[] = [
  ['list', 'Sessions'],
  ['archive', 'Archive'],
  ['waste', 'Waste basket'],
];

const NewSessionDialog = later(() => import('./new-session-dialog').then((m) => m.NewSessionDialog));

/** All sessions: found, opened, made, copied, put away and back. */
export function SessionsPage({ initial }: { readonly initial: readonly SessionListItem[] }) {
  const router = useRouter();
  const { sessions, fault, setFault, moved, setMoved, refresh, shelve, copy, deleteAll } =
    useSessionList(initial);
  useUploadWarning();
  const [shelf, setShelf] = useState<Shelf>('list');
  const [search, setSearch] = useState('');
  const [order, setOrder] = useState<ListOrder>(FIRST_ORDER);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [making, setMaking] = useState(false);
  /** Name of the project whose open matters are shown. */
  const [opened, setOpened] = useState<string | null>(null);
  const [measured, setMeasured] = useState<SessionListItem | null>(null);
  const [leaving, setLeaving] = useState<readonly SessionListItem[]>([]);
  const found = foundSessions(sessions, shelf, search);
  const selected = found.filter((s) => chosen.has(s.id));
  const show = (to: Shelf): void => {
    setShelf(to);
    setChosen(new Set());
  };
  const put = (songs: readonly SessionListItem[], to: Shelf): void => {
    setChosen(new Set());
    void shelve(songs, to);
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
        <Link href="/settings" className="fm-quiet">
          Settings
        </Link>
        <Button tone="main" onClick={() => setMaking(true)}>
          New session
        </Button>
        <ThemeSwitch />
      </header>
      {fault && (
        <Notice tone="danger" onClose={() => setFault(null)}>
          {faultText(fault)}
        </Notice>
      )}
      {moved && (
        <ShelfNotice moved={moved} onBack={(songs, to) => put(songs, to)} onClose={() => setMoved(null)} />
      )}
      {sessions.length === 0 ? (
        <NoSessions onMake={() => setMaking(true)} />
      ) : (
        <>
          <div className="fm-list-head">
            <Tabs
              label="Which sessions"
              tabs={SHELF_NAMES.map(([key, name]) => ({
                key,
                label: (
                  <>
                    {name} <span className="fm-faint">{sessions.filter((s) => s.shelf === key).length}</span>
                  </>
                ),
              }))}
              chosen={shelf}
              onChoose={show}
            />
            <TextInput
              type="search"
              className="fm-list-search"
              aria-label="Search sessions"
              placeholder="song, artist, project"
              value={search}
              onChange={(e) => setSearch(e.target.value)}
            />
            <span className="fm-top-spring" />
            <SelectionBar selected={selected} shelf={shelf} onPut={put} onDelete={setLeaving} />
          </div>
          <SessionsTable
            rows={listRows(found, order)}
            shelf={shelf}
            order={order}
            onOrder={setOrder}
            chosen={chosen}
            onChoose={setChosen}
            onMeasure={setMeasured}
            onOpenMatters={setOpened}
            onPut={put}
            onCopy={copy}
            onDelete={setLeaving}
          />
          {found.length === 0 && <NothingFound shelf={shelf} search={search} onClear={() => setSearch('')} />}
        </>
      )}
      {/* Under the list: only the browser knows whether it is wanted, and nothing may be pushed down when it comes. */}
      <WalkOffer sessions={sessions} />
      {making && (
        <NewSessionDialog
          onClose={() => setMaking(false)}
          onMade={(id) => router.push(`/sessions/${id}/intake`)}
        />
      )}
      {measured && <SpaceDialog session={measured} onClose={() => setMeasured(null)} onChanged={refresh} />}
      {opened !== null && (
        <OpenDialog
          project={opened}
          songs={songsOf(
            sessions.filter((s) => s.shelf === 'list'),
            opened,
          )}
          onClose={() => setOpened(null)}
        />
      )}
      {leaving.length > 0 && (
        <DeleteDialog
          sessions={leaving}
          onClose={() => setLeaving([])}
          onDelete={() => {
            setLeaving([]);
            setChosen(new Set());
            void deleteAll(leaving);
          }}
        />
      )}
    </main>
  );
}

/** The list as the server has it, looked at again and again, and what can be done to it. */
function useSessionList(initial: readonly SessionListItem[]) {
  const [sessions, setSessions] = useState(initial);
  const [fault, setFault] = useState<Fault | null>(null);
  const [moved, setMoved] = useState<Moved | null>(null);
  const refresh = (): void => void api<SessionListItem[]>('/api/sessions').then(setSessions, () => undefined);
  useEffect(() => {
    const timer = setInterval(refresh, POLL_MS);
    return () => clearInterval(timer);
  }, []);
  const act = async (work: () => Promise<unknown>): Promise<boolean> => {
    try {
      await work();
      return true;
    } catch (cause) {
      setFault(faultOf(cause));
      return false;
    } finally {
      refresh();
    }
  };
  return {
    sessions,
    fault,
    setFault,
    // Not of what has gone on since, by hand here or elsewhere.
    moved: moved?.songs.some((m) => sessions.some((s) => s.id === m.id)) ? moved : null,
    setMoved,
    refresh,
    shelve: async (songs: readonly SessionListItem[], to: Shelf): Promise<void> => {
      const from = songs[0]?.shelf;
      const ids = songs.map((s) => s.id);
      if (from === undefined || !(await act(() => api('/api/sessions/shelf', 'POST', { ids, shelf: to }))))
        return;
      setMoved({ songs, from, to });
    },
    copy: (song: SessionListItem): void => void act(() => api(`/api/sessions/${song.id}/copies`, 'POST')),
    deleteAll: (songs: readonly SessionListItem[]): Promise<boolean> =>
      act(async () => {
        for (const { id } of songs) await api(`/api/sessions/${id}`, 'DELETE');
      }),
  };
}

function NoSessions({ onMake }: { readonly onMake: () => void }) {
  return (
    <div className="fm-empty">
      <p>No sessions yet.</p>
      <p className="fm-faint">Make one, then drop the recordings of a song on it.</p>
      <Button tone="main" onClick={onMake}>
        New session
      </Button>
    </div>
  );
}

const EMPTY: Readonly<Record<Shelf, string>> = {
  list: 'No session is on the list: look in the archive and the waste basket, or make one.',
  archive: 'Nothing is in the archive. What is done with can be put here, out of the way and kept whole.',
  waste: 'The waste basket is empty.',
};

function NothingFound({
  shelf,
  search,
  onClear,
}: {
  readonly shelf: Shelf;
  readonly search: string;
  readonly onClear: () => void;
}) {
  if (search.trim() === '') return <p className="fm-faint fm-above-3">{EMPTY[shelf]}</p>;
  return (
    <p className="fm-above-3">
      No session here has “{search.trim()}” in its song, artist or project.{' '}
      <Button tone="link" onClick={onClear}>
        Clear the search
      </Button>
    </p>
  );
}
