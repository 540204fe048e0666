import { asksMore, type SessionView, trackFactsOf } from '@/contracts';
import type { NameReading } from '@/core/naming';
import { type Track, tracksInOrder } from '@/core/session';
import { type HouseStyle, namesFor, needsPatternEngine, proposeBy, type SortProposal } from '@/core/style';
import { findingsOf } from './findings';
import { isUnread, knownNames } from './names';

interface Known {
  readonly style: HouseStyle;
  readonly recordings: SessionView['recordings'];
  readonly readings: readonly NameReading[];
  readonly proposal: SortProposal;
}

const known = new WeakMap<object, Known>();

const readingsFor = ({ session }: SessionView, style: HouseStyle): readonly NameReading[] =>
  knownNames().read(...namesFor(session, style));

/** Names that are not read yet, as their tracks are: nothing is proposed for them. */
const asTheyAre = ({ session }: SessionView, readings: readonly NameReading[]): readonly NameReading[] =>
  tracksInOrder(session).map((t, i): NameReading => {
    const reading = readings[i] as NameReading;
    return isUnread(reading) ? { ...reading, ...saidOfTrack(t) } : reading;
  });
const saidOfTrack = ({ family, part, role, position, side, number, confidence }: Track) => ({
  ...{ family, part, role, number, confidence },
  position: position as NameReading['position'],
  side: side as NameReading['side'],
});

/** Whether the names of a session are read, being read, or cannot be. */
export const namesStateOf = ({
  session,
  style,
}: Pick<SessionView, 'session' | 'style'>): 'reading' | 'read' | 'failed' =>
  needsPatternEngine(style) ? 'reading' : knownNames().stateOf(...namesFor(session, style));

/** Does what needs the names of a session: at once, or as soon as they are read. */
export function onceNamesAreRead(view: SessionView, run: () => void): void {
  if (namesStateOf(view) !== 'reading') run();
  else
    void knownNames()
      .whenRead(...namesFor(view.session, view.style))
      .then(run);
}

/** What is known of the tracks of a session besides their names, for conditions. */
export const trackFacts = (view: SessionView): ReturnType<typeof trackFactsOf> =>
  trackFactsOf(view, findingsOf(view).open);

/** What a style would propose for a session; `overHand`: also over what was set by hand. */
export function proposalWith(view: SessionView, style: HouseStyle, overHand = false): SortProposal {
  const readings = readingsFor(view, style);
  // The ear is asked where names say nothing: that is not known yet.
  if (readings.some(isUnread)) return proposeBy(asTheyAre(view, readings), view.session, style, { overHand });
  return proposeBy(readings, view.session, style, {
    overHand,
    ...(asksMore(view, style) ? { factsOf: trackFacts(view) } : {}),
  });
}

/** What the house style proposes for a session; worked out once for each state of it, however many parts of the page ask. */
export function proposalOf(view: SessionView): SortProposal {
  const found = known.get(view.session);
  const readings = readingsFor(view, view.style);
  if (
    found?.style === view.style &&
    found.readings === readings &&
    (found.recordings === view.recordings || !asksMore(view, view.style))
  )
    return found.proposal;
  const proposal = proposalWith(view, view.style);
  if (!needsPatternEngine(view.style))
    known.set(view.session, { style: view.style, recordings: view.recordings, readings, proposal });
  return proposal;
}
