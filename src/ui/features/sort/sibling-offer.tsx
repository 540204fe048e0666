'use client';
import { type Change, type SessionState, type Track, tracksInOrder } from '@/core/session';
import { namesFor } from '@/core/style';
import { useNamesAnswer, useSession, useSessionStore } from '@/ui/client';
import { Button, Kbd, useShortcuts } from '@/ui/kit';
import { isSameKind } from './choices';
import { kindEdit } from './family-edits';

/** After a correction: the others of the same name, which a person has not decided, and that are something else still. */
export const undecidedSiblings = (
  session: SessionState,
  track: Track,
  siblings: readonly string[],
): Track[] =>
  tracksInOrder(session).filter(
    (t) =>
      siblings.includes(t.id) && !t.byHand.includes('family') && t.tiedTo === null && !isSameKind(t, track),
  );

const NAMES_SHOWN = 3;

/** What was said of one is offered for those of the same name. */
export function SiblingOffer({ track }: { readonly track: Track }) {
  const store = useSessionStore();
  const { session, style } = useSession((s) => s.view);
  const tracks = tracksInOrder(session);
  const at = tracks.findIndex((t) => t.id === track.id);
  const [names, own, junk] = namesFor(session, style);
  const isSaid = track.byHand.includes('family') && at >= 0;
  const found = useNamesAnswer<'siblings'>(
    () => (isSaid ? { kind: 'siblings', names, at, own: own ?? [], junk: junk ?? [] } : null),
    // What the names and words are made of: lists made anew at every drawing would be new questions.
    [isSaid, at, names.join('\n'), session.words, style],
  );
  const siblings = isSaid
    ? undecidedSiblings(
        session,
        track,
        (found ?? []).flatMap((i) => tracks[i]?.id ?? []),
      )
    : [];
  const accept = (): void => {
    if (siblings.length === 0) return;
    const by = { style, busIds: new Set(session.busOrder) };
    const edits: Change[] = siblings.map((t) => kindEdit(t, track, by));
    void store.getState().commit(`Say the same of ${siblings.length} more`, edits);
  };
  useShortcuts(siblings.length > 0 ? [{ key: 'e', run: accept }] : []);
  if (siblings.length === 0) return null;
  const shown = siblings
    .slice(0, NAMES_SHOWN)
    .map((t) => t.receivedName)
    .join(', ');
  const more = siblings.length > NAMES_SHOWN ? ` and ${siblings.length - NAMES_SHOWN} more` : '';
  return (
    <Button tone="choice" className="fm-wide fm-above-2 fm-below-2" onClick={accept}>
      <Kbd>E</Kbd>{' '}
      <span className="fm-grow">
        The same for {shown}
        {more}
      </span>
    </Button>
  );
}
