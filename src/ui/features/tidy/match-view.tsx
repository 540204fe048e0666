'use client';
import { useMemo, useState } from 'react';
import type { MatchRules } from '@/core/matching';
import {
  namesStateOf,
  selectOnly,
  proposalOf,
  useNamesRead,
  useSession,
  useSessionStore,
  useGoOn,
  useWorkbench,
} from '@/ui/client';
import { Button, Kbd, Notice, Progress, useShortcuts } from '@/ui/kit';
import { knownTracks } from './known-tracks';
import { MatchPanel } from './match-panel';
import { matchChanges, matchedTogether, type MatchRow, matchRows, unmatched } from './match-rows';
import { MatchTable } from './match-table';
import { TidyHeader } from './tidy-header';
import { useMatchHearing } from './use-match-hearing';
import { useMeasures } from './use-measures';
import { walkKeys } from './use-tidy-keys';
import { nextView, type TidyView } from './tidy-views';

/** Rules and ticks as they were left, for as long as the page is open. */
const kept = new Map<string, { readonly rules: Partial<MatchRules>; readonly left: ReadonlySet<string> }>();
const AS_HOUSE = { rules: {}, left: new Set<string>() };

/** Levels of tracks brought to each other: the gain and what comes of it before anything happens, then as one step. */
export function Match({ onView }: { readonly onView: (to: TidyView) => void }) {
  const store = useSessionStore();
  const { rows, rules, setRules, left, setLeft, measures, isOwn } = useMatching();
  const goOn = useGoOn('tempo');
  const ticked = rows.filter((r) => r.matched?.changes && !left.has(r.track.id));
  const match = (): void => {
    const label = ticked.length === 1 ? `Match ${ticked[0]?.track.name}` : `Match ${ticked.length} tracks`;
    hearing.stop();
    store.getState().commit(label, matchChanges(ticked));
  };
  const neutral = unmatched(rows.map((r) => r.track));
  const tick = (ids: readonly string[], on: boolean): void => {
    const next = new Set(left);
    for (const id of matchedTogether(rows, ids))
      if (on) next.delete(id);
      else next.add(id);
    setLeft(next);
  };
  const hearing = useMatchHearing(ticked);
  const runMain = ticked.length > 0 ? match : goOn;
  const selected = useWorkbench((w) => w.selected);
  useShortcuts([
    ...walkKeys(rows.map((r) => r.track.id)),
    { key: 'b', run: () => onView(nextView('match')) },
    { key: 'enter', mod: true, run: runMain },
    ...(ticked.length > 0
      ? [
          { key: '1', run: () => hearing.toggle('now') },
          { key: '2', run: () => hearing.toggle('matched') },
        ]
      : []),
    { key: 'escape', run: hearing.heard === null ? () => selectOnly(null) : hearing.stop },
    {
      key: 'x',
      run: () =>
        tick(
          [...selected],
          rows.some((r) => selected.has(r.track.id) && left.has(r.track.id)),
        ),
    },
  ]);
  return (
    <section className="fm-split" aria-label="Tidy">
      <div className="fm-pane">
        <TidyHeader
          view="match"
          onView={onView}
          main={
            <Button tone="main" onClick={runMain}>
              {ticked.length > 0 ? `Match ${ticked.length} of ${rows.length}` : 'On to Tempo'}{' '}
              <Kbd>Ctrl ⏎</Kbd>
            </Button>
          }
        >
          {measures.isMeasuring ? (
            <span className="fm-tidy-progress">
              <Progress label="Measuring" share={measures.share} onCancel={measures.cancel} />
            </span>
          ) : (
            <WhatChanges rows={rows} ticked={ticked.length} />
          )}
        </TidyHeader>
        {measures.failed && (
          <Notice tone="warning" className="fm-tight">
            How loud the tracks are could not be measured.{' '}
            <Button onClick={measures.again}>Measure again</Button>
          </Notice>
        )}
        <MatchTable rows={rows} left={left} onTick={tick} isMeasuring={measures.isMeasuring} />
      </div>
      <MatchPanel
        rows={rows}
        rules={rules}
        isOwn={isOwn}
        hearing={hearing}
        canHear={ticked.length > 0}
        onRules={setRules}
        onNeutral={
          neutral.length > 0 ? () => store.getState().commit('Gains of pieces to 0 dB', neutral) : null
        }
      />
    </section>
  );
}

/** The rows under the rules in force: the house's, and what was set otherwise here. */
function useMatching() {
  const view = useSession((s) => s.view);
  const house = view.style.matching;
  const [hand, setHand] = useState(kept.get(view.id) ?? AS_HOUSE);
  const keep = (next: typeof hand): void => {
    kept.set(view.id, next);
    setHand(next);
  };
  const rules = useMemo(() => ({ ...house, ...hand.rules }), [house, hand]);
  const measures = useMeasures();
  useNamesRead();
  const names = namesStateOf(view);
  const proposal = proposalOf(view);
  const rows = useMemo(
    () => (names === 'reading' ? [] : matchRows(knownTracks(view.session, proposal), measures.result, rules)),
    [names, view.session, proposal, measures.result, rules],
  );
  return {
    rows,
    rules,
    measures,
    left: hand.left,
    isOwn: Object.keys(hand.rules).length > 0,
    setLeft: (left: ReadonlySet<string>) => keep({ ...hand, left }),
    /** Null = as the house has them. */
    setRules: (change: Partial<MatchRules> | null) =>
      keep({ ...hand, rules: change === null ? {} : { ...hand.rules, ...change } }),
  };
}

function WhatChanges({ rows, ticked }: { readonly rows: readonly MatchRow[]; readonly ticked: number }) {
  const matched = rows.filter((r) => r.matched !== null && !r.matched.changes).length;
  const open = rows.filter((r) => r.matched?.changes).length;
  if (open > 0)
    return (
      <span>
        <b>{ticked}</b> of {rows.length} would be turned up or down
      </span>
    );
  return matched > 0 ? (
    <span>
      <b>{matched}</b> {matched === 1 ? 'track is' : 'tracks are'} at the level wanted
    </span>
  ) : null;
}
