'use client';
import { useMemo, useState } from 'react';
import type { SectionsResult } from '@/contracts';
import type { SectionKind } from '@/core/sections';
import type { Marker } from '@/core/session';
import { hashText } from '@/core/units';
import { songSeconds, useSession, useSessionStore, useSongMap } from '@/ui/client';
import { usePlayer } from '@/ui/listening';
import {
  barsLater,
  begunAt,
  calledAs,
  dropped,
  foundMarkers,
  hasSections,
  foundRows,
  joined,
  markerRows,
  nearestLine,
  shiftedFrom,
  type ShownSection,
} from './section-edits';

/** What the stage shows: what was found until it is used, then the song's own. */
export interface Sections {
  readonly rows: readonly ShownSection[];
  /** What is shown is only proposed. */
  readonly isProposed: boolean;
  /** The song has sections of its own. */
  readonly isOwn: boolean;
  readonly found: SectionsResult | null;
  /** What was found lies on a map that is not the session's any more. */
  readonly isOfFormerMap: boolean;
  /** The song has sections, and something else was found. */
  readonly isNewer: boolean;
  readonly current: ShownSection | null;
  /** Takes a section in hand, and goes to where it begins. */
  readonly select: (id: string) => void;
  /** Takes one in hand; the position stays. */
  readonly take: (row: ShownSection) => void;
  readonly step: (by: -1 | 1) => void;
  /** Makes what was found the song's own. */
  readonly accept: () => void;
  readonly keep: () => void;
}

/** Sections of the session, found and used; one is in hand. */
export function useSections(): Sections {
  const store = useSessionStore();
  const { session, recordings, sections: found } = useSession((s) => s.view);
  const player = usePlayer();
  const [hand, setHand] = useState<{ readonly id: string; readonly seconds: number } | null>(null);
  /** What was found last when somebody decided, or came here. */
  const [seen, setSeen] = useState<SectionsResult | null>(found);
  const { markers } = session;
  const end = songSeconds(session, recordings);
  const isOwn = hasSections(markers);
  const isNewer = isOwn && found !== null && found !== seen && found.sections.length > 0;
  const isProposed = !isOwn && found !== null && found.sections.length > 0;
  const rows = useMemo(
    () => (isProposed && found ? foundRows(found) : markerRows(markers, end, found)),
    [isProposed, found, markers, end],
  );
  // What was found and is used now has become another row at the same place.
  const current =
    rows.find((r) => r.id === hand?.id) ??
    rows.find((r) => hand !== null && Math.abs(r.fromSeconds - hand.seconds) < 1e-3) ??
    null;
  const take = ({ id, fromSeconds }: ShownSection): void => setHand({ id, seconds: fromSeconds });
  const select = (id: string): void => {
    const row = rows.find((r) => r.id === id);
    if (!row) return;
    take(row);
    player.seek(row.fromSeconds);
  };
  return {
    rows,
    isOwn,
    isProposed,
    found,
    isOfFormerMap:
      found !== null && found.map !== (session.map === null ? null : hashText(JSON.stringify(session.map))),
    isNewer,
    current,
    select,
    take,
    step: (by) => {
      const at = current ? rows.indexOf(current) + by : by > 0 ? 0 : rows.length - 1;
      const row = rows[Math.max(0, Math.min(rows.length - 1, at))];
      if (row) select(row.id);
    },
    accept: () => {
      if (!found || found.sections.length === 0) return;
      setSeen(found);
      store
        .getState()
        .commit(`Use ${found.sections.length} sections`, [
          { kind: 'markers.set', markers: foundMarkers(store.getState().view.session.markers, found) },
        ]);
    },
    keep: () => setSeen(found),
  };
}

/** Work on the song's sections, a step each. */
export interface SectionTools {
  readonly drop: () => void;
  readonly join: () => void;
  readonly begin: (byBars: number) => void;
  readonly shift: (byBars: number) => void;
  readonly call: (kind: SectionKind) => void;
  readonly rename: (name: string) => void;
  readonly clear: () => void;
  /** The position, so many bars on. */
  readonly walk: (byBars: number) => void;
  /** Repeats the section in hand. */
  readonly repeat: () => void;
}

export function useSectionTools({ rows, current, take, isProposed, accept }: Sections): SectionTools {
  const store = useSessionStore();
  const player = usePlayer();
  const map = useSongMap();
  const set = (label: string, next: (now: readonly Marker[]) => readonly Marker[] | null): void => {
    // What is proposed becomes the song's first: then it can be worked on.
    if (isProposed) accept();
    const { markers } = store.getState().view.session;
    const done = next(markers);
    if (done) store.getState().commit(label, [{ kind: 'markers.set', markers: done }]);
  };
  /** The one in hand; what was only proposed has become a marker at the same place. */
  const own = (now: readonly Marker[]): Marker | undefined =>
    now.find((m) => m.id === current?.id) ??
    now.find((m) => current !== null && Math.abs(m.seconds - current.fromSeconds) < 1e-3);
  const onOwn = (
    label: string,
    next: (now: readonly Marker[], m: Marker) => readonly Marker[] | null,
  ): void => {
    if (current)
      set(label, (now) => {
        const m = own(now);
        return m ? next(now, m) : null;
      });
  };
  return {
    drop: () => {
      const at = nearestLine(map, player.state.getState().positionSeconds);
      set('Begin a section', (now) => dropped(now, at, crypto.randomUUID()));
    },
    join: () => {
      const before = current && rows[rows.indexOf(current) - 1];
      onOwn(`Join ${current?.name ?? ''} with the one before`, (now, m) => joined(now, m.id));
      // What it went into is in hand now.
      if (before) take(before);
    },
    begin: (by) =>
      onOwn(`Move the beginning of ${current?.name ?? ''}`, (now, m) =>
        begunAt(now, m.id, barsLater(map, m.seconds, by)),
      ),
    shift: (by) =>
      onOwn(`Move all from ${current?.name ?? ''} on`, (now, m) =>
        shiftedFrom(now, m.id, barsLater(map, m.seconds, by)),
      ),
    call: (kind) => onOwn(`Call ${current?.name ?? ''} otherwise`, (now, m) => calledAs(now, [m.id], kind)),
    rename: (name) =>
      onOwn(`Rename ${current?.name ?? ''}`, (now, m) =>
        name.trim() === '' || name.trim() === m.name
          ? null
          : now.map((o) => (o.id === m.id ? { ...o, name: name.trim().slice(0, 120) } : o)),
      ),
    clear: () =>
      store.getState().commit('Remove all sections and named places', [{ kind: 'markers.set', markers: [] }]),
    walk: (by) => player.seek(barsLater(map, player.state.getState().positionSeconds, by)),
    repeat: () => {
      if (!current) return;
      player.seek(current.fromSeconds);
      player.setLoop({ fromSeconds: current.fromSeconds, toSeconds: current.toSeconds });
    },
  };
}
