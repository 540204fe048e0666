import type { SectionsResult } from '@/contracts';
import { isSectionName, kindOfName, kindWord, numberedAlike, type SectionKind } from '@/core/sections';
import type { Marker } from '@/core/session';
import type { SongMap } from '@/core/time';

/** A line below this is to be checked. */
export const SURE = 0.9;
/** Two moments nearer than this are one, s. */
const SAME_SECONDS = 0.02;

/** A section as the stage shows it, found or the song's own. */
export interface ShownSection {
  readonly id: string;
  readonly name: string;
  readonly kind: SectionKind | null;
  readonly fromSeconds: number;
  readonly toSeconds: number;
  /** Why somebody should look at it; null = nothing. */
  readonly doubt: string | null;
}

/** What was found, as rows. */
export const foundRows = ({ sections }: SectionsResult): ShownSection[] =>
  sections.map((s, i) => ({
    id: `found-${i}`,
    name: s.name,
    kind: s.name.endsWith('?') ? null : s.kind,
    fromSeconds: s.fromSeconds,
    toSeconds: s.toSeconds,
    doubt: doubtOf(s, i),
  }));

function doubtOf(
  { confidence, name, kind }: SectionsResult['sections'][number],
  index: number,
): string | null {
  const line =
    index > 0 && confidence < SURE ? `${Math.round(100 * confidence)} % sure that it begins here` : null;
  const what = name.endsWith('?') ? `what it is is not clear: ${kindWord(kind).toLowerCase()}?` : null;
  return [line, what].filter((t) => t !== null).join('; ') || null;
}

/** The song's markers as rows; each goes to the next. */
export function markerRows(
  markers: readonly Marker[],
  endSeconds: number,
  found: SectionsResult | null,
): ShownSection[] {
  const rows = found ? foundRows(found) : [];
  return markers.map((m, i) => {
    // What was found and is as it was found keeps its doubt.
    const as = rows.find((r) => r.name === m.name && Math.abs(r.fromSeconds - m.seconds) < SAME_SECONDS);
    return {
      id: m.id,
      name: m.name,
      kind: kindOfName(m.name),
      fromSeconds: m.seconds,
      toSeconds: markers[i + 1]?.seconds ?? Math.max(endSeconds, m.seconds),
      doubt: as?.doubt ?? null,
    };
  });
}

/** What was found as the song's markers; those that name other places stay. */
export const foundMarkers = (markers: readonly Marker[], { sections }: SectionsResult): Marker[] =>
  inOrder([
    ...markers.filter(
      (m) =>
        !isSectionName(m.name) &&
        !sections.some((s) => s.name === m.name && Math.abs(s.fromSeconds - m.seconds) < SAME_SECONDS),
    ),
    ...sections.map((s) => ({ id: crypto.randomUUID(), name: s.name, seconds: s.fromSeconds })),
  ]);

/** Whether the song has sections, and not only named places. */
export const hasSections = (markers: readonly Marker[]): boolean =>
  markers.some((m) => isSectionName(m.name));

/** The bar line next to a moment, s; without a map the moment itself. */
export function nearestLine(map: SongMap | null, seconds: number): number {
  if (!map) return Math.max(0, seconds);
  const { bar } = map.meters.toBar(map.tempo.toQuarters(seconds));
  const lines = [bar, bar + 1].filter((b) => b >= 1).map((b) => lineOf(map, b));
  return lines.reduce(
    (best, t) => (Math.abs(t - seconds) < Math.abs(best - seconds) ? t : best),
    lineOf(map, 1),
  );
}

/** A moment so many bars later: from line to line with a map, else by seconds. */
export function barsLater(map: SongMap | null, seconds: number, bars: number): number {
  if (!map) return Math.max(0, seconds + bars);
  const here = map.meters.toBar(map.tempo.toQuarters(nearestLine(map, seconds))).bar;
  return lineOf(map, Math.max(1, here + bars));
}

const lineOf = (map: SongMap, bar: number): number => map.tempo.toSeconds(map.meters.barToQuarters(bar));

/** How many bars a stretch has; null without a map. */
export function barsBetween(map: SongMap | null, from: number, to: number): number | null {
  if (!map) return null;
  const at = (seconds: number): number => {
    const { bar, quartersInBar } = map.meters.toBar(map.tempo.toQuarters(seconds));
    const whole = map.meters.barToQuarters(bar + 1) - map.meters.barToQuarters(bar);
    return bar + quartersInBar / whole;
  };
  return Math.round(10 * (at(to) - at(from))) / 10;
}

const inOrder = (markers: readonly Marker[]): Marker[] => [...markers].sort((a, b) => a.seconds - b.seconds);

/** A new section at a moment; null where one begins already. */
export function dropped(markers: readonly Marker[], seconds: number, id: string): Marker[] | null {
  if (markers.some((m) => Math.abs(m.seconds - seconds) < SAME_SECONDS)) return null;
  return inOrder([...markers, { id, name: `Part ${markers.length + 1}`, seconds }]);
}

/** The beginning of a section moved, not past its neighbours; null where it stays. */
export function begunAt(markers: readonly Marker[], id: string, seconds: number): Marker[] | null {
  const at = markers.findIndex((m) => m.id === id);
  const own = markers[at];
  if (!own || Math.abs(own.seconds - seconds) < 1e-6) return null;
  const [before, after] = [markers[at - 1]?.seconds ?? -Infinity, markers[at + 1]?.seconds ?? Infinity];
  if (seconds <= before + SAME_SECONDS || seconds >= after - SAME_SECONDS) return null;
  return markers.map((m) => (m.id === id ? { ...m, seconds } : m));
}

/** All from one section on moved by as much as it; null where it would pass the one before. */
export function shiftedFrom(markers: readonly Marker[], id: string, seconds: number): Marker[] | null {
  const at = markers.findIndex((m) => m.id === id);
  const own = markers[at];
  if (!own) return null;
  const by = seconds - own.seconds;
  if (by === 0 || seconds <= (markers[at - 1]?.seconds ?? -Infinity) + SAME_SECONDS || seconds < 0)
    return null;
  return markers.map((m, i) => (i >= at ? { ...m, seconds: m.seconds + by } : m));
}

/** A section joined with the one before it; the first one goes. */
export const joined = (markers: readonly Marker[], id: string): Marker[] =>
  markers.filter((m) => m.id !== id);

/** Sections called by a kind, all of that kind numbered in their order, and of those they were before. */
export function calledAs(markers: readonly Marker[], ids: readonly string[], kind: SectionKind): Marker[] {
  const before = new Set(markers.flatMap((m) => (ids.includes(m.id) ? (kindOfName(m.name) ?? []) : [])));
  let names = markers.map((m) => (ids.includes(m.id) ? kindWord(kind) : m.name));
  for (const k of [...before, kind]) names = numberedAlike(names, k);
  return markers.map((m, i) => ({ ...m, name: names[i] as string }));
}
