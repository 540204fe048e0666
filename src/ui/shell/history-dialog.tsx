'use client';
import { useEffect, useRef, useState, type FormEvent, type KeyboardEvent } from 'react';
import { type Fault, faultText, type HistoryView, type ReturnView } from '@/contracts';
import { api, faultOf, useSession, useSessionStore } from '@/ui/client';
import { Button, Dialog, Icon, TextInput } from '@/ui/kit';
import { summaryLines } from './history-words';

/** A place to go back to. */
interface HistoryPoint {
  readonly key: string;
  readonly revision: number;
  readonly title: string;
  readonly note: string;
  readonly checkpointId: string | null;
}

const time = (iso: string): string =>
  new Date(iso).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
const by = { person: '', intake: ' · Intake', demo: ' · demo', style: ' · by itself' } as const;
const verb = { do: '', undo: 'Undo: ', redo: 'Again: ' } as const;

/** All there is to go back to: checkpoints first, then every step, the state as received last. */
function historyPoints({ steps, checkpoints }: HistoryView): HistoryPoint[] {
  return [
    ...checkpoints.map((c) => ({
      key: c.id,
      revision: c.revision,
      title: c.name,
      note: `checkpoint · ${time(c.at)}`,
      checkpointId: c.id,
    })),
    ...steps.map((s) => ({
      key: `r${s.revision}`,
      revision: s.revision,
      title: `${verb[s.action]}${s.label}`,
      note: `${time(s.at)}${by[s.author]}${s.handovers.map((n) => ` · handed over as v${n}`).join('')}`,
      checkpointId: null,
    })),
    {
      key: 'received',
      revision: 0,
      title: 'As received',
      note: 'everything that came, nothing that was done',
      checkpointId: null,
    },
  ];
}

/** What was done, and the way back to any of it. */
export function HistoryDialog({ onClose }: { readonly onClose: () => void }) {
  const store = useSessionStore();
  const { id, revision } = useSession((s) => s.view);
  const [history, setHistory] = useState<HistoryView | null>(null);
  const [fault, setFault] = useState<Fault | null>(null);
  const [name, setName] = useState('');
  const [chosen, setChosen] = useState<string | null>(null);
  const [looked, setLooked] = useState<{ readonly of: number; readonly view: ReturnView } | null>(null);
  const list = useRef<HTMLDivElement>(null);
  const places = history ? historyPoints(history) : [];
  const place = places.find((p) => p.key === chosen) ?? null;
  const preview = looked?.of === place?.revision ? (looked?.view ?? null) : null;
  const isNow = place !== null && preview !== null && preview.steps === 0;

  const failed = (cause: unknown): void => setFault(faultOf(cause));
  const load = (): void => void api<HistoryView>(`/api/sessions/${id}/history`).then(setHistory, failed);
  // The list follows the session while it is open: other windows go on working.
  useEffect(load, [id, revision]);
  useEffect(() => {
    if (!place) return;
    let live = true;
    api<ReturnView>(`/api/sessions/${id}/return?revision=${place.revision}`).then((view) => {
      if (live) setLooked({ of: place.revision, view });
    }, failed);
    return () => {
      live = false;
    };
    // By its revision: the list itself is made anew at each look.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [id, revision, place?.revision]);

  const mark = (event: FormEvent): void => {
    event.preventDefault();
    if (name.trim() === '') return;
    void api<{ id: string }>(`/api/sessions/${id}/checkpoints`, 'POST', { name: name.trim() }).then(
      ({ id: made }) => {
        setName('');
        setChosen(made);
        load();
      },
      failed,
    );
  };
  const forget = (checkpointId: string): void =>
    void api(`/api/checkpoints/${checkpointId}`, 'DELETE').then(load, failed);
  const goBack = async (): Promise<void> => {
    if (!place || !preview || preview.steps === 0) return;
    if (
      await store
        .getState()
        .call(`/api/sessions/${id}/return`, { revision: place.revision, baseRevision: preview.revision })
    )
      onClose();
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    const by1 = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) void goBack();
    else if (by1 === undefined) return;
    else {
      const next =
        places[Math.max(0, Math.min(places.length - 1, places.findIndex((p) => p.key === chosen) + by1))];
      if (next) {
        setChosen(next.key);
        list.current?.querySelector(`[data-key="${next.key}"]`)?.scrollIntoView({ block: 'nearest' });
      }
    }
    event.preventDefault();
  };
  return (
    <Dialog
      title="History"
      isWide
      className="fm-history-dialog"
      onClose={onClose}
      footer={<Button onClick={onClose}>Close</Button>}
    >
      <div className="fm-history-left">
        <form onSubmit={mark} className="fm-line fm-below-2">
          <TextInput
            aria-label="Name of the checkpoint"
            placeholder="Name the session as it is now"
            value={name}
            maxLength={80}
            onChange={(e) => setName(e.target.value)}
          />
          <Button type="submit" disabled={name.trim() === ''}>
            Make checkpoint
          </Button>
        </form>
        {/* Focus stays on the list while arrows choose. */}
        <div
          ref={list}
          className="fm-scroll fm-history-list"
          role="listbox"
          aria-label="States to go back to"
          tabIndex={0}
          aria-activedescendant={chosen ? `history-${chosen}` : undefined}
          onKeyDown={onKeyDown}
        >
          {places.map((p) => (
            <div
              key={p.key}
              id={`history-${p.key}`}
              data-key={p.key}
              role="option"
              aria-selected={chosen === p.key}
              className={`fm-history-row ${chosen === p.key ? 'is-here' : ''}`}
              onClick={() => setChosen(p.key)}
            >
              <Icon
                name={p.checkpointId ? 'bookmark-fill' : p.revision === 0 ? 'inbox' : 'dot'}
                className={p.checkpointId ? 'fm-good' : ''}
              />
              <span className="fm-grow">
                <span className={p.checkpointId || p.revision === 0 ? 'fm-strong' : undefined}>
                  {p.title}
                </span>
                {p.revision === revision && <span className="fm-good"> · now</span>}
                <span className="fm-faint fm-block">{p.note}</span>
              </span>
            </div>
          ))}
        </div>
      </div>
      <div className="fm-history-right" aria-live="polite">
        {fault && <p className="fm-attention">{faultText(fault)}</p>}
        {!place ? (
          <p className="fm-faint">Choose a state to see what going back to it would change.</p>
        ) : (
          <>
            <h3>Going back to “{place.title}”</h3>
            {preview === null ? (
              <p className="fm-faint">Working it out …</p>
            ) : isNow ? (
              <p>The session is like that now.</p>
            ) : (
              <>
                <ul className="fm-indent-3">
                  {summaryLines(preview.summary).map((line) => (
                    <li key={line}>{line}</li>
                  ))}
                </ul>
                <p className="fm-faint">
                  One step, which can be undone. Recordings that came since stay. Packages stay.
                </p>
                <Button tone="main" onClick={() => void goBack()}>
                  Go back to this
                </Button>
              </>
            )}
            {place.checkpointId !== null && (
              <p className="fm-above-3 fm-tight">
                <Button tone="quiet" onClick={() => forget(place.checkpointId as string)}>
                  Delete checkpoint
                </Button>{' '}
                <span className="fm-faint">The steps stay.</span>
              </p>
            )}
          </>
        )}
      </div>
    </Dialog>
  );
}
