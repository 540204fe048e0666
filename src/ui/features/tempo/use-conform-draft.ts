import { useMemo, useState } from 'react';
import { type ConformPlan, planConform, proposeTarget, type TargetProposal } from '@/core/conform';
import type { ConformSettings, Treatment } from '@/core/session';
import { useSession } from '@/ui/client';

/** The conforming in hand: the accepted one, or a change of it that is not accepted yet. */
export interface ConformDraft {
  /** Pulses a minute. */
  readonly bpm: number;
  readonly treatments: ConformSettings['treatments'];
  /** Null without an accepted map. */
  readonly plan: ConformPlan | null;
  /** The tempo that changes least. */
  readonly proposal: TargetProposal | null;
  /** What is shown is the session's setting. */
  readonly isAccepted: boolean;
  setBpm(bpm: number): void;
  treat(trackIds: readonly string[], treatment: Treatment): void;
}

const NO_TREATMENTS: ConformSettings['treatments'] = {};
const LEAST_BPM = 20;
const MOST_BPM = 400;

/** The draft of this session's conforming. */
export function useConformDraft(): ConformDraft {
  const session = useSession((s) => s.view.session);
  const [draft, setDraft] = useState<{ readonly of: ConformSettings | null; readonly bpm: number; readonly treatments: ConformSettings['treatments'] } | null>(null);
  const { conform, mapFacts } = session;
  const proposal = useMemo(() => proposeTarget((mapFacts?.pulses ?? []).map((p) => p.seconds)), [mapFacts]);
  const base = { of: conform, bpm: conform?.bpm ?? proposal?.bpm ?? 120, treatments: conform?.treatments ?? NO_TREATMENTS };
  // A change of the session's setting (undo, another window) puts an older draft aside.
  const now = draft && draft.of === conform ? draft : base;
  const plan = useMemo(() => planConform(session, { bpm: now.bpm, treatments: now.treatments }), [session, now.bpm, now.treatments]);
  return {
    bpm: now.bpm, treatments: now.treatments, plan, proposal,
    isAccepted: conform !== null && conform.bpm === now.bpm && (conform.treatments === now.treatments || JSON.stringify(conform.treatments) === JSON.stringify(now.treatments)),
    setBpm: (bpm) => setDraft({ ...now, bpm: Number(Math.min(MOST_BPM, Math.max(LEAST_BPM, bpm)).toFixed(3)) }),
    treat: (trackIds, treatment) => setDraft({ ...now, treatments: { ...now.treatments, ...Object.fromEntries(trackIds.map((id) => [id, treatment])) } }),
  };
}
