'use client';
import { selectOnly, useGoOn, useSession, useSessionStore } from '@/ui/client';
import { Button, Kbd, Notice, Progress, useShortcuts } from '@/ui/kit';
import { faultText } from '@/contracts';
import { LevelsPane } from './levels-pane';
import { LevelsPanel } from './levels-panel';
import { TidyHeader } from './tidy-header';
import { useBalances } from './use-balances';
import { nextView, type TidyView } from './tidy-views';

/** Levels and pans: as they are, by role, as in the sender's mix; heard, and taken as one step. */
export function Levels({ onView }: { readonly onView: (to: TidyView) => void }) {
  const store = useSessionStore();
  const sessionId = useSession((s) => s.view.id);
  const result = useSession((s) => s.view.balance);
  const job = useSession((s) => s.view.jobs.find((j) => j.kind === 'balance.find'));
  const isFinding = job?.state === 'queued' || job?.state === 'running';
  const hearing = useBalances();
  const goOn = useGoOn('tempo');
  const find = (): void => void store.getState().call(`/api/sessions/${sessionId}/balance`);
  const main = result ? goOn : find;
  const runMain = isFinding ? () => undefined : main;
  const heard =
    result?.mixTrackId != null
      ? (['now', 'rough', 'mix', 'mix-itself', 'neutral'] as const)
      : (['now', 'rough', 'neutral'] as const);
  useShortcuts([
    { key: 'b', run: () => onView(nextView('levels')) },
    { key: 'enter', mod: true, run: runMain },
    { key: 'escape', run: hearing.heard === null ? () => selectOnly(null) : hearing.stop },
    ...(result ? heard.map((key, i) => ({ key: String(i + 1), run: () => hearing.toggle(key) })) : []),
  ]);
  return (
    <section className="fm-split" aria-label="Tidy">
      <div className="fm-pane">
        <TidyHeader
          view="levels"
          onView={onView}
          main={
            <Button tone="main" disabled={isFinding} onClick={runMain}>
              {result ? 'On to Tempo' : 'Work out levels'} <Kbd>Ctrl ⏎</Kbd>
            </Button>
          }
        >
          {isFinding && (
            <span className="fm-tidy-progress">
              <Progress
                label="Working out levels"
                share={job.progress}
                onCancel={() => void store.getState().call(`/api/jobs/${job.id}/cancel`)}
              />
            </span>
          )}
        </TidyHeader>
        {job?.state === 'failed' && job.fault && (
          <Notice tone="danger" className="fm-tight">
            {faultText(job.fault)}
          </Notice>
        )}
        <LevelsPane />
      </div>
      <LevelsPanel hearing={hearing} onFind={find} isFinding={isFinding} />
    </section>
  );
}
