'use client';
import {
  isByPeak,
  MATCH_LIMITS,
  MATCH_MEASURES,
  MATCH_UNITS,
  MATCH_WORDS,
  type MatchMeasure,
  type MatchRules,
  type MatchUnit,
} from '@/core/matching';
import { FAMILIES, type Family } from '@/core/naming';
import { useSession, useWorkbench } from '@/ui/client';
import { Button, Clock, formatDb, Labelled, Line, NumberField, Select } from '@/ui/kit';
import type { MatchRow } from './match-rows';
import { signed } from './match-table';
import type { MatchedWay, MatchHearing } from './use-match-hearing';
import { WaysToHear, type WayToHear } from './ways-to-hear';

const MATCHED_WAYS: readonly WayToHear<MatchedWay>[] = [
  { way: 'now', words: 'As they are', keyCap: '1' },
  { way: 'matched', words: 'As the table says', keyCap: '2' },
];

/** What tracks are matched by, and to what; what is selected piece by piece. */
export function MatchPanel({
  rows,
  rules,
  isOwn,
  hearing,
  canHear,
  onRules,
  onNeutral,
}: {
  readonly rows: readonly MatchRow[];
  readonly rules: MatchRules;
  /** Something is otherwise than the house has it. */
  readonly isOwn: boolean;
  readonly hearing: MatchHearing;
  /** Something would change. */
  readonly canHear: boolean;
  readonly onRules: (change: Partial<MatchRules> | null) => void;
  /** Null: no piece has a gain. */
  readonly onNeutral: (() => void) | null;
}) {
  const byPeak = isByPeak(rules);
  return (
    <aside className="fm-panel" aria-label="Matching">
      <h2>Bring tracks to each other</h2>
      <p className="fm-faint">
        A gain on the pieces of each track, so that none must be pushed far. What was recorded together keeps
        one gain.
      </p>
      <HearFirst hearing={hearing} canHear={canHear} />
      <Labelled id="match-by" label="Matched by">
        <Select value={rules.by} onChange={(e) => onRules({ by: e.target.value as MatchMeasure })}>
          {MATCH_MEASURES.map((m) => (
            <option key={m} value={m}>
              {MATCH_WORDS[m]}
            </option>
          ))}
        </Select>
      </Labelled>
      <Labelled id="match-each" label="What gets a gain of its own">
        <Select value={rules.each} onChange={(e) => onRules({ each: e.target.value as MatchUnit })}>
          {MATCH_UNITS.map((u) => (
            <option key={u} value={u}>
              {MATCH_WORDS[u]}
            </option>
          ))}
        </Select>
      </Labelled>
      <div className="fm-tidy-times">
        <NumberField
          label={byPeak ? 'Peaks at, dB' : 'Peaks at most, dBFS'}
          value={rules.peakDb}
          step={1}
          {...MATCH_LIMITS.peakDb}
          onKeep={(peakDb) => onRules({ peakDb })}
        />
        <NumberField
          label="True peaks at most"
          value={rules.ceilingDbtp}
          step={1}
          {...MATCH_LIMITS.peakDb}
          onKeep={(ceilingDbtp) => onRules({ ceilingDbtp })}
        />
      </div>
      {!byPeak && <Targets rows={rows} rules={rules} onRules={onRules} />}
      <Line as="p" align="start" wraps>
        {isOwn && <Button onClick={() => onRules(null)}>As the house has it</Button>}
        {onNeutral && <Button onClick={onNeutral}>Gains to 0 dB</Button>}
      </Line>
      <PiecesOfCurrent rows={rows} />
    </aside>
  );
}

/** The match against what is there, before it is done; it stands there from the first, so that nothing moves once tracks are measured. */
function HearFirst({ hearing, canHear }: { readonly hearing: MatchHearing; readonly canHear: boolean }) {
  const isAlone = useWorkbench((w) => w.selected.size > 0);
  return (
    <>
      <h3>Hear it first</h3>
      <p className="fm-faint fm-below-2">
        {isAlone ? 'What is selected, alone' : 'The song'}, about equally loud, at the same place.
      </p>
      <WaysToHear
        ways={MATCHED_WAYS}
        heard={hearing.heard}
        isOff={!canHear}
        onToggle={hearing.toggle}
        onStop={hearing.stop}
      />
    </>
  );
}

/** Loudness the families that are here are brought to. */
function Targets({
  rows,
  rules,
  onRules,
}: {
  readonly rows: readonly MatchRow[];
  readonly rules: MatchRules;
  readonly onRules: (change: Partial<MatchRules>) => void;
}) {
  const here = new Set(rows.map((r) => r.track.family));
  const families = FAMILIES.filter((f) => here.has(f));
  const set = (family: Family, lufs: number): void => onRules({ lufs: { ...rules.lufs, [family]: lufs } });
  return (
    <>
      <h3>To, LUFS</h3>
      <div className="fm-tidy-times">
        {families.map((family) => {
          const lufs = rules.lufs[family];
          const name = family.replaceAll('-', ' ');
          return lufs === null ? (
            <p key={family} className="fm-faint">
              {name}: as it is
            </p>
          ) : (
            <NumberField
              key={family}
              label={name}
              value={lufs}
              step={1}
              {...MATCH_LIMITS.lufs}
              onKeep={(to) => set(family, to)}
            />
          );
        })}
      </div>
    </>
  );
}

/** The pieces of the current track, where they have gains of their own. */
function PiecesOfCurrent({ rows }: { readonly rows: readonly MatchRow[] }) {
  const current = useWorkbench((w) => w.current);
  const rateHz = useSession((s) => s.view.session.sampleRateHz) ?? 48_000;
  const row = rows.find((r) => r.track.id === current);
  if (!row?.matched?.isUneven) return null;
  const begins = new Map(row.track.clips.map((c) => [c.id, c.fromFrames ?? row.track.startFrames]));
  return (
    <>
      <h3>{row.track.name}, piece by piece</h3>
      <ul className="fm-tidy-list">
        {row.matched.pieces.map(({ clipId, then }) => (
          <li key={clipId}>
            <Clock seconds={(begins.get(clipId) ?? 0) / rateHz} decimals={1} /> {signed(then.gainDb)} dB, peak{' '}
            {then.reachedPeakDbfs === null ? 'none' : formatDb(then.reachedPeakDbfs)}
            {then.reachedLufs === null ? '' : `, ${formatDb(then.reachedLufs)} LUFS`}
          </li>
        ))}
      </ul>
    </>
  );
}
