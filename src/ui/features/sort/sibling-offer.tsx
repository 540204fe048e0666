'use client';
import { useMemo } from 'react';
import { siblingsOf } from '@/core/naming';
import { type Edit, type SessionState, type Track, tracksInOrder } from '@/core/session';
import { type HouseStyle, wordsFor } from '@/core/style';
import { useSession, useSessionStore } from '@/ui/client';
import { Kbd, useShortcuts } from '@/ui/kit';
import { isSameKind } from './choices';
import { kindEdit } from './family-edits';

/** After a correction: the others of the same name, which a person has not decided, and that are something else still. */
export function undecidedSiblings(session: SessionState, style: HouseStyle, track: Track): Track[] {
  if (!track.byHand.includes('family')) return [];
  const tracks = tracksInOrder(session);
  const at = tracks.findIndex((t) => t.id === track.id);
  if (at < 0) return [];
  return siblingsOf(
    tracks.map((t) => t.receivedName),
    at,
    wordsFor(session, style),
    style.junk,
  )
    .map((i) => tracks[i] as Track)
    .filter((t) => !t.byHand.includes('family') && t.tiedTo === null && !isSameKind(t, track));
}

const NAMES_SHOWN = 3;

/** What was said of one is offered for those of the same name. */
export function SiblingOffer({ track }: { readonly track: Track }) {
  const store = useSessionStore();
  const { session, style } = useSession((s) => s.view);
  const siblings = useMemo(() => undecidedSiblings(session, style, track), [session, style, track]);
  const take = (): void => {
    if (siblings.length === 0) return;
    const by = { style, busIds: new Set(session.busOrder) };
    const edits: Edit[] = siblings.map((t) => kindEdit(t, track, by));
    void store.getState().commit(`Say the same of ${siblings.length} more`, edits);
  };
  useShortcuts(siblings.length > 0 ? [{ key: 'e', run: take }] : []);
  if (siblings.length === 0) return null;
  const names = siblings
    .slice(0, NAMES_SHOWN)
    .map((t) => t.receivedName)
    .join(', ');
  const more = siblings.length > NAMES_SHOWN ? ` and ${siblings.length - NAMES_SHOWN} more` : '';
  return (
    <button type="button" className="fm-choice w-100 my-2" onClick={take}>
      <Kbd>E</Kbd>{' '}
      <span className="flex-grow-1">
        The same for {names}
        {more}
      </span>
    </button>
  );
}
