'use client';
import { groupsOf, membersOf, type SessionState, type Track } from '@/core/session';
import { useSession, useWorkbench, workbench } from '@/ui/client';
import { Button, Check, Kbd, Line, type Shortcut } from '@/ui/kit';

/** Selects all tracks of the groups of the given one. */
function selectGroup(session: SessionState, trackId: string | null): void {
  if (trackId === null) return;
  const ids = groupsOf(session, trackId)
    .flatMap((g) => membersOf(session, g))
    .map((t) => t.id);
  if (ids.length > 0) workbench.setState({ selected: new Set(ids) });
}

/** Keys for the groups of the track in hand: all of a group selected, or what is changed holds for this one alone. */
export const groupKeys = (sessionNow: () => SessionState): Shortcut[] => [
  { key: 't', run: () => selectGroup(sessionNow(), workbench.getState().current) },
  { key: 'a', run: () => workbench.setState({ alone: !workbench.getState().alone }) },
];

/** Which groups a track is in, and whether what is changed holds for all of them or for this one alone. */
export function GroupLine({ track }: { readonly track: Track }) {
  const session = useSession((s) => s.view.session);
  const alone = useWorkbench((w) => w.alone);
  const groups = groupsOf(session, track.id);
  if (groups.length === 0) return null;
  const isTogether = groups.some((g) => g.on);
  return (
    <div className="fm-field fm-group-line">
      <p className="fm-below-1">
        Level, pan, mute and begin {isTogether && !alone ? 'change together with' : 'are this one’s own;'}{' '}
        {groups.map((g) => (
          <b key={g.id}>{g.name}, </b>
        ))}
        <span className="fm-faint">
          {groups
            .map(
              (g) =>
                `${membersOf(session, g).length} tracks${g.on ? '' : ', put aside'}${g.gainDb === 0 ? '' : `, ${g.gainDb} dB`}`,
            )
            .join('; ')}
        </span>
      </p>
      <Line gap={3}>
        {isTogether && (
          <Check
            id="alone"
            label={
              <>
                This one alone <Kbd>A</Kbd>
              </>
            }
            checked={alone}
            onChange={(e) => workbench.setState({ alone: e.target.checked })}
          />
        )}
        <Button tone="link" onClick={() => selectGroup(session, track.id)}>
          Select all <Kbd>T</Kbd>
        </Button>
      </Line>
    </div>
  );
}
