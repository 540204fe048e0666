import {
  type Bus,
  NOWHERE,
  type RoutingNote,
  routingNotes,
  type SessionState,
  tracksInOrder,
} from '@/core/session';

/** A row of the routing, ready to draw. */
export interface RoutingRow {
  /** Null = the mix bus. */
  readonly bus: Bus | null;
  /** Steps from the mix bus. */
  readonly depth: number;
  /** Tracks routed to it, or sent. */
  readonly tracks: number;
  /** Buses routed to it, or sent. */
  readonly buses: number;
  readonly note: 'bus-unheard' | 'unfed' | null;
}

/** The mix bus, under it all that leads to it, sums before returns; then what goes nowhere. */
export function routingRows(session: SessionState): RoutingRow[] {
  const all = session.busOrder.map((id) => session.buses[id] as Bus);
  const tracks = tracksInOrder(session);
  const notes = new Map(
    routingNotes(session).flatMap((n) =>
      n.code === 'bus-unheard' || n.code === 'unfed' ? [[n.id, n.code] as const] : [],
    ),
  );
  const row = (bus: Bus | null, depth: number): RoutingRow => {
    const id = bus?.id ?? null;
    return {
      bus,
      depth,
      tracks: tracks.filter((t) => t.busId === id || t.sends.some((s) => s.busId === id)).length,
      buses: all.filter((b) => b.outputBusId === id || b.sends.some((s) => s.busId === id)).length,
      note: id === null ? null : (notes.get(id) ?? null),
    };
  };
  const under = (to: string | null, depth: number): RoutingRow[] =>
    [...all.filter((b) => b.kind === 'sum'), ...all.filter((b) => b.kind === 'return')]
      .filter((b) => b.outputBusId === to)
      .flatMap((b) => [row(b, depth), ...under(b.id, depth + 1)]);
  return [row(null, 0), ...under(null, 1), ...under(NOWHERE, 0)];
}

/** Tracks the routing says something of, with what. */
export const trackNotes = (
  session: SessionState,
): readonly Extract<RoutingNote, { readonly code: 'track-unheard' | 'past-sum' }>[] =>
  routingNotes(session).filter((n) => n.code === 'track-unheard' || n.code === 'past-sum');
