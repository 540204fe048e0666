import { NOWHERE } from './records';
import { isFolder, isTrack, ROOT, type Bus, type SessionState, type Track } from './state';
import { listRows, tracksInOrder } from './views';

/** Where what comes to a bus goes on to, its own way first. */
const waysOf = (bus: Bus): (string | null)[] => [bus.outputBusId, ...bus.sends.map((x) => x.busId)];

/** All buses that something is routed or sent to. */
export const routedTo = ({ nodes, buses }: Pick<SessionState, 'nodes' | 'buses'>): ReadonlySet<string> =>
  new Set(
    [
      ...Object.values(nodes).flatMap((n) => [n.busId, ...(isTrack(n) ? n.sends.map((x) => x.busId) : [])]),
      ...Object.values(buses).flatMap(waysOf),
    ].filter((id) => id !== null),
  );

/** Whether what a bus puts out comes back to it, over outputs and sends. */
export function hasLoop(buses: SessionState['buses'], id: string): boolean {
  const seen = new Set<string>();
  const open = [id];
  for (let at = open.pop(); at !== undefined; at = open.pop()) {
    const bus = buses[at];
    if (!bus || seen.has(at)) continue;
    seen.add(at);
    for (const to of waysOf(bus)) {
      if (to === id) return true;
      if (to !== null) open.push(to);
    }
  }
  return false;
}

/** Linear gains to left and right. */
export interface SideGains {
  readonly left: number;
  readonly right: number;
}

/** What the buses on its way do to what is routed to one until it comes to the mix bus, by outputs alone, without what is sent: their levels, and their pans as balance of two sides. Null = it does not come there: a bus is muted, or goes nowhere. */
export function wayToMix({ buses }: Pick<SessionState, 'buses'>, busId: string | null): SideGains | null {
  let [left, right] = [1, 1];
  let at = busId;
  // Outputs make no loop: edits refuse it.
  while (at !== null && at !== NOWHERE) {
    const bus = buses[at];
    if (!bus) break;
    if (bus.muted) return null;
    const gain = 10 ** (bus.gainDb / 20);
    left *= gain * Math.min(1, 1 - bus.pan);
    right *= gain * Math.min(1, 1 + bus.pan);
    at = bus.outputBusId;
  }
  return at === NOWHERE ? null : { left, right };
}

/** Whether what is routed to a bus comes to the mix bus, see {@link wayToMix}. */
export const reachesMix = (session: Pick<SessionState, 'buses'>, busId: string | null): boolean =>
  wayToMix(session, busId) !== null;

/** Whether a track is heard in the song: it is not muted, nor is a bus on its way, and it comes to the mix bus. */
export const isHeard = (
  session: Pick<SessionState, 'buses'>,
  track: Pick<Track, 'muted' | 'busId'>,
): boolean => !track.muted && reachesMix(session, track.busId);

/** Buses whose sound comes to the mix bus, sends counted. The rest ends somewhere. */
export function busesReachingMix({ buses }: Pick<SessionState, 'buses'>): ReadonlySet<string> {
  const reaching = new Set<string>();
  const visit = (id: string): boolean => {
    if (reaching.has(id)) return true;
    const bus = buses[id];
    const reaches =
      bus !== undefined && waysOf(bus).some((to) => to === null || (to !== NOWHERE && visit(to)));
    if (reaches) reaching.add(id);
    return reaches;
  };
  for (const id of Object.keys(buses)) visit(id);
  return reaching;
}

/** The sum that what stands in a folder should feed: its own, or that of a folder around it; null = the mix bus. */
export function sumsByFolder(session: SessionState): ReadonlyMap<string, string | null> {
  const sums = new Map<string, string | null>([[ROOT, null]]);
  for (const { node, parentId } of listRows(session))
    if (isFolder(node)) sums.set(node.id, node.busId ?? sums.get(parentId) ?? null);
  return sums;
}

/** Something about the routing that a person should know. */
export type RoutingNote =
  /** No way leads from it to the mix bus. */
  | { readonly code: 'track-unheard'; readonly id: string }
  | { readonly code: 'bus-unheard'; readonly id: string }
  /** It stands in a folder with a sum and goes past it. */
  | { readonly code: 'past-sum'; readonly id: string; readonly sumId: string }
  /** Nothing comes to it. */
  | { readonly code: 'unfed'; readonly id: string };

/** What does not reach the mix bus, passes its folder's sum by, or is fed by nothing: tracks from top to bottom, then buses in their order. */
export function routingNotes(session: SessionState): RoutingNote[] {
  const reaching = busesReachingMix(session);
  const comes = (to: string | null): boolean => to === null || reaching.has(to);
  const sums = sumsByFolder(session);
  const parents = new Map(listRows(session).map((r) => [r.node.id, r.parentId]));
  const fed = fedBuses(session);
  const aboutTrack = (t: Track): RoutingNote[] => {
    if (!comes(t.busId) && !t.sends.some((x) => comes(x.busId))) return [{ code: 'track-unheard', id: t.id }];
    const sumId = sums.get(parents.get(t.id) ?? ROOT) ?? null;
    return sumId !== null && t.busId !== sumId && t.busId !== NOWHERE
      ? [{ code: 'past-sum', id: t.id, sumId }]
      : [];
  };
  const aboutBus = (id: string): RoutingNote[] =>
    !fed.has(id) ? [{ code: 'unfed', id }] : !reaching.has(id) ? [{ code: 'bus-unheard', id }] : [];
  return [...tracksInOrder(session).flatMap(aboutTrack), ...session.busOrder.flatMap(aboutBus)];
}

/** Buses that some track's sound comes to. */
function fedBuses(session: SessionState): ReadonlySet<string> {
  const fed = new Set<string>();
  const open = tracksInOrder(session).flatMap((t) => [t.busId, ...t.sends.map((x) => x.busId)]);
  for (let at = open.pop(); at !== undefined; at = open.pop()) {
    const bus = at === null ? undefined : session.buses[at];
    if (!bus || fed.has(bus.id)) continue;
    fed.add(bus.id);
    open.push(...waysOf(bus));
  }
  return fed;
}
