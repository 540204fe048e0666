'use client';
import { type MouseEvent, useCallback, useMemo, useState } from 'react';
import { soundTracks } from '@/core/session';
import { useSession, useWorkbench } from '@/ui/client';
import { groupKeys } from '@/ui/strips';
import { keptChoice, Select, Table, useShortcuts } from '@/ui/kit';
import { BusRow } from './bus-rows';
import { chooseRow } from './choose-rows';
import { LADDER_SCALES, LADDERS, type LadderScale, loudnessAtBuses, placeOn, soundingAt } from './ladder';
import { LadderRow, OFFERED_WORDS, type TypedPlace } from './ladder-row';
import { useBusEdits } from './use-bus-edits';
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

/** Levels and pans of all tracks on two ladders, beside those that are offered, and those of the buses: marks are pulled or typed. */
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
  const buses = useMemo(
    () => session.busOrder.flatMap((id) => session.buses[id] ?? []),
    [session.busOrder, session.buses],
  );
  const atBuses = useMemo(() => loudnessAtBuses(session, byId), [session, byId]);
  const ids = useMemo(() => [...tracks, ...buses].map((x) => x.id), [tracks, buses]);
  const busHand = useBusEdits();
  const chosen = tracks.filter((t) => selected.has(t.id)).length;
  const choose = useCallback((event: MouseEvent, id: string) => chooseRow(ids, event, id), [ids]);
  const inHand = tracks.find((t) => t.id === current);
  const busInHand = buses.find((b) => b.id === current);
  const type = (field: StripField): void => {
    const id = (inHand ?? busInHand)?.id;
    if (id !== undefined) setTypedIn({ id, field });
  };
  const step = (field: StripField, by: number): void => {
    if (busInHand) busHand.step(field, by, busInHand);
    else hand.step(field, by, inHand);
  };
  useShortcuts([
    ...walkKeys(ids),
    ...groupKeys(() => session),
    { key: 'enter', shift: false, run: () => type('level') },
    { key: 'enter', shift: true, run: () => type('pan') },
    { key: 'arrowright', run: () => step('level', STEPS.level) },
    { key: 'arrowleft', run: () => step('level', -STEPS.level) },
    { key: '.', run: () => step('pan', STEPS.pan) },
    { key: ',', run: () => step('pan', -STEPS.pan) },
  ]);
  /** Tab goes along the row, and on to the next one's. */
  const goOn = useCallback(
    ({ id, field }: TypedPlace, on: TypedOn): void => {
      const cells = ids.flatMap((of) => FIELDS.map((f) => ({ id: of, field: f })));
      const at = cells.findIndex((c) => c.id === id && c.field === field);
      setTypedIn(on === null ? null : (cells[at + (on === 'next' ? 1 : -1)] ?? null));
    },
    [ids],
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
        {buses.length > 0 && (
          <tbody aria-label="Buses">
            <tr className="fm-ladder-part">
              <th scope="rowgroup" colSpan={5}>
                Buses
              </th>
            </tr>
            {buses.map((bus) => (
              <BusRow
                key={bus.id}
                {...{ bus, scale }}
                comesAt={atBuses.get(bus.id) ?? null}
                isSelected={bus.id === current || selected.has(bus.id)}
                isCurrent={bus.id === current}
                hand={busHand}
                onChoose={choose}
                typedIn={typedIn?.id === bus.id ? typedIn.field : null}
                onType={setTypedIn}
                onGoOn={goOn}
              />
            ))}
          </tbody>
        )}
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
