import { useMemo, useState } from 'react';
import { type ConformPlan, planConform, proposeTarget, type TargetProposal } from '@/core/conform';
import type { BarRange, ConformSettings, Treatment } from '@/core/session';
import { useSession } from '@/ui/client';

/** The conforming in hand: the accepted one, or a change of it that is not accepted yet. */
export interface ConformDraft {
  /** Pulses a minute. */
  readonly bpm: number;
  readonly treatments: ConformSettings['treatments'];
  /** Bars tied to time. */
  readonly keep: readonly BarRange[];
  /** Null without an accepted map. */
  readonly plan: ConformPlan | null;
  /** The tempo that changes least. */
  readonly proposal: TargetProposal | null;
  /** What is shown is the session's setting. */
  readonly isAccepted: boolean;
  setBpm(bpm: number): void;
  treat(trackIds: readonly string[], treatment: Treatment): void;
  setKeep(keep: readonly BarRange[]): void;
}

const NO_TREATMENTS: ConformSettings['treatments'] = {};
const NO_BARS: readonly BarRange[] = [];
const LEAST_BPM = 20;
const MOST_BPM = 400;

/** The draft of this session's conforming. */
export function useConformDraft(): ConformDraft {
  const session = useSession((s) => s.view.session);
  const [draft, setDraft] = useState<{
    readonly of: ConformSettings | null;
    readonly bpm: number;
    readonly treatments: ConformSettings['treatments'];
    readonly keep: readonly BarRange[];
  } | null>(null);
  const { conform, mapFacts } = session;
  const proposal = useMemo(() => proposeTarget((mapFacts?.pulses ?? []).map((p) => p.seconds)), [mapFacts]);
  const base = {
    of: conform,
    bpm: conform?.bpm ?? proposal?.bpm ?? 120,
    treatments: conform?.treatments ?? NO_TREATMENTS,
    keep: conform?.keep ?? NO_BARS,
  };
  // A change of the session's setting (undo, another window) puts an older draft aside.
  const now = draft && draft.of === conform ? draft : base;
  const plan = useMemo(
    () => planConform(session, { bpm: now.bpm, treatments: now.treatments, keep: now.keep }),
    [session, now.bpm, now.treatments, now.keep],
  );
  return {
    bpm: now.bpm,
    treatments: now.treatments,
    keep: now.keep,
    plan,
    proposal,
    isAccepted:
      conform !== null &&
      conform.bpm === now.bpm &&
      same(conform.treatments, now.treatments) &&
      same(conform.keep ?? NO_BARS, now.keep),
    setBpm: (bpm) =>
      setDraft({ ...now, bpm: Number(Math.min(MOST_BPM, Math.max(LEAST_BPM, bpm)).toFixed(3)) }),
    treat: (trackIds, treatment) =>
      setDraft({
        ...now,
        treatments: { ...now.treatments, ...Object.fromEntries(trackIds.map((id) => [id, treatment])) },
      }),
    setKeep: (keep) => setDraft({ ...now, keep: joined(keep) }),
  };
}

const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

/** Ranges in order; those that touch or overlap become one. */
export function joined(ranges: readonly BarRange[]): readonly BarRange[] {
  const out: BarRange[] = [];
  for (const r of [...ranges].sort((a, b) => a.fromBar - b.fromBar)) {
    const last = out.at(-1);
    if (last && r.fromBar <= last.toBar + 1)
      out[out.length - 1] = { fromBar: last.fromBar, toBar: Math.max(last.toBar, r.toBar) };
    else out.push(r);
  }
  return out;
}
