import { asksMore, type SessionView, trackFactsOf } from '@/contracts';
import { type HouseStyle, proposeSort, type SortProposal } from '@/core/style';
import { findingsOf } from './findings';

interface Known {
  readonly style: HouseStyle;
  readonly recordings: SessionView['recordings'];
  readonly proposal: SortProposal;
}

const known = new WeakMap<object, Known>();

/** What is known of the tracks of a session besides their names, for conditions. */
export const trackFacts = (view: SessionView): ReturnType<typeof trackFactsOf> =>
  trackFactsOf(view, findingsOf(view).open);

/** What a style would propose for a session; `overHand`: also over what was set by hand. */
export const proposalWith = (view: SessionView, style: HouseStyle, overHand = false): SortProposal =>
  proposeSort(view.session, style, {
    overHand,
    ...(asksMore(view, style) ? { factsOf: trackFacts(view) } : {}),
  });

/** What the house style proposes for a session; worked out once for each state of it, however many parts of the page ask. */
export function proposalOf(view: SessionView): SortProposal {
  const found = known.get(view.session);
  if (found?.style === view.style && (found.recordings === view.recordings || !asksMore(view, view.style)))
    return found.proposal;
  const proposal = proposalWith(view, view.style);
  known.set(view.session, { style: view.style, recordings: view.recordings, proposal });
  return proposal;
}
