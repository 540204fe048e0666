'use client';
import { type MouseEvent, useCallback, useMemo, useState } from 'react';
import { soundTracks } from '@/core/session';
import { useSession, useWorkbench } from '@/ui/client';
import { groupKeys } from '@/ui/strips';
import { keptChoice, Select, Table, useShortcuts } from '@/ui/kit';
import { chooseRow } from './choose-rows';
import { LADDER_SCALES, LADDERS, type LadderScale, placeOn, soundingAt } from './ladder';
import { LadderRow, OFFERED_WORDS, type TypedPlace } from './ladder-row';
import { walkKeys } from './use-tidy-keys';
import { type StripField, useStripEdits } from './use-strip-edits';
import type { TypedOn } from './typed-cell';

const SCALE_WORDS: Readonly<Record<LadderScale, string>> = {
  loudness: 'Loudness, LUFS',
  peak: 'Peak, dBFS',
};
const kept = keptChoice('fernmoss.ladder', LADDER_SCALES);
/** What a key adds: dB, and hundredths of the way to one side. */
const STEPS = { level: 0.5, pan: 5 } as const;
const FIELDS: readonly StripField[] = ['level', 'pan'];

/** Levels and pans of all tracks on two ladders, beside those that are offered: marks are pulled or typed. */
export function LevelsPane() {
  const session = useSession((s) => s.view.session);
  const result = useSession((s) => s.view.balance);
  const recordings = useSession((s) => s.view.recordings);
  const unknownColor = useSession((s) => s.view.style.colors.unknown);
  const current = useWorkbench((w) => w.current);
  const selected = useWorkbench((w) => w.selected);
  const scale = kept.use();
  const hand = useStripEdits();
  const [typedIn, setTypedIn] = useState<TypedPlace | null>(null);
  const tracks = useMemo(() => soundTracks(session), [session]);
  const byId = useMemo(() => new Map(recordings.map((r) => [r.id, r])), [recordings]);
  const chosen = tracks.filter((t) => selected.has(t.id)).length;
  const choose = useCallback(
    (event: MouseEvent, id: string) =>
      chooseRow(
        tracks.map((t) => t.id),
        event,
        id,
      ),
    [tracks],
  );
  const inHand = tracks.find((t) => t.id === current);
  const type = (field: StripField): void => {
    if (inHand) setTypedIn({ id: inHand.id, field });
  };
  useShortcuts([
    ...walkKeys(tracks.map((track) => ({ track }))),
    ...groupKeys(() => session),
    { key: 'enter', shift: false, run: () => type('level') },
    { key: 'enter', shift: true, run: () => type('pan') },
    { key: 'arrowright', run: () => hand.step('level', STEPS.level, inHand) },
    { key: 'arrowleft', run: () => hand.step('level', -STEPS.level, inHand) },
    { key: '.', run: () => hand.step('pan', STEPS.pan, inHand) },
    { key: ',', run: () => hand.step('pan', -STEPS.pan, inHand) },
  ]);
  /** Tab goes along the row, and on to the next one's. */
  const goOn = useCallback(
    ({ id, field }: TypedPlace, on: TypedOn): void => {
      const cells = tracks.flatMap((t) => FIELDS.map((f) => ({ id: t.id, field: f })));
      const at = cells.findIndex((c) => c.id === id && c.field === field);
      setTypedIn(on === null ? null : (cells[at + (on === 'next' ? 1 : -1)] ?? null));
    },
    [tracks],
  );
  return (
    <div className="fm-scroll fm-levels" tabIndex={0} role="region" aria-label="Levels">
      <Table className="fm-ladders">
        <Head scale={scale} hasOffers={result !== null} hasMix={result?.mixTrackId != null} />
        <tbody>
          {tracks.map((track) => (
            <LadderRow
              key={track.id}
              {...{ track, result, scale, hand }}
              groups={session.groups}
              sounding={soundingAt(scale, track, byId)}
              color={track.color ?? unknownColor}
              isSelected={track.id === current || selected.has(track.id)}
              isCurrent={track.id === current}
              targets={selected.has(track.id) ? chosen : 1}
              onChoose={choose}
              typedIn={typedIn?.id === track.id ? typedIn.field : null}
              onType={setTypedIn}
              onGoOn={goOn}
            />
          ))}
        </tbody>
      </Table>
    </div>
  );
}

function Head({
  scale,
  hasOffers,
  hasMix,
}: {
  readonly scale: LadderScale;
  readonly hasOffers: boolean;
  readonly hasMix: boolean;
}) {
  const ladder = LADDERS[scale];
  const rungs = Array.from(
    { length: Math.round((ladder.to - ladder.from) / ladder.rung) + 1 },
    (_, i) => ladder.from + i * ladder.rung,
  );
  return (
    <thead>
      <tr>
        <th scope="col">
          Track
          <span className="fm-ladder-legend">
            <span className="fm-ladder-sign is-now" /> now
            {hasOffers && (
              <>
                <span className="fm-ladder-sign is-rough" /> {OFFERED_WORDS.rough}
              </>
            )}
            {hasMix && (
              <>
                <span className="fm-ladder-sign is-mix" /> {OFFERED_WORDS.mix}
              </>
            )}
          </span>
        </th>
        <th scope="col">
          <Select
            className="fm-ladder-scale"
            aria-label="The ladder is read in"
            value={scale}
            onChange={(e) => kept.set(e.target.value as LadderScale)}
          >
            {LADDER_SCALES.map((s) => (
              <option key={s} value={s}>
                {SCALE_WORDS[s]}
              </option>
            ))}
          </Select>
          <span className="fm-ladder-rungs" aria-hidden="true">
            {rungs.map((db) => (
              <span key={db} style={{ left: `${placeOn(ladder, db) * 100}%` }}>
                {String(db).replace('-', '−')}
              </span>
            ))}
          </span>
        </th>
        <th scope="col" className="num">
          Level, dB
        </th>
        <th scope="col">
          Pan
          <span className="fm-ladder-rungs" aria-hidden="true">
            {['L', 'C', 'R'].map((side, i) => (
              <span key={side} style={{ left: `${i * 50}%` }}>
                {side}
              </span>
            ))}
          </span>
        </th>
        <th scope="col" className="num">
          <span className="fm-unseen">Pan, typed</span>
        </th>
      </tr>
    </thead>
  );
}
