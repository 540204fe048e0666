import { type Finding, findingDetail, findingTitle } from '../findings';
import { routingNotes, tracksInOrder, type SessionState, type Track } from '../session';
import type { GridStretch } from '../tempo';
import { createSongMap } from '../time';
import type { PackagePlan } from './plan';

/** One thing the mixer can rely on, or should know. */
export interface SessionCheck {
  readonly code:
    | 'common-start'
    | 'same-shape'
    | 'names'
    | 'sounds'
    | 'tempo'
    | 'sorted'
    | 'routing'
    | 'finding'
    | 'compared'
    | 'all-arrived';
  /** `good`, `note` (good to know), `look` (worth a decision) or `stop` (nothing can be built). */
  readonly state: 'good' | 'note' | 'look' | 'stop';
  readonly title: string;
  readonly detail: string;
  /** Short figure at the right. */
  readonly figure: string;
  /** Stage where it can be looked at; null = here. */
  readonly stage: 'intake' | 'sort' | 'tempo' | null;
}

/** What else is known of the recordings. */
export interface CheckFacts {
  readonly failedRecordings: number;
  readonly arrivingRecordings: number;
  /** Recordings not listened to or not compared with the others yet; what they would show is not among the findings. */
  readonly uncompared: { readonly count: number; readonly isUnderWay: boolean };
  /** What the timekeepers strike against the session's map, stretch by stretch; null = not measured (yet). */
  readonly grid: readonly GridStretch[] | null;
  /** Open findings of what is in the session. */
  readonly findings: readonly Finding[];
  /** Name of a recording as people know it here. */
  readonly nameOf: (recordingId: string) => string;
}

type Add = (
  code: SessionCheck['code'],
  state: SessionCheck['state'],
  title: string,
  detail: string,
  figure?: string,
  stage?: SessionCheck['stage'],
) => void;

/** Checks before building; `plan` null when nothing can be planned yet. */
export function checkSession(
  session: SessionState,
  plan: PackagePlan | null,
  facts: CheckFacts,
): SessionCheck[] {
  const tracks = tracksInOrder(session);
  const checks: SessionCheck[] = [];
  const add: Add = (code, state, title, detail, figure = '', stage = null) =>
    void checks.push({ code, state, title, detail, figure, stage });
  if (facts.arrivingRecordings > 0)
    add(
      'all-arrived',
      'stop',
      'Recordings are still arriving',
      'Wait until Intake is done.',
      `${facts.arrivingRecordings}`,
      'intake',
    );
  if (facts.failedRecordings > 0)
    add(
      'all-arrived',
      'look',
      'Some files could not be taken',
      'The package is without them; the cover note names each with its reason.',
      `${facts.failedRecordings}`,
      'intake',
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
      `every file begins at ${`${plan.firstBarNumber - plan.leadInBars}.1`.replace('-', '−')}, ${plan.leadInBars === 0 ? 'at the first downbeat' : plan.leadInBars === 1 ? 'one bar before the first downbeat' : `${plan.leadInBars} bars before the first downbeat`}${plan.padFrames < 0 ? `; ${(-plan.padFrames / plan.sampleRateHz).toFixed(2)} s before that are cut` : ''}`,
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
    'Same length and rate',
    `${plan.lengthFrames.toLocaleString('en')} frames · ${plan.sampleRateHz / 1000} kHz · ${plan.bitDepth}-bit, 32-bit float where samples lie above full scale`,
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
  addSilent(plan, add);
  if (!session.map)
    add(
      'tempo',
      'look',
      'No tempo map',
      'Find and accept one at Tempo; without it there is no click and no bar line to rely on.',
      '',
      'tempo',
    );
  else addGrid(session, plan, facts.grid, add);
  // A person may have said that nobody knows what it is: that is settled, and still no family.
  const isNothing = (t: Track): boolean => t.family === 'unknown';
  const open = tracks.filter((t) => isNothing(t) || (t.confidence < 0.7 && !t.byHand.includes('family')));
  if (open.length > 0)
    add(
      'sorted',
      'look',
      open.every(isNothing) ? 'Tracks without a family' : 'Tracks nobody is sure of',
      open
        .slice(0, 4)
        .map((t) => t.name)
        .join(', '),
      `${open.length}`,
      'sort',
    );
  else add('sorted', 'good', 'Every track has its family', 'by a clear name or by hand', `${tracks.length}`);
  addRouting(session, add);
  addFindings(facts, add);
  return checks;
}

/** Tracks whose file holds nothing: all their clips are off, taken out, or lie beside their sound. */
function addSilent(plan: PackagePlan, add: Add): void {
  const silent = plan.files.filter((f) => f.trackId !== null && f.pieces.length === 0);
  if (silent.length > 0)
    add(
      'sounds',
      'look',
      silent.length === 1 ? 'A track of which nothing sounds' : 'Tracks of which nothing sounds',
      `${silent
        .slice(0, 4)
        .map((f) => f.name)
        .join(', ')}: handed over as silence, for nothing of what was recorded is left in`,
      `${silent.length}`,
      'sort',
    );
}

/** Whether the grid is where the music is, and where it is uncertain, in bars as people call them. */
function addGrid(session: SessionState, plan: PackagePlan, grid: CheckFacts['grid'], add: Add): void {
  const first = plan.firstBarNumber;
  const bars = (list: readonly { readonly fromBar: number; readonly toBar: number }[]): string =>
    barRanges(list)
      .map(([from, to]) => (from === to ? `${from + first - 1}` : `${from + first - 1}–${to + first - 1}`))
      .join(', ');
  const count = `${plan.beats.filter((b) => b.accent).length} bars`;
  if (grid === null || grid.length === 0)
    add(
      'tempo',
      grid === null ? 'note' : 'look',
      'Grid and music',
      grid === null
        ? 'not measured yet'
        : 'no stretch has enough hits of the timekeepers to be measured; listen to the click with them.',
      count,
      'tempo',
    );
  else {
    const apart = grid.filter((g) => g.state !== 'agrees');
    const worst = grid.reduce((a, b) => (Math.abs(b.lateSeconds) > Math.abs(a.lateSeconds) ? b : a));
    const worstText = `${Math.round(Math.abs(worst.lateSeconds) * 1000)} ms ${worst.lateSeconds < 0 ? 'before' : 'after'} the grid at worst, in bars ${bars([worst])}`;
    const drifting = grid.filter((g) => g.state === 'drifts');
    const loose = grid.filter((g) => g.state === 'loose');
    add(
      'tempo',
      apart.length === 0 ? 'good' : 'look',
      apart.length === 0 ? 'Grid and music agree' : 'Grid and music do not agree throughout',
      [
        ...(drifting.length === 0 ? [] : [`beside the grid: bars ${bars(drifting)}`]),
        ...(loose.length === 0 ? [] : [`keeps to no pulse: bars ${bars(loose)}`]),
        worstText,
      ].join('; '),
      apart.length === 0 ? count : `${Math.round((100 * apart.length) / grid.length)} % apart`,
      'tempo',
    );
  }
  const doubtful = doubtfulBars(session);
  if (doubtful.length > 0)
    add(
      'tempo',
      'look',
      'Bars nobody is sure of',
      `bars ${bars(doubtful)}; listen to them with the click`,
      `${doubtful.length}`,
      'tempo',
    );
}

/** Runs of bars that follow each other, both ends included. */
function barRanges(
  list: readonly { readonly fromBar: number; readonly toBar: number }[],
): (readonly [number, number])[] {
  const out: [number, number][] = [];
  for (const { fromBar, toBar } of list) {
    const last = out.at(-1);
    if (last && fromBar <= last[1] + 1) last[1] = Math.max(last[1], toBar);
    else out.push([fromBar, toBar]);
  }
  return out;
}

/** Pulses less sure than this are guesses more often than not. */
const UNSURE = 0.5;

/** Bars in which most pulses, or the bar line, are unsure. */
function doubtfulBars(session: SessionState): { readonly fromBar: number; readonly toBar: number }[] {
  if (!session.map || !session.mapFacts) return [];
  const { tempo, meters } = createSongMap(session.map.points, session.map.meters);
  const found = new Map<number, { pulses: number; unsure: number; barLine: boolean }>();
  for (const p of session.mapFacts.pulses) {
    const place = meters.toBar(tempo.toQuarters(p.seconds + 1e-6));
    const bar = found.get(place.bar) ?? { pulses: 0, unsure: 0, barLine: false };
    bar.pulses++;
    if (p.confidence < UNSURE && !p.pinned) bar.unsure++;
    const opens = Math.abs(tempo.toSeconds(meters.barToQuarters(place.bar)) - p.seconds) < 0.02;
    if (opens && !p.pinned && p.begins !== undefined && p.begins < UNSURE) bar.barLine = true;
    found.set(place.bar, bar);
  }
  return [...found]
    .filter(([, b]) => 2 * b.unsure > b.pulses || b.barLine)
    .map(([bar]) => ({ fromBar: bar, toBar: bar }))
    .sort((a, b) => a.fromBar - b.fromBar);
}

/** What was noticed and not settled: a line each, those good to know together. */
function addFindings({ findings, nameOf, uncompared }: CheckFacts, add: Add): void {
  if (uncompared.count > 0)
    add(
      'compared',
      'look',
      uncompared.isUnderWay
        ? 'Recordings are still being listened to and compared'
        : 'Recordings were not listened to',
      uncompared.isUnderWay
        ? 'What that shows is not among these checks yet.'
        : 'Their listening ended before it was done; finding the tempo asks for it again.',
      `${uncompared.count}`,
      'intake',
    );
  const names = (files: Finding['files']): string =>
    [...new Set(files.map((f) => nameOf(f.id)))].slice(0, MOST_NAMED).join(', ') +
    (files.length > MOST_NAMED ? ` and ${files.length - MOST_NAMED} more` : '');
  for (const f of findings.filter((x) => x.severity !== 'note')) {
    const detail = f.files.length === 1 && f.files[0] ? findingDetail(f.code, f.files[0]) : '';
    add(
      'finding',
      'look',
      findingTitle(f.code),
      `${names(f.files)}${detail === '' ? '' : `: ${detail}`}`,
      `${f.files.length}`,
      'intake',
    );
  }
  const notes = findings.filter((f) => f.severity === 'note');
  for (const f of notes)
    add('finding', 'note', findingTitle(f.code), names(f.files), `${f.files.length}`, 'intake');
  if (findings.length === 0 && uncompared.count === 0)
    add('finding', 'good', 'Nothing noticed is open', 'every finding of Intake is settled or put aside');
}

const MOST_NAMED = 4;

function addRouting(session: SessionState, add: Add): void {
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
