'use client';
import type { SaidFact } from '@/core/findings';
import type { SessionState } from '@/core/session';
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

/** Fields of the song that a fact can be taken over to. */
const FIELDS: Partial<Record<SaidFact['kind'], 'name' | 'artist' | 'key'>> = {
  title: 'name',
  artist: 'artist',
  key: 'key',
};
const isOffered = ({ kind, value }: SaidFact, session: SessionState): boolean => {
  const field = FIELDS[kind];
  return field !== undefined && session[field] !== value;
};

/** What names, files and notes say of the song; title, artist and key can be taken over, tempi set aside, the rest is there to compare. */
export function SaidFacts() {
  const store = useSessionStore();
  const view = useSession((s) => s.view);
  const { session } = view;
  const aside = tempoSetAside(view);
  const facts = saidOf(view);
  if (facts.length === 0 && aside.length === 0) return null;
  const accept = (f: SaidFact): void =>
    void store
      .getState()
      .commit(`${NAMES[f.kind]}: ${f.value}`, [
        { kind: 'session.describe', [FIELDS[f.kind] ?? '']: f.value.slice(0, f.kind === 'key' ? 40 : 120) },
      ]);
  const claiming = claimingTempo(view);
  return (
    <>
      <h3>Said by names, files and notes</h3>
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
              {isOffered(f, session) && (
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
