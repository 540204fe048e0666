import { useMemo, useState } from 'react';
import { acceptEdit, acceptedReading, adjustReading, type Adjustment, type TempoReading } from '@/core/tempo';
import { useSession, useSessionStore } from '@/ui/client';
import { tempoModel, type TempoModel } from './tempo-model';

/** The map in hand: a new detection or the accepted map, with corrections by ear on top. */
export interface TempoDraft {
  /** Null before anything was found. */
  readonly model: TempoModel | null;
  /** The newest detection, untouched. */
  readonly found: TempoReading | null;
  /** What is shown is the session's map. */
  readonly isAccepted: boolean;
  /** A newer detection is shown instead of the accepted map. */
  readonly isNewer: boolean;
  readonly isAdjusted: boolean;
  adjust(change: Adjustment): void;
  /** Takes the corrections back. */
  reset(): void;
  /** Makes it the session's map. */
  accept(): void;
  /** Puts the newer detection aside. */
  keepAccepted(): void;
}

const NONE: readonly Adjustment[] = [];

/** The draft of this session's tempo. */
export function useTempoDraft(): TempoDraft {
  const store = useSessionStore();
  const { session, tempo } = useSession((s) => s.view);
  const [draft, setDraft] = useState<{ readonly jobId: string; readonly adjustments: readonly Adjustment[] }>({ jobId: '', adjustments: NONE });
  const [putAside, setPutAside] = useState<string | null>(null);
  const jobId = tempo?.jobId ?? '';
  const found = tempo ? (tempo.result as TempoReading) : null;
  const accepted = useMemo(() => acceptedReading(session, found), [session, found]);
  const isNew = found !== null && (accepted === null || (session.mapFacts?.foundBy !== jobId && putAside !== jobId));
  const base = isNew ? found : accepted;
  const adjustments = draft.jobId === jobId ? draft.adjustments : NONE;
  const model = useMemo(() => (base ? tempoModel(adjustments.reduce(adjustReading, base)) : null), [base, adjustments]);
  const isAccepted = !isNew && accepted !== null && adjustments.length === 0;
  const reset = (): void => setDraft({ jobId, adjustments: NONE });
  return {
    model, found, isAccepted, isNewer: isNew && accepted !== null, isAdjusted: adjustments.length > 0, reset,
    adjust: (change) => setDraft({ jobId, adjustments: [...adjustments, change] }),
    accept: () => { if (model && !isAccepted && store.getState().commit('Accept the tempo map', [acceptEdit(model.reading, tempo?.jobId ?? null)])) reset(); },
    keepAccepted: () => { setPutAside(jobId); reset(); },
  };
}
