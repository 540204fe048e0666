'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useDeferredValue, useEffect, useMemo, useState, useSyncExternalStore, type ReactNode } from 'react';
import { type ReadList, type Fault, faultText, type SessionView, type StyleView } from '@/contracts';
import { type Edit, SONG_ID } from '@/core/session';
import { compareStyles, type StylePart } from '@/core/style';
import { api, faultOf, useFirstNames, useNamesRead, usePatternsSoon } from '@/ui/client';
import { Button, FernMark, Icon, Kbd, Notice, ThemeSwitch, useShortcuts } from '@/ui/kit';
import { type BenchMaterial, benchRows } from './bench-rows';
import { HistoryPart } from './parts/history-part';
import { ColorsPart } from './parts/colors-part';
import { FoldersPart } from './parts/folders-part';
import { LensesPart } from './parts/lenses-part';
import { DeliveryPart, NamesPart } from './parts/names-part';
import { OrderPart } from './parts/order-part';
import { RoutingPart } from './parts/routing-part';
import type { PartProps } from './parts/part';
import { RulesPart } from './parts/rules-part';
import { TidyPart } from './parts/tidy-part';
import { WordsPart } from './parts/words-part';
import { SaveDialog } from './save-dialog';
import { TestBench } from './test-bench';
import { TextField } from './fields';
import { useStyleDraft } from './use-style-draft';

const PARTS: readonly (readonly [StylePart, string, (props: PartProps) => ReactNode])[] = [
  ['words', 'Words', WordsPart],
  ['names', 'Names', NamesPart],
  ['rules', 'Rules', RulesPart],
  ['colours', 'Colours', ColorsPart],
  ['order', 'Order', OrderPart],
  ['folders', 'Folders, sums', FoldersPart],
  ['routing', 'Routing', RoutingPart],
  ['tidy', 'Cuts, matching', TidyPart],
  ['lenses', 'Lenses', LensesPart],
  ['delivery', 'Delivered files', DeliveryPart],
];

/** The tenth part is at 0. */
const digitOf = (index: number): string => String((index + 1) % 10);

/** The part an address names. */
const partIn = (text: string | null): StylePart | 'history' =>
  text === 'history' ? text : (PARTS.find(([key]) => key === text)?.[0] ?? 'rules');

const TRIED = [
  'KICK in_03.wav',
  'Sn top.wav',
  'OHL.wav',
  'OHR.wav',
  'BassDI.wav',
  'Gtr dbl L.wav',
  'Gtr dbl R.wav',
  'LeadVox comp.wav',
  'bv hi 1.wav',
  'shaker.wav',
  'rec0011.wav',
  'rough mix.wav',
].join('\n');
const TRIED_KEY = 'fernmoss-style-names';

/** The names to try, kept in this browser. */
function useTriedNames(): readonly [string, (text: string) => void] {
  const text = useSyncExternalStore(
    (changed) => {
      window.addEventListener(TRIED_KEY, changed);
      return () => window.removeEventListener(TRIED_KEY, changed);
    },
    () => window.localStorage.getItem(TRIED_KEY) ?? TRIED,
    () => TRIED,
  );
  return [
    text,
    (next) => {
      window.localStorage.setItem(TRIED_KEY, next);
      window.dispatchEvent(new Event(TRIED_KEY));
    },
  ];
}

/** A house style, every part of it, tried while it is changed and kept as its next version. */
export function StyleEditor({
  initial,
  session,
  names,
  openAt,
}: {
  readonly initial: StyleView;
  /** Names of the session as the server read them with this style. */
  readonly names: readonly ReadList[];
  readonly session: SessionView | null;
  readonly openAt: string | null;
}) {
  const router = useRouter();
  useFirstNames(names);
  const [kept, setKept] = useState(initial);
  const draft = useStyleDraft(kept.id, kept.style);
  const [part, setPart] = useState<StylePart | 'history'>(partIn(openAt));
  const [fault, setFault] = useState<Fault | null>(null);
  const [saving, setSaving] = useState(false);
  const [usesSession, setUsesSession] = useState(session !== null);
  const [text, setText] = useTriedNames();
  useEffect(() => {
    const warn = (e: BeforeUnloadEvent): void => {
      if (draft.isChanged) e.preventDefault();
    };
    window.addEventListener('beforeunload', warn);
    return () => window.removeEventListener('beforeunload', warn);
  }, [draft.isChanged]);

  // Typing stays quick: what is tried follows.
  const tried = useDeferredValue(draft.style);
  const material = useMemo(
    (): BenchMaterial =>
      usesSession && session
        ? { view: session }
        : {
            names: text
              .split('\n')
              .map((l) => l.trim())
              .filter((l) => l !== '')
              .slice(0, 1000),
          },
    [usesSession, session, text],
  );
  // Made anew once names are read, and once patterns can be tried.
  const known = `${useNamesRead()} ${usePatternsSoon()}`;
  // eslint-disable-next-line react-hooks/exhaustive-deps -- what is known is no argument
  const now = useMemo(() => benchRows(tried, material), [tried, material, known]);
  // eslint-disable-next-line react-hooks/exhaustive-deps -- the same
  const before = useMemo(() => benchRows(kept.style, material), [kept.style, material, known]);
  const differences = useMemo(() => compareStyles(kept.style, draft.style), [kept.style, draft.style]);
  const counted = usesSession && session ? `tracks of ${session.session.name}` : 'names under “Try it”';

  const save = async (note: string, follow: boolean): Promise<void> => {
    setSaving(false);
    setFault(null);
    try {
      const { version } = await api<{ version: number }>(`/api/styles/${kept.id}`, 'POST', {
        base: kept.version,
        style: draft.style,
        note,
      });
      if (follow && session)
        await api(`/api/sessions/${session.id}/edits`, 'POST', {
          baseRevision: (await api<SessionView>(`/api/sessions/${session.id}`)).revision,
          label: `Follow ${draft.style.name} v${version}`,
          edits: [
            { kind: 'patch', of: 'song', id: SONG_ID, fields: { style: { id: kept.id, version } } },
          ] satisfies Edit[],
        });
      const fresh = await api<StyleView>(`/api/styles/${kept.id}`);
      setKept(fresh);
      draft.reset(fresh.style);
    } catch (cause) {
      setFault(faultOf(cause));
    }
  };
  const keepApart = async (): Promise<void> => {
    try {
      const { id } = await api<{ id: string }>('/api/styles', 'POST', {
        copyOf: { id: kept.id, version: kept.version },
        name: `${draft.style.name}, mine`.slice(0, 80),
      });
      await api(`/api/styles/${id}`, 'POST', {
        base: 1,
        style: { ...draft.style, name: `${draft.style.name}, mine`.slice(0, 80) },
        note: '',
      });
      draft.reset(kept.style);
      router.push(`/styles/${id}${session ? `?session=${session.id}` : ''}`);
    } catch (cause) {
      setFault(faultOf(cause));
    }
  };
  const canSave = draft.isChanged && draft.issues.length === 0;
  const go = (to: StylePart | 'history'): void => {
    setPart(to);
    window.history.replaceState(
      null,
      '',
      `?${new URLSearchParams({ ...(session ? { session: session.id } : {}), part: to }).toString()}`,
    );
  };
  useShortcuts([
    { key: 'z', mod: true, shift: false, run: draft.undo },
    { key: 'z', mod: true, shift: true, run: draft.redo },
    {
      key: 'enter',
      mod: true,
      run: () => {
        if (canSave) setSaving(true);
      },
    },
    ...PARTS.map(([key], i) => ({ key: digitOf(i), run: () => go(key) })),
  ]);
  const Part = PARTS.find(([key]) => key === part)?.[2];
  return (
    <div className="fm-style-frame">
      <header className="fm-top">
        <Link href="/" className="fm-brand" aria-label="Fernmoss: all sessions">
          <FernMark />
        </Link>
        <h1 className="fm-unseen">House style {draft.style.name}</h1>
        <Link href={`/styles${session ? `?session=${session.id}` : ''}`} className="fm-quiet">
          House styles
        </Link>
        <TextField
          label="Name of the house style"
          hidden
          value={draft.style.name}
          className="fm-style-name"
          onKeep={(t) => (t.trim() === '' ? 'give it a name' : draft.change({ name: t.trim().slice(0, 80) }))}
        />
        <span className="fm-mono">v{kept.version}</span>
        <span className={draft.isChanged ? 'fm-attention' : 'fm-faint'} role="status">
          {draft.isChanged
            ? `${differences.length} ${differences.length === 1 ? 'unsaved change' : 'unsaved changes'}`
            : 'saved'}
        </span>
        <div className="fm-top-spring" />
        {session && (
          <Link href={`/sessions/${session.id}/sort`} className="fm-quiet">
            Back to {session.session.name}
          </Link>
        )}
        <Button
          tone="quiet"
          disabled={!draft.canUndo}
          onClick={draft.undo}
          aria-label="Undo"
          title="Undo (Ctrl Z)"
        >
          <Icon name="arrow-counterclockwise" />
        </Button>
        <Button
          tone="quiet"
          disabled={!draft.canRedo}
          onClick={draft.redo}
          aria-label="Redo"
          title="Redo (Ctrl ⇧ Z)"
        >
          <Icon name="arrow-clockwise" />
        </Button>
        <Button tone="main" disabled={!canSave} onClick={() => setSaving(true)}>
          Save as v{kept.version + 1} <Kbd>Ctrl ⏎</Kbd>
        </Button>
        <ThemeSwitch />
      </header>
      <nav className="fm-rail" aria-label="Parts of the house style">
        <ul className="fm-stages">
          {[
            ...PARTS.map(([key, label], i) => [key, label, digitOf(i)] as const),
            ['history', 'Versions', null] as const,
          ].map(([key, label, digit]) => (
            <li key={key}>
              <Button
                tone="bare"
                className={`fm-stage-link ${part === key ? 'is-here' : ''}`}
                aria-current={part === key ? 'page' : undefined}
                onClick={() => go(key)}
              >
                <span>{label}</span>
                {differences.some((d) => d.part === key) ? (
                  <span className="fm-stage-note is-open">changed</span>
                ) : digit ? (
                  <Kbd>{digit}</Kbd>
                ) : (
                  <span className="fm-stage-note">{kept.versions.length}</span>
                )}
              </Button>
            </li>
          ))}
        </ul>
        <div className="fm-rail-foot">
          <a href={`/api/styles/${kept.id}/file?version=${kept.version}`} download>
            Export as a file
          </a>
        </div>
      </nav>
      <main className="fm-style-part">
        {fault && (
          <Notice tone="danger" onClose={() => setFault(null)}>
            {faultText(fault)}
            {fault.code === 'style.stale' && (
              <div className="fm-above-2">
                <Button onClick={() => void keepApart()}>Save mine as a new style</Button>
              </div>
            )}
          </Notice>
        )}
        {draft.issues.length > 0 && (
          <Notice tone="warning">
            <b>Fix before saving:</b>
            <ul className="fm-tight">
              {draft.issues.slice(0, 6).map((i) => (
                <li key={i.path + i.message}>{i.message}</li>
              ))}
            </ul>
          </Notice>
        )}
        <h2 className="fm-unseen">{PARTS.find(([key]) => key === part)?.[1] ?? 'Versions'}</h2>
        {Part ? (
          <Part style={draft.style} change={draft.change} hits={now.hits} counted={counted} />
        ) : (
          <HistoryPart
            kept={kept}
            onTake={(style) => {
              draft.change({ ...style, version: kept.version });
              go('rules');
            }}
          />
        )}
      </main>
      <TestBench
        session={session?.session.name ?? null}
        usesSession={usesSession && session !== null}
        onUse={setUsesSession}
        text={text}
        onText={setText}
        rows={now.rows}
        before={before.rows}
      />
      {saving && (
        <SaveDialog
          name={draft.style.name}
          version={kept.version + 1}
          differences={differences}
          session={session?.session.name ?? null}
          onSave={(note, follow) => void save(note, follow)}
          onHide={() => setSaving(false)}
        />
      )}
    </div>
  );
}
