import { isTrack, type Change, type SessionState } from '@/core/session';
import {
  changesSomething,
  type HouseStyle,
  proposalEdits,
  type SortProposal,
  type SortRow,
} from '@/core/style';
import { withHand } from '@/ui/strips';

/** Proposals as a person's word: all they say is done, and what each track is stays so. */
export function acceptEdits(
  session: SessionState,
  style: HouseStyle,
  proposal: SortProposal,
  rows: readonly SortRow[],
): Change[] {
  const changing = new Set(rows.filter(changesSomething).map((r) => r.trackId));
  return [
    ...(changing.size > 0 ? proposalEdits(session, style, proposal, changing) : []),
    ...rows.flatMap((r): Change[] => {
      const track = session.nodes[r.trackId];
      return isTrack(track)
        ? [
            {
              kind: 'track.change',
              id: track.id,
              fields: { confidence: 1, byHand: withHand(track, 'family') },
            },
          ]
        : [];
    }),
  ];
}

/** Rows whose names say nothing, as they were heard, and nobody has decided. */
export const heardRows = (session: SessionState, proposal: SortProposal): readonly SortRow[] =>
  proposal.rows.filter((r) => {
    const track = session.nodes[r.trackId];
    return r.isByEar && r.group === 'doubtful' && isTrack(track) && !track.byHand.includes('family');
  });
