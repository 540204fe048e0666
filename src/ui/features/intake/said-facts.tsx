'use client';
import type { SaidFact } from '@/core/findings';
import {
  besideMap,
  claimingTempo,
  saidOf,
  saidWhere,
  tempoClaimKeys,
  tempoSetAside,
  useSession,
  useSessionStore,
} from '@/ui/client';
import { Button, formatRate } from '@/ui/kit';

const NAMES: Readonly<Record<SaidFact['kind'], string>> = {
  title: 'Title',
  artist: 'Artist',
  tempo: 'Tempo',
  key: 'Key',
  meter: 'Meter',
  rate: 'Rate',
  depth: 'Depth',
};
const shown = ({ kind, value }: SaidFact): string =>
  kind === 'tempo'
    ? `${value} BPM`
    : kind === 'rate'
      ? `${formatRate(Number(value))} kHz`
      : kind === 'depth'
        ? `${value} bit`
        : value;

/** What names and files say of the song; title and artist can be taken over, tempi set aside, the rest is there to compare. */
export function SaidFacts() {
  const store = useSessionStore();
  const view = useSession((s) => s.view);
  const { session } = view;
  const aside = tempoSetAside(view);
  const facts = saidOf(view);
  if (facts.length === 0 && aside.length === 0) return null;
  const accept = (f: SaidFact): void =>
    void store.getState().commit(f.kind === 'title' ? `Call it “${f.value}”` : `By “${f.value}”`, [
      {
        kind: 'session.describe',
        ...(f.kind === 'title' ? { name: f.value.slice(0, 120) } : { artist: f.value.slice(0, 120) }),
      },
    ]);
  const claiming = claimingTempo(view);
  return (
    <>
      <h3>Said by names and files</h3>
      <dl className="fm-facts-list">
        {facts.map((f) => (
          <div key={`${f.kind} ${f.value}`}>
            <dt>{NAMES[f.kind]}</dt>
            <dd>
              <b>{shown(f)}</b>{' '}
              <span className="fm-faint">
                {saidWhere(f)}
                {f.kind === 'tempo' ? besideMap(Number(f.value), session.map) : ''}
              </span>
              {((f.kind === 'title' && f.value !== session.name) ||
                (f.kind === 'artist' && f.value !== session.artist)) && (
                <>
                  {' '}
                  <Button tone="bare" className="fm-place" onClick={() => accept(f)}>
                    take over
                  </Button>
                </>
              )}
            </dd>
          </div>
        ))}
      </dl>
      <p className="fm-faint fm-below-1">Claims only: nothing of it was applied.</p>
      {claiming.length > 0 && (
        <Button
          tone="bare"
          className="fm-place"
          onClick={() =>
            void store
              .getState()
              .call(`/api/sessions/${view.id}/findings`, { keys: tempoClaimKeys(claiming), note: '' })
          }
        >
          set all tempi aside
        </Button>
      )}
      {aside.length > 0 && (
        <Button
          tone="bare"
          className="fm-place"
          onClick={() =>
            void store
              .getState()
              .call(`/api/sessions/${view.id}/findings`, { keys: tempoClaimKeys(aside), note: null })
          }
        >
          take up the tempi of {aside.length} {aside.length === 1 ? 'file' : 'files'} again
        </Button>
      )}
    </>
  );
}
