'use client';
import { isEntire } from '@/core/session';
import { useSession } from '@/ui/client';
import { Button, Clock, Kbd, Progress } from '@/ui/kit';
import { doubtsOf, goneOf, type TidyRow } from './tidy-rows';
import type { Proposals } from './use-proposals';
import { TidyHeader } from './tidy-header';
import type { TidyView } from './tidy-views';

/** The head of the cuts: how far the proposals are, what they come to, and what is next. */
export function TidyHead({
  onView,
  rows,
  proposals,
  isBusy,
  waits,
  onMain,
}: {
  readonly onView: (to: TidyView) => void;
  readonly rows: readonly TidyRow[];
  readonly proposals: Proposals;
  readonly isBusy: boolean;
  /** Nothing can be done yet. */
  readonly waits: boolean;
  readonly onMain: () => void;
}) {
  const ticked = rows.filter((r) => r.ticked === true).length;
  const next = ticked > 0 ? `Cut ${ticked} of ${rows.length}` : 'On to Tempo';
  return (
    <TidyHeader
      view="cuts"
      onView={onView}
      main={
        <Button tone="main" disabled={waits} onClick={onMain}>
          {isBusy ? 'Cutting …' : next} <Kbd>Ctrl ⏎</Kbd>
        </Button>
      }
    >
      <HowFar rows={rows} proposals={proposals} />
    </TidyHeader>
  );
}

function HowFar({
  rows,
  proposals: { progress, waiting },
}: {
  readonly rows: readonly TidyRow[];
  readonly proposals: Proposals;
}) {
  if (waiting > 0)
    return (
      <span role="status">
        {waiting} {waiting === 1 ? 'recording is' : 'recordings are'} listened to first
      </span>
    );
  if (progress !== null)
    return (
      <span className="fm-tidy-progress">
        <Progress
          label={`Weighing ${progress.of} tracks`}
          share={progress.of > 0 ? progress.done / progress.of : null}
        />
      </span>
    );
  const doubts = doubtsOf(rows).length;
  return (
    <>
      <WhatGoes rows={rows} />
      {doubts > 0 && (
        <span className="fm-attention">
          <b>{doubts}</b> to hear <Kbd>N</Kbd>
        </span>
      )}
    </>
  );
}

/** What the ticked rows come to; where none is, what there is instead. */
function WhatGoes({ rows }: { readonly rows: readonly TidyRow[] }) {
  const rateHz = useSession((s) => s.view.session.sampleRateHz) ?? 48_000;
  const ticked = rows.filter((r) => r.ticked === true);
  const cut = rows.filter((r) => !isEntire(r.track)).length;
  if (ticked.length > 0)
    return (
      <span>
        <b>
          <Clock seconds={ticked.reduce((sum, r) => sum + goneOf(r, rateHz).seconds, 0)} decimals={0} />
        </b>{' '}
        would go of {ticked.length} {ticked.length === 1 ? 'track' : 'tracks'}
      </span>
    );
  if (cut > 0)
    return (
      <span>
        <b>{cut}</b> of {rows.length} tracks are cut
      </span>
    );
  return (
    <span>
      {rows.some((r) => r.ticked === false) ? 'Nothing is ticked' : 'Nothing was found that would go'}
    </span>
  );
}
