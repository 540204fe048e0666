'use client';
import type { ReactNode } from 'react';
import { CompPanel } from './comp/comp-panel';
import { TakeSheet } from './comp/take-sheet';
import { useComp } from './comp/use-comp';
import { useCompKeys } from './comp/use-comp-keys';
import { TakesPane } from './takes-pane';

/** What was recorded several times: what is still to be packed, and putting together what is. */
export function TakesView({ above, evidence }: { readonly above: ReactNode; readonly evidence: ReactNode }) {
  const comp = useComp();
  useCompKeys(comp);
  return (
    <>
      <div className="fm-pane">
        {above}
        <TakesPane hasPacked={comp.rows.length > 0} />
        {comp.rows.length > 0 && <TakeSheet comp={comp} />}
      </div>
      {comp.track ? <CompPanel key={comp.track.id} comp={comp} track={comp.track} /> : evidence}
    </>
  );
}
