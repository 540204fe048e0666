import { type Bus, hasLoop, isTrack, type Send, type SessionState } from '../session';
import { meets, type RowKind, type Subject } from './conditions';
import { busId, folderColor, treeOf } from './folders';
import type { FolderRule, HouseStyle } from './house-style';
import { runRules } from './rules';

/** Id of the return a style makes in a session. */
export const returnId = (key: string): string => `return-${key}`;
/** Id of the group a style makes in a session. */
export const groupId = (key: string): string => `group-${key}`;

/** Made by a style, whichever; those made by hand are called `…-own-…`. */
export const isStyleReturn = (id: string): boolean =>
  id.startsWith('return-') && !id.startsWith('return-own-');
/** The same of groups. */
export const isStyleGroup = (id: string): boolean => id.startsWith('group-') && !id.startsWith('group-own-');

/** Nothing is known of it but what it is and what it is called. */
const plainRow = (row: RowKind, name: string, color: string, more: Partial<Subject> = {}): Subject => ({
  name,
  rows: [row],
  family: null,
  part: null,
  role: null,
  position: null,
  channels: null,
  color: color.toLowerCase(),
  folder: null,
  findings: [],
  heard: null,
  ...more,
});

/** Colour of a return, the mix bus or a section: that of its kind, unless a rule says another. */
export function rowColor(style: HouseStyle, row: keyof HouseStyle['rowColors'], name: string): string {
  const color = style.rowColors[row];
  const about = style.rules.filter((r) => r.then.color !== undefined);
  return about.length === 0
    ? color
    : (runRules(about, plainRow(row, name, color), () => null).result.color ?? color);
}

/** Name of the return of a style that has this id in sessions; null = it has none. */
export const nameOfReturn = (style: HouseStyle, busId: string): string | null =>
  style.returns.find((r) => returnId(r.key) === busId)?.name ?? null;

/** Where a track or a sum sends from the start: to each return what the first rule says that it meets. */
export function sendsFor(style: HouseStyle, from: 'tracks' | 'sums', subject: Subject): Send[] {
  const sends = new Map<string, Send>();
  for (const { when, to, gainDb, pan, before } of style.sends.filter((x) => x.from === from))
    if (!sends.has(to) && style.returns.some((r) => r.key === to) && meets(when, subject))
      sends.set(to, { busId: returnId(to), gainDb, pan, before });
  return [...sends.values()];
}

/** What a sum sends from the start. */
function sendsOfSum(style: HouseStyle, rule: FolderRule & { readonly bus: string }, color: string): Send[] {
  return style.sends.length === 0
    ? []
    : sendsFor(
        style,
        'sums',
        plainRow('bus', rule.bus, color, { family: rule.families[0] ?? null, folder: rule.key }),
      );
}

/** How buses are brought to what the style says. */
interface BusOptions {
  /** Folders whose sums are to be there; those of other folders are changed where they are. */
  readonly sums: ReadonlySet<FolderRule>;
  /** Also over what was set by hand. */
  readonly overHand: boolean;
}

/** The buses of a session with the sums asked for, the returns that something is sent to, and the ways and sends of the style; names and colours of those that were there stay. */
export function styledBuses(
  session: SessionState,
  style: HouseStyle,
  { sums, overHand }: BusOptions,
): Pick<SessionState, 'buses' | 'busOrder'> {
  const tree = treeOf(style);
  const buses: Record<string, Bus> = { ...session.buses };
  const ways = new Map<string, string | null>();
  const put = (
    id: string,
    kind: Bus['kind'],
    wanted: {
      readonly name: string;
      readonly color: string;
      readonly sends: readonly Send[];
      readonly way: string | null;
    },
  ): void => {
    const there = session.buses[id];
    const kept = overHand ? undefined : there;
    const byHand = kept?.byHand ?? [];
    buses[id] = {
      id,
      kind,
      name: kept?.name ?? wanted.name,
      color: kept ? kept.color : wanted.color,
      outputBusId: there?.outputBusId ?? null,
      ...levelsOf(there),
      sends: kept && byHand.includes('sends') ? kept.sends : wanted.sends,
      byHand,
    };
    if (!byHand.includes('outputBusId')) ways.set(id, wanted.way);
  };
  for (const rule of style.folders) {
    if (rule.bus === null || !(sums.has(rule) || session.buses[busId(rule.key)])) continue;
    const color = folderColor(style, rule, 'bus');
    const above = tree.busOf(tree.parentOf(rule));
    put(busId(rule.key), 'sum', {
      name: rule.bus,
      color,
      sends: sendsOfSum(style, { ...rule, bus: rule.bus }, color),
      way: above === null ? null : busId(above),
    });
  }
  const sentTo = new Set(
    [
      ...Object.values(session.nodes).flatMap((n) => (isTrack(n) ? n.sends : [])),
      ...Object.values(buses).flatMap((b) => b.sends),
    ].map((x) => x.busId),
  );
  for (const rule of style.returns) {
    const id = returnId(rule.key);
    if (!sentTo.has(id)) continue;
    const sum = tree.busOf(tree.get(rule.into));
    put(id, 'return', {
      name: rule.name,
      color: rule.color ?? rowColor(style, 'return', rule.name),
      sends: [],
      way: sum === null ? null : busId(sum),
    });
  }
  for (const [id, way] of ways) route(buses, id, way);
  // What a person set may lead a way of the style back to where it began.
  for (const id of ways.keys())
    if (hasLoop(buses, id)) buses[id] = { ...(buses[id] as Bus), outputBusId: null };
  for (const id of ways.keys()) if (hasLoop(buses, id)) buses[id] = { ...(buses[id] as Bus), sends: [] };
  return { buses, busOrder: [...session.busOrder, ...Object.keys(buses).filter((id) => !session.buses[id])] };
}

/** A style says nothing of the levels of buses. */
const levelsOf = (bus: Bus | undefined): Pick<Bus, 'gainDb' | 'pan' | 'muted'> => ({
  gainDb: bus?.gainDb ?? 0,
  pan: bus?.pan ?? 0,
  muted: bus?.muted ?? false,
});

/** A sum it should feed may not be there yet. */
function route(buses: Record<string, Bus>, id: string, way: string | null): void {
  if (way === null || buses[way]) buses[id] = { ...(buses[id] as Bus), outputBusId: way };
}

/** Sums of a session that the style wants otherwise. */
export function changedSums(session: SessionState, style: HouseStyle, overHand: boolean): string[] {
  const { buses } = styledBuses(session, style, { sums: new Set(), overHand });
  const way = (bus: Bus | undefined): string => JSON.stringify([bus?.outputBusId, bus?.sends]);
  return session.busOrder.filter((id) => way(session.buses[id]) !== way(buses[id]));
}
