import { asNoun, type Family, partsOf } from '@/core/naming';
import type { Change, Track } from '@/core/session';
import { busId, type HouseStyle, type TrackKind, treeOf } from '@/core/style';
import { withHand } from '@/ui/strips';
import { handName } from './rows';

/** What a choice by hand needs to know: the style, and the sums that are there. */
interface By {
  readonly style: HouseStyle;
  readonly busIds: ReadonlySet<string>;
}

/** Family by hand brings what follows from it, but for what was set by hand: colour, bus, mute; and a certain verdict. A part of another family is none of this one. */
export function familyEdit(track: Track, family: Family, by: By): Change {
  const part = track.part !== null && partsOf(family).includes(track.part) ? track.part : null;
  return kindEdit(track, { family, part, role: track.role }, by);
}

/** What a track is, chosen among what it may be. */
export function kindEdit(track: Track, { family, part, role }: TrackKind, { style, busIds }: By): Change {
  const tree = treeOf(style);
  const sum = tree.busOf(style.folders.find((f) => f.families.includes(family)) ?? null);
  const bus = sum !== null && busIds.has(busId(sum)) ? busId(sum) : null;
  const name = track.byHand.includes('name') ? null : handName(style, family, part);
  return {
    kind: 'track.change',
    id: track.id,
    fields: {
      family,
      part,
      role,
      confidence: 1,
      byHand: withHand(track, 'family'),
      ...(track.byHand.includes('color') ? {} : { color: style.colors[family] }),
      ...(track.byHand.includes('busId') ? {} : { busId: bus }),
      ...(track.byHand.includes('muted') ? {} : { muted: style.muted.includes(family) }),
      ...(name === null ? {} : { name }),
    },
  };
}

/** A part by hand confirms the family, with all that follows from it, and brings its name unless there is one by hand. */
export function partEdits(track: Track, family: Family, part: string | null, by: By): Change[] {
  const name = track.byHand.includes('name') ? null : handName(by.style, family, part);
  return [
    familyEdit(track, family, by),
    {
      kind: 'track.change',
      id: track.id,
      fields: { part, ...(name === null ? {} : { name }), byHand: withHand(track, 'family', 'part') },
    },
  ];
}

/** A part as a person types it: a known one, or a noun of one's own; null = none said. */
export const partOfText = (text: string): string | null => asNoun(text) || null;
