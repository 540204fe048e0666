import { type Change, type SessionState, tracksUnder } from '@/core/session';
import { selectOnly, type useSessionStore, workbench } from '@/ui/client';
import { stepEdits, type TrackEdits, withHand } from '@/ui/strips';
import type { Player } from '@/ui/listening';
import { copyNameEdits, emptyFolderEdits, moveEdits, nestEdits, newFolderEdits, removeEdits } from './moves';
import { newGroupEdits } from './routing-edits';
import { type SheetRow, tracksBelow } from './rows';

/** What can be done to the selected rows, by a key or from a menu. */
export interface RowCommands {
  readonly move: (by: -1 | 1) => void;
  readonly nest: (deeper: boolean) => void;
  readonly remove: () => void;
  readonly mute: () => void;
  readonly alone: () => void;
  readonly neutral: () => void;
  readonly decideAgain: () => void;
  readonly newFolder: () => void;
  readonly newGroup: () => void;
  readonly copyName: () => void;
  readonly removeEmpty: () => void;
  /** Level or pan of all one step on. */
  readonly step: (column: 'level' | 'pan', by: number) => void;
  readonly selectInside: () => void;
  readonly fold: (which: 'all' | 'none' | 'swap') => void;
  readonly foldRow: (id: string, on: boolean) => void;
}

/** The commands over what is selected when they are called. `isSorted`: nothing can be moved. */
export function rowCommands({
  store,
  player,
  commitGrouped,
  isSorted,
}: {
  readonly store: ReturnType<typeof useSessionStore>;
  readonly player: Player;
  readonly commitGrouped: (label: string, edits: readonly Change[]) => void;
  readonly isSorted: boolean;
}): RowCommands {
  const session = (): SessionState => store.getState().view.session;
  const ids = (): string[] => [...workbench.getState().selected];
  const tracks = (): ReturnType<typeof tracksUnder> => tracksUnder(session(), workbench.getState().selected);
  const trackIds = (): string[] => tracks().map((t) => t.id);
  const commit = (label: string, edits: readonly Change[]): void => {
    if (edits.length > 0) void store.getState().commit(label, edits);
  };
  const counted = (what: string, one: string): string => {
    const { length } = ids();
    return length > 1 ? `${what} ${length} rows` : `${what} ${one}`;
  };
  const folders = (): string[] =>
    Object.values(session().nodes)
      .filter((n) => n.kind === 'folder')
      .map((n) => n.id);
  return {
    move: (by) => {
      if (!isSorted) commit(counted('Move', 'a row'), moveEdits(session(), ids(), by));
    },
    nest: (deeper) => {
      if (!isSorted)
        commit(deeper ? 'Move into a folder' : 'Move out of a folder', nestEdits(session(), ids(), deeper));
    },
    remove: () => {
      const edits = removeEdits(session(), ids());
      if (edits.length === 0) return;
      commit(counted('Remove', 'a row'), edits);
      selectOnly(null);
    },
    mute: () => {
      const muted = tracks().some((t) => !t.muted);
      commitGrouped(
        muted ? 'Mute' : 'Unmute',
        tracks().map((t) => ({
          kind: 'track.change',
          id: t.id,
          fields: { muted, byHand: withHand(t, 'muted') },
        })),
      );
    },
    alone: () => player.toggleSolo(new Set(trackIds())),
    neutral: () =>
      commit(
        `Neutral level and pan of ${tracks().length}`,
        tracks().map((t) => ({
          kind: 'track.change',
          id: t.id,
          fields: { gainDb: 0, pan: 0, byHand: withHand(t, 'gainDb', 'pan') },
        })),
      ),
    decideAgain: () =>
      commit(
        'Let the house style decide',
        tracks().map((t) => ({ kind: 'track.change', id: t.id, fields: { byHand: [], confidence: 0 } })),
      ),
    newFolder: () => commit('New folder', newFolderEdits(session(), ids())),
    newGroup: () => commit('New group', newGroupEdits(session(), trackIds())),
    copyName: () => commit('Copy a name down', copyNameEdits(session(), trackIds())),
    removeEmpty: () => commit('Remove empty folders', emptyFolderEdits(session())),
    step: (column, by) => {
      const result: TrackEdits = stepEdits(column, by, tracks());
      if ('edits' in result && result.edits.length > 0) commitGrouped(result.label, result.edits);
    },
    selectInside: () => {
      const inside = ids().flatMap((id) => tracksBelow(session(), id).map((t) => t.id));
      if (inside.length > 0) workbench.setState({ selected: new Set(inside), current: inside[0] ?? null });
    },
    fold: (which) => {
      const { folded } = workbench.getState();
      const all = folders();
      workbench.setState({
        folded: new Set({ all, none: [], swap: all.filter((id) => !folded.has(id)) }[which]),
      });
    },
    foldRow: (id, on) => {
      const folded = new Set(workbench.getState().folded);
      if (on) folded.add(id);
      else folded.delete(id);
      workbench.setState({ folded });
    },
  };
}

/** Selects all tracks that are shown. */
export const selectAll = (rows: readonly SheetRow[]): void =>
  workbench.setState({ selected: new Set(rows.filter((r) => r.kind === 'track').map((r) => r.id)) });
