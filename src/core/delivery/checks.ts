import { routingNotes, tracksInOrder, type SessionState } from '../session';
import type { PackagePlan } from './plan';

/** One thing the mixer can rely on, or should know. */
export interface SessionCheck {
  readonly code:
    | 'common-start'
    | 'same-shape'
    | 'names'
    | 'tempo'
    | 'sorted'
    | 'levels'
    | 'routing'
    | 'duplicates'
    | 'all-arrived';
  /** `good`, `look` (worth a decision) or `stop` (nothing can be built). */
  readonly state: 'good' | 'look' | 'stop';
  readonly title: string;
  readonly detail: string;
  /** Short figure at the right. */
  readonly figure: string;
}

/** What else is known of the recordings. */
export interface CheckFacts {
  readonly failedRecordings: number;
  readonly arrivingRecordings: number;
  readonly clippedTracks: readonly string[];
  readonly duplicateTracks: readonly string[];
}

/** Checks before building; `plan` null when nothing can be planned yet. */
export function checkSession(
  session: SessionState,
  plan: PackagePlan | null,
  facts: CheckFacts,
): SessionCheck[] {
  const tracks = tracksInOrder(session);
  const checks: SessionCheck[] = [];
  const add = (
    code: SessionCheck['code'],
    state: SessionCheck['state'],
    title: string,
    detail: string,
    figure = '',
  ): void => void checks.push({ code, state, title, detail, figure });
  if (facts.arrivingRecordings > 0)
    add(
      'all-arrived',
      'stop',
      'Recordings are still arriving',
      'Wait until Intake is done.',
      `${facts.arrivingRecordings}`,
    );
  if (facts.failedRecordings > 0)
    add(
      'all-arrived',
      'look',
      'Some files could not be taken',
      'See Intake; the package will be without them, and the cover note says so.',
      `${facts.failedRecordings}`,
    );
  if (!plan) {
    add(
      'common-start',
      'stop',
      'Nothing to hand over yet',
      tracks.length === 0 ? 'Add recordings at Intake.' : 'Wait until all recordings are ready.',
    );
    return checks;
  }
  if (session.map)
    add(
      'common-start',
      'good',
      'One start for all',
      `every file begins at 1.1, ${plan.leadInBars === 0 ? 'at the first downbeat' : plan.leadInBars === 1 ? 'one bar before the first downbeat' : `${plan.leadInBars} bars before the first downbeat`}${plan.padFrames < 0 ? `; ${(-plan.padFrames / plan.sampleRateHz).toFixed(2)} s before that are cut` : ''}`,
      `${plan.files.length} files`,
    );
  else
    add(
      'common-start',
      'good',
      'One start for all',
      'every file begins at the common zero',
      `${plan.files.length} files`,
    );
  add(
    'same-shape',
    'good',
    'Same length, rate, depth',
    `${plan.lengthFrames.toLocaleString('en')} frames · ${plan.sampleRateHz / 1000} kHz · ${plan.bitDepth}-bit`,
    `${plan.files.length} files`,
  );
  const longest = Math.max(0, ...plan.files.map((f) => (f.path.split('/').at(-1) ?? '').length - 4));
  add(
    'names',
    'good',
    'Names are safe everywhere',
    `no doubles, none over ${longest} characters`,
    `${plan.files.length}`,
  );
  if (!session.map)
    add(
      'tempo',
      'look',
      'No tempo map',
      'Find and accept one at Tempo; without it there is no click and no bar line to rely on.',
    );
  else {
    const pulses = session.mapFacts?.pulses ?? [];
    const doubtful = pulses.filter((p) => p.confidence < 0.5).length;
    add(
      'tempo',
      doubtful > pulses.length * 0.1 ? 'look' : 'good',
      'Grid and music agree',
      `${doubtful} of ${pulses.length} pulses are uncertain`,
      `${plan.beats.filter((b) => b.accent).length} bars`,
    );
  }
  const open = tracks.filter((t) => t.confidence < 0.7 && !t.byHand.includes('family'));
  if (open.length > 0)
    add(
      'sorted',
      'look',
      'Tracks nobody is sure of',
      open
        .slice(0, 4)
        .map((t) => t.name)
        .join(', '),
      `${open.length}`,
    );
  else add('sorted', 'good', 'Every track has its family', 'by a clear name or by hand', `${tracks.length}`);
  addRouting(session, add);
  if (facts.clippedTracks.length > 0)
    add(
      'levels',
      'look',
      'Clipped recordings',
      facts.clippedTracks.slice(0, 4).join(', '),
      `${facts.clippedTracks.length}`,
    );
  else add('levels', 'good', 'Nothing clips', 'no run of samples at full scale in any recording');
  if (facts.duplicateTracks.length > 0)
    add(
      'duplicates',
      'look',
      'The same recording twice',
      facts.duplicateTracks.slice(0, 4).join(', '),
      `${facts.duplicateTracks.length}`,
    );
  return checks;
}

function addRouting(
  session: SessionState,
  add: (
    code: SessionCheck['code'],
    state: SessionCheck['state'],
    title: string,
    detail: string,
    figure?: string,
  ) => void,
): void {
  const notes = routingNotes(session);
  const names = (ids: readonly string[]): string =>
    ids
      .slice(0, 4)
      .map((id) => session.nodes[id]?.name ?? session.buses[id]?.name ?? '')
      .join(', ');
  const unheard = notes
    .filter((n) => n.code === 'track-unheard' || n.code === 'bus-unheard')
    .map((n) => n.id);
  const past = notes.filter((n) => n.code === 'past-sum').map((n) => n.id);
  if (unheard.length > 0)
    add('routing', 'look', 'Not routed to the mix bus', names(unheard), `${unheard.length}`);
  if (past.length > 0)
    add('routing', 'look', 'Routed past the sum of their folder', names(past), `${past.length}`);
  if (unheard.length + past.length === 0)
    add(
      'routing',
      'good',
      'Everything reaches the mix bus',
      session.busOrder.length === 0
        ? 'no sums between'
        : `by ${session.busOrder.length} ${session.busOrder.length === 1 ? 'bus' : 'buses'}, all empty of processing`,
      `${tracksInOrder(session).length}`,
    );
}
