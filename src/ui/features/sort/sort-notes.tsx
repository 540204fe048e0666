'use client';
import type { SortRow } from '@/core/style';
import { chooseLens } from '@/ui/client';
import { Button } from '@/ui/kit';
import type { Shown } from './lens-tracks';
import { MOST_NAMED, someNames } from './some-names';
import type { ProposalInHand } from './use-proposal';

const FIELD_WORDS: Readonly<Record<string, string>> = { busId: 'bus', color: 'colour', muted: 'mute' };

/** What a person should know of what the sheet shows: overwriting, another order, what is left out. */
export function SortNotes({
  inHand,
  shown,
  isSorted,
  onUnsort,
  isEmpty,
}: {
  readonly inHand: ProposalInHand;
  readonly shown: Shown;
  readonly isSorted: boolean;
  readonly onUnsort: () => void;
  /** Nothing passes the lenses and the search. */
  readonly isEmpty: boolean;
}) {
  const { overHand, overwritten } = inHand;
  return (
    <>
      {overHand && (
        <p className="fm-over-hand" role="status">
          <b>{overwritten.length}</b> {overwritten.length === 1 ? 'track that was' : 'tracks that were'} set
          by hand would be overwritten{overwritten.length > 0 ? `: ${overwrittenText(overwritten)}` : ''}.
          Names and colours of folders too.{' '}
          <Button tone="link" onClick={() => inHand.proposeOverHand(false)}>
            Keep them
          </Button>
        </p>
      )}
      {isSorted && (
        <p className="fm-over-hand" role="status">
          Sorted to look at: the order of the session stays.{' '}
          <Button tone="link" onClick={onUnsort}>
            Back to it
          </Button>
        </p>
      )}
      {shown.missed.length > 0 && (
        <p className="fm-over-hand" role="status">
          Not shown here, though of the same family: {someNames(shown.missed.map((t) => t.name))}.
        </p>
      )}
      {isEmpty && (
        <p className="fm-over-hand" role="status">
          No track passes the search and the lenses that are on.{' '}
          <Button tone="link" onClick={() => chooseLens('all', false)}>
            Show everything
          </Button>
        </p>
      )}
    </>
  );
}

/** Which tracks lose what was set by hand, in words. */
function overwrittenText(rows: readonly SortRow[]): string {
  const named = rows
    .slice(0, MOST_NAMED)
    .map((r) => `${r.name} (${r.overwrites.map((f) => FIELD_WORDS[f] ?? f).join(', ')})`)
    .join('; ');
  return rows.length > MOST_NAMED ? `${named} and ${rows.length - MOST_NAMED} more` : named;
}
