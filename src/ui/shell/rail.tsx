'use client';
import Link from 'next/link';
import { usePathname } from 'next/navigation';
import { useMemo } from 'react';
import { DEFAULT_STYLE } from '@/core/style';
import { Kbd } from '@/ui/kit';
import { useSession, useWorkbench, workbench, lensesOf, stageStates } from '@/ui/client';

/** The stages with what is open in each, and the lenses over the sheet. */
export function Rail() {
  const view = useSession((s) => s.view);
  const lens = useWorkbench((w) => w.lens);
  const path = usePathname();
  const stages = useMemo(() => stageStates(view), [view]);
  const lenses = useMemo(() => lensesOf(view.session), [view.session]);
  return (
    <nav className="fm-rail" aria-label="Stages">
      <ul className="fm-stages">
        {stages.map((s) => {
          const here = path.endsWith(`/${s.key}`);
          return (
            <li key={s.key}>
              <Link href={`/sessions/${view.id}/${s.key}`} className={`fm-stage-link ${here ? 'is-here' : ''}`} aria-current={here ? 'page' : undefined}>
                <span>{s.name}</span>
                <span className={`fm-stage-note is-${s.state}`}>{s.state === 'done' && s.note === 'done' ? <><i className="bi bi-check-lg" aria-hidden="true" /><span className="visually-hidden">done</span></> : s.note}</span>
              </Link>
            </li>
          );
        })}
      </ul>
      {path.endsWith('/sort') && lenses.length > 1 && (
        <>
          <h2 className="fm-rail-head">Lenses</h2>
          <ul className="fm-lenses">
            {lenses.map((l) => (
              <li key={l.key}>
                <button type="button" className={`fm-lens ${lens === l.key ? 'is-here' : ''}`} aria-pressed={lens === l.key} onClick={() => workbench.setState({ lens: l.key })}>
                  {l.digit === null ? <span className="fm-lens-keyless" /> : <Kbd>{`⇧${l.digit}`}</Kbd>}
                  <span className="fm-lens-name">{l.name}</span>
                  <span className="fm-lens-count">{l.count}</span>
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
      <div className="fm-rail-foot">
        <div className="fm-faint">House style</div>
        <div>{DEFAULT_STYLE.name} <span className="fm-faint">v{DEFAULT_STYLE.version}</span></div>
      </div>
    </nav>
  );
}
