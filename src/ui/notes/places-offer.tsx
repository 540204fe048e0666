'use client';
import type { Marker } from '@/core/session';
import { useSession, useSessionStore } from '@/ui/client';
import { Button, Clock, Icon } from '@/ui/kit';

const SHOWN = 12;
const MOST = 2000;

/** Places a file names: they can become the song's markers, or go again. */
export function PlacesOffer({
  places,
  from,
}: {
  readonly places: readonly { readonly seconds: number; readonly text: string }[];
  readonly from: string;
}) {
  const store = useSessionStore();
  const current = useSession((s) => s.view.session.markers);
  if (places.length === 0) return null;
  const markers = places.slice(0, MOST).map((p, i): Marker => ({
    id: `place-${i}`,
    name: p.text.trim().slice(0, 120) || `Marker ${i + 1}`,
    seconds: p.seconds,
  }));
  const existing =
    current.length === markers.length &&
    markers.every((m) => current.some((c) => c.name === m.name && c.seconds === m.seconds));
  const set = (label: string, list: readonly Marker[]) => (): void => {
    void store.getState().commit(label, [{ kind: 'markers.set', markers: list }]);
  };
  return (
    <>
      <h3>Places it names</h3>
      <dl className="fm-facts-list">
        {places.slice(0, SHOWN).map((p, i) => (
          <div key={`${p.seconds} ${i}`}>
            <dt className="num">
              <Clock seconds={p.seconds} decimals={1} />
            </dt>
            <dd>{p.text || 'marker'}</dd>
          </div>
        ))}
      </dl>
      {places.length > SHOWN && <p className="fm-faint">and {places.length - SHOWN} more</p>}
      {existing ? (
        <p className="fm-below-1">
          <span className="fm-good">
            <Icon name="check-lg" /> These are the song’s markers.
          </span>{' '}
          <Button tone="quiet" onClick={set('Remove the markers', [])}>
            Remove them
          </Button>
        </p>
      ) : (
        <Button onClick={set(`Markers of ${from}`, markers)}>
          {current.length > 0 ? 'Use these as the song’s markers instead' : 'Use as the song’s markers'}
        </Button>
      )}
    </>
  );
}
