'use client';
import Link from 'next/link';
import { usePathname } from 'next/navigation';
import { useMemo, useRef } from 'react';
import { Button, Icon, Kbd, TextInput, useShortcuts } from '@/ui/kit';
import {
  useSession,
  useSessionStore,
  useWorkbench,
  workbench,
  chooseLens,
  lensesOf,
  stageStates,
} from '@/ui/client';

/** The stages with what is open in each, and the lenses over the sheet. */
export function Rail() {
  const view = useSession((s) => s.view);
  const chosen = useWorkbench((w) => w.lenses);
  const filter = useWorkbench((w) => w.filter);
  const search = useRef<HTMLInputElement>(null);
  const isHere = (key: string): boolean =>
    key === 'all' ? chosen.size === 0 && filter === '' : chosen.has(key);
  useShortcuts(useMemo(() => [{ key: '/', run: () => search.current?.focus() }], []));
  const path = usePathname();
  const stages = useMemo(() => stageStates(view), [view]);
  const lenses = useMemo(() => lensesOf(view), [view]);
  return (
    <nav className="fm-rail" aria-label="Stages">
      <ul className="fm-stages">
        {stages.map((s) => {
          const here = path.endsWith(`/${s.key}`);
          return (
            <li key={s.key}>
              <Link
                href={`/sessions/${view.id}/${s.key}`}
                className={`fm-stage-link ${here ? 'is-here' : ''}`}
                aria-current={here ? 'page' : undefined}
              >
                <span>{s.name}</span>
                <span className={`fm-stage-note is-${s.state}`}>
                  {s.state === 'done' && s.note === 'done' ? (
                    <>
                      <Icon name="check-lg" />
                      <span className="fm-unseen">done</span>
                    </>
                  ) : (
                    s.note
                  )}
                </span>
              </Link>
            </li>
          );
        })}
      </ul>
      {path.endsWith('/sort') && (
        <>
          <h2 className="fm-rail-head">Lenses</h2>
          <TextInput
            ref={search}
            className="fm-filter"
            type="search"
            placeholder="name, family  /"
            aria-label="Show only rows whose names, family or part have these words"
            value={filter}
            onChange={(e) => workbench.setState({ filter: e.target.value })}
            onKeyDown={(e) => {
              if (e.key === 'Escape') {
                workbench.setState({ filter: '' });
                e.currentTarget.blur();
              }
              if (e.key === 'Enter') e.currentTarget.blur();
            }}
          />
          <ul className="fm-lenses">
            {lenses.map((l) => (
              <li key={l.key}>
                <Button
                  tone="bare"
                  className={`fm-lens ${isHere(l.key) ? 'is-here' : ''}`}
                  aria-pressed={isHere(l.key)}
                  title={l.key === 'all' ? undefined : 'Ctrl: together with the others'}
                  onClick={(e) => chooseLens(l.key, e.ctrlKey || e.metaKey)}
                >
                  {l.digit === null ? <span className="fm-lens-keyless" /> : <Kbd>{`⇧${l.digit}`}</Kbd>}
                  <span className="fm-lens-name">{l.name}</span>
                  <span className="fm-lens-count">{l.count}</span>
                </Button>
              </li>
            ))}
          </ul>
        </>
      )}
      <div className="fm-rail-foot">
        <div className="fm-faint">House style</div>
        <StyleInUse />
      </div>
    </nav>
  );
}

/** The house style of the session, the way to it, and what is newer. */
function StyleInUse() {
  const { id, session, style, styleNewest } = useSession((s) => s.view);
  const store = useSessionStore();
  const name = (
    <>
      {style.name} <span className="fm-faint">v{style.version}</span>
    </>
  );
  const { style: ref } = session;
  return (
    <>
      <div>
        {ref ? (
          <Link href={`/styles/${ref.id}?session=${id}&part=rules`} className="fm-strong-link">
            {name}
          </Link>
        ) : (
          <Link href={`/styles?session=${id}`} className="fm-strong-link">
            {name}
          </Link>
        )}
      </div>
      {ref && styleNewest !== null && styleNewest > ref.version && (
        <Button
          tone="link"
          onClick={() =>
            store
              .getState()
              .commit(`Follow ${style.name} v${styleNewest}`, [
                { kind: 'style.use', style: { id: ref.id, version: styleNewest } },
              ])
          }
        >
          v{styleNewest} is there: follow it
        </Button>
      )}
    </>
  );
}
