'use client';
import type { Finding } from '@/core/findings';
import { needless, type NeedlessRecording, takeOutEdits } from '@/core/session';
import { useSession, useSessionStore } from '@/ui/client';
import { Button, Kbd, useShortcuts } from '@/ui/kit';

/** Takes copies and silent recordings out of the session, all in one step. */
export function NeedlessStrip({
  open,
  nameOf,
}: {
  readonly open: readonly Finding[];
  readonly nameOf: (id: string) => string;
}) {
  const store = useSessionStore();
  const session = useSession((s) => s.view.session);
  const without = needless(open);
  const text = needlessText(without);
  const removeTracks = (): void => {
    if (without.length > 0) store.getState().commit(`Take out ${text}`, takeOutEdits(session, without));
  };
  useShortcuts([{ key: 'x', run: removeTracks }]);
  return without.length === 0 ? null : (
    <p className="fm-over-hand" role="note">
      Nothing is lost without {text}:{' '}
      <span className="fm-mono">{without.map((w) => nameOf(w.id)).join(', ')}</span>.{' '}
      <Button title="Out of the session; one step to undo" onClick={removeTracks}>
        Take out <Kbd>X</Kbd>
      </Button>
    </p>
  );
}

/** How many copies and silent files, in words. */
function needlessText(without: readonly NeedlessRecording[]): string {
  const silent = without.filter((w) => w.code === 'silent').length;
  const copies = without.length - silent;
  return [
    ...(copies > 0 ? [`${copies} ${copies === 1 ? 'copy' : 'copies'}`] : []),
    ...(silent > 0 ? [`${silent} silent ${silent === 1 ? 'recording' : 'recordings'}`] : []),
  ].join(' and ');
}
