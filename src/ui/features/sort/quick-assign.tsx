'use client';
import { useEffect, useMemo, useRef } from 'react';
import { likenessWords } from '@/core/style';
import { doubtfulTracks, selectOnly, useSession, useSessionStore, useWorkbench } from '@/ui/client';
import { Button, Kbd, useShortcuts } from '@/ui/kit';
import { playWhereItPlays, usePlayer } from '@/ui/listening';

/**
 * Doubtful tracks one after the other: each is heard alone where it is loudest, a digit says what it is, and the next one plays.
 * Ends by itself when none is left.
 */
export function QuickAssign({ onEnd }: { readonly onEnd: () => void }) {
  const store = useSessionStore();
  const player = usePlayer();
  const view = useSession((s) => s.view);
  const current = useWorkbench((w) => w.current);
  const doubts = useMemo(() => doubtfulTracks(view), [view]);
  const at = doubts.findIndex((t) => t.id === current);
  const place = useRef(Math.max(0, at));
  const isOver = doubts.length === 0;

  useEffect(() => {
    if (isOver) return onEnd();
    // What was said is no doubt any more: the one that comes to stand in its place is next.
    if (at < 0) selectOnly((doubts[place.current] ?? doubts[0])?.id ?? null);
    else place.current = at;
  }, [isOver, at, doubts, onEnd]);

  const heard = at < 0 ? null : current;
  useEffect(() => {
    if (heard === null) return;
    player.setSolo(new Set([heard]));
    void playWhereItPlays(store.getState().view, player, 'loudest', heard);
  }, [heard, player, store]);
  useEffect(
    () => () => {
      player.setSolo(new Set());
      player.stop();
    },
    [player],
  );

  const likeness = view.recordings.find((r) => r.id === doubts[at]?.recordingId)?.heard?.as ?? null;
  const said = likenessWords(likeness);
  useShortcuts([{ key: 'escape', run: onEnd }]);
  return (
    <p className="fm-over-hand fm-quick" role="status">
      <b>Quick assign</b>{' '}
      <span>
        {at + 1} of {doubts.length}: {doubts[at]?.receivedName}
        {said !== null && (
          <>
            {' '}
            <b>{said}</b>
          </>
        )}
      </span>
      <span className="fm-faint">
        a digit says what it is, <Kbd>Y</Kbd> accepts, <Kbd>N</Kbd> passes on, <Kbd>Esc</Kbd> ends
      </span>
      <span className="fm-top-spring" />
      <Button tone="quiet" onClick={onEnd}>
        End
      </Button>
    </p>
  );
}
