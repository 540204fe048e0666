import { type Change, isFolder, listRows, type SessionState, type Track } from '@/core/session';
import { type HouseStyle, spreadColors } from '@/core/style';

/** Ways to colour many tracks at once. */
export const COLOR_BY = [
  ['style', 'by the house style'],
  ['folder', 'as the folder they are in'],
  ['distinct', 'each its own'],
] as const;

/** One of {@link COLOR_BY}. */
export type ColorBy = (typeof COLOR_BY)[number][0];

/** Colours tracks; by the house style they follow it again, else the colour counts as set by hand. */
export function colorEdits(
  session: SessionState,
  style: HouseStyle,
  tracks: readonly Track[],
  by: ColorBy,
): Change[] {
  const parents = new Map(listRows(session).map((r) => [r.node.id, r.parentId]));
  const distinct = spreadColors(tracks.length);
  return tracks.flatMap((t, i): Change[] => {
    const parent = session.nodes[parents.get(t.id) ?? ''];
    const color =
      by === 'style'
        ? ((t.part === null ? undefined : style.partColors[t.part]) ?? style.colors[t.family])
        : by === 'folder'
          ? isFolder(parent)
            ? parent.color
            : null
          : (distinct[i] ?? null);
    const byHand =
      by === 'style' ? t.byHand.filter((f) => f !== 'color') : [...new Set([...t.byHand, 'color'])];
    // At the top level there is no folder to be like.
    return color === null || (color === t.color && byHand.length === t.byHand.length)
      ? []
      : [{ kind: 'track.change', id: t.id, fields: { color, byHand } }];
  });
}
