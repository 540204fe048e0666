'use client';
import { type SaidFact, saidFacts } from '@/core/findings';
import { useSession, useSessionStore } from '@/ui/client';
import { formatRate } from '@/ui/kit';

const NAMES: Readonly<Record<SaidFact['kind'], string>> = { title: 'Title', artist: 'Artist', tempo: 'Tempo', key: 'Key', meter: 'Meter', rate: 'Rate', depth: 'Depth' };
const shown = ({ kind, value }: SaidFact): string => (kind === 'tempo' ? `${value} BPM` : kind === 'rate' ? `${formatRate(Number(value))} kHz` : kind === 'depth' ? `${value} bit` : value);
const where = ({ inNames, inFiles }: SaidFact): string => [inNames > 0 ? `in ${inNames} ${inNames === 1 ? 'name' : 'names'}` : '', inFiles > 0 ? `inside ${inFiles} ${inFiles === 1 ? 'file' : 'files'}` : ''].filter((t) => t !== '').join(', ');

/** What names and files say of the song; title and artist can be taken over, the rest is there to compare. */
export function SaidFacts() {
  const store = useSessionStore();
  const { session, recordings } = useSession((s) => s.view);
  const facts = saidFacts(recordings.filter((r) => r.state === 'ready'));
  if (facts.length === 0) return null;
  const take = (f: SaidFact): void => void store.getState().commit(f.kind === 'title' ? `Call it “${f.value}”` : `By “${f.value}”`, [{ kind: 'session.describe', ...(f.kind === 'title' ? { name: f.value.slice(0, 120) } : { artist: f.value.slice(0, 120) }) }]);
  return (
    <>
      <h3>Said by names and files</h3>
      <dl className="fm-facts-list">
        {facts.map((f) => (
          <div key={`${f.kind} ${f.value}`}>
            <dt>{NAMES[f.kind]}</dt>
            <dd><b>{shown(f)}</b> <span className="fm-faint">{where(f)}</span>{((f.kind === 'title' && f.value !== session.name) || (f.kind === 'artist' && f.value !== session.artist)) && <> <button type="button" className="fm-place" onClick={() => take(f)}>take over</button></>}</dd>
          </div>
        ))}
      </dl>
      <p className="fm-faint">Claims only: nothing of it was applied.</p>
    </>
  );
}
