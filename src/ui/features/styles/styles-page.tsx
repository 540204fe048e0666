'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import { type Fault, faultText, type StyleListItem } from '@/contracts';
import { api, faultOf } from '@/ui/client';
import { Button, FernMark, FileInput, Notice, ThemeSwitch, Menu } from '@/ui/kit';
import { CompareDialog } from './compare-dialog';

/** Larger files are no house styles. */
const LARGEST_FILE = 10 << 20;

/** All house styles: open, copy, take in, hand out, compare, and which one new sessions follow. */
export function StylesPage({
  initial,
  sessionId,
}: {
  readonly initial: readonly StyleListItem[];
  readonly sessionId: string | null;
}) {
  const router = useRouter();
  const [styles, setStyles] = useState(initial);
  const [fault, setFault] = useState<Fault | null>(null);
  const [comparing, setComparing] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const suffix = sessionId === null ? '' : `?session=${sessionId}`;
  const act = async (work: () => Promise<void>): Promise<void> => {
    setFault(null);
    try {
      await work();
    } catch (cause) {
      setFault(faultOf(cause));
    }
    await api<StyleListItem[]>('/api/styles').then(setStyles, () => undefined);
  };
  const importFile = async (given: File): Promise<void> => {
    if (given.size > LARGEST_FILE)
      return setFault({ code: 'style.not_readable', issues: ['it is larger than 10 MB'] });
    const text = await given.text();
    await act(async () => {
      const { id } = await api<{ id: string }>('/api/styles', 'POST', { text });
      router.push(`/styles/${id}${suffix}`);
    });
  };
  const copy = (s: StyleListItem): Promise<void> =>
    act(async () => {
      const { id } = await api<{ id: string }>('/api/styles', 'POST', {
        copyOf: { id: s.id },
        name: `${s.name}, copy`.slice(0, 80),
      });
      router.push(`/styles/${id}${suffix}`);
    });
  return (
    <main
      className="fm-sessions"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        const dropped = e.dataTransfer.files[0];
        if (dropped) void importFile(dropped);
      }}
    >
      <header className="fm-sessions-head">
        <Link href="/" aria-label="Fernmoss: all sessions">
          <FernMark />
        </Link>
        <h1>
          Fernmoss <span className="fm-faint">house styles</span>
        </h1>
        <span className="fm-faint">How a mixer wants names, colours, order, folders and sums.</span>
        <span className="fm-top-spring" />
        {sessionId !== null && (
          <Link href={`/sessions/${sessionId}/sort`} className="fm-quiet">
            Back to the session
          </Link>
        )}
        <Button onClick={() => setComparing(true)}>Compare two</Button>
        <Button tone="main" onClick={() => file.current?.click()}>
          Import a file
        </Button>
        <FileInput
          ref={file}
          accept=".yaml,.yml,.json"
          aria-label="House style file"
          onChange={(e) => {
            const chosen = e.target.files?.[0];
            e.target.value = '';
            if (chosen) void importFile(chosen);
          }}
        />
        <ThemeSwitch />
      </header>
      {fault && (
        <Notice tone="danger" onClose={() => setFault(null)}>
          {faultText(fault)}
        </Notice>
      )}
      <table className="fm-table">
        <thead>
          <tr>
            <th>House style</th>
            <th>Version</th>
            <th>Used by</th>
            <th>Last change</th>
            <th>
              <span className="fm-unseen">What can be done</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {styles.map((s) => {
            const newest = s.versions[0];
            const sessions = s.versions.flatMap((v) => v.sessions.map((x) => ({ ...x, version: v.version })));
            return (
              <tr key={s.id}>
                <td>
                  <Link href={`/styles/${s.id}${suffix}`} className="fm-strong-link">
                    {s.name}
                  </Link>
                  {s.isDefault && <div className="fm-note">new sessions follow it</div>}
                </td>
                <td>
                  v{newest?.version}
                  {newest?.note ? <div className="fm-note">{newest.note}</div> : null}
                </td>
                <td>
                  {sessions.length === 0 ? (
                    <span className="fm-faint">no session</span>
                  ) : (
                    <>
                      {sessions.slice(0, 3).map((x, i) => (
                        <span key={x.id}>
                          {i > 0 ? ', ' : ''}
                          <Link href={`/sessions/${x.id}/sort`}>{x.name}</Link>{' '}
                          <span className="fm-faint">v{x.version}</span>
                        </span>
                      ))}
                      {sessions.length > 3 ? ` and ${sessions.length - 3} more` : ''}
                    </>
                  )}
                </td>
                <td>
                  {newest && (
                    <time dateTime={newest.at} suppressHydrationWarning>
                      {new Date(newest.at).toLocaleString('en-GB', {
                        dateStyle: 'medium',
                        timeStyle: 'short',
                      })}
                    </time>
                  )}
                </td>
                <td className="fm-end">
                  <Menu
                    label="More"
                    name={`More of ${s.name}`}
                    items={[
                      { label: 'Make a copy', run: () => void copy(s) },
                      { label: 'Export as a file', file: `/api/styles/${s.id}/file` },
                      {
                        label: 'New sessions follow it',
                        isDisabled: s.isDefault,
                        run: () => void act(() => api(`/api/styles/${s.id}/default`, 'POST')),
                      },
                      'line',
                      {
                        label: s.isDefault
                          ? 'Remove: new sessions follow it'
                          : sessions.length > 0
                            ? 'Remove: sessions use it'
                            : 'Remove',
                        isDisabled: s.isDefault || sessions.length > 0,
                        run: () => void act(() => api(`/api/styles/${s.id}`, 'DELETE')),
                      },
                    ]}
                  />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="fm-faint fm-above-3">
        A file dropped here is imported as a new style.{' '}
        <a href="/api/styles/schema" download="house-style.schema.json">
          JSON Schema of the file
        </a>
      </p>
      {comparing && <CompareDialog styles={styles} onHide={() => setComparing(false)} />}
    </main>
  );
}
