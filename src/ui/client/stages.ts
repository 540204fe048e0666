import { isRefused, type SessionView, uncomparedOf } from '@/contracts';
import { isEntire, tracksInOrder } from '@/core/session';
import { isSectionName } from '@/core/sections';
import { tracksMeeting } from '@/core/style';
import { findingsOf } from './findings';
import { namesStateOf, proposalOf, trackFacts } from './proposal';

/** The steps of the work, in their order. */
export const STAGES = ['intake', 'sort', 'tidy', 'tempo', 'sections', 'handover'] as const;

/** A step of the work and what is open in it. */
export interface StageState {
  readonly key: (typeof STAGES)[number];
  readonly name: string;
  /** A word or a count. */
  readonly note: string;
  /** `open` needs a person, `done` is settled, `later` cannot be done yet. */
  readonly state: 'open' | 'done' | 'later';
}

/** Tracks nobody and no clear word has settled, in the order of the sheet; none while their names are being read. */
export function doubtfulTracks(view: SessionView) {
  if (namesStateOf(view) === 'reading') return [];
  const open = new Set(
    proposalOf(view)
      .rows.filter((r) => r.group !== 'certain')
      .map((r) => r.trackId),
  );
  return tracksInOrder(view.session).filter((t) => open.has(t.id) && !t.byHand.includes('family'));
}

/** How many tracks something was taken out of, or else are at another level. */
function tidyState({ session }: SessionView): Pick<StageState, 'state' | 'note'> {
  const tracks = tracksInOrder(session);
  const cut = tracks.filter((t) => !isEntire(t)).length;
  const matched = tracks.filter((t) => t.clips.some((c) => c.gainDb !== 0)).length;
  if (cut > 0) return { state: 'done', note: `${cut} cut` };
  return matched > 0
    ? { state: 'done', note: `${matched} matched` }
    : { state: 'later', note: 'as received' };
}

/** Sections are named places: however many the song has. */
function sectionsState({ session, sections }: SessionView): Pick<StageState, 'state' | 'note'> {
  const count = session.markers.filter((m) => isSectionName(m.name)).length;
  if (count > 0) return { state: 'done', note: String(count) };
  return sections && sections.sections.length > 0
    ? { state: 'open', note: `${sections.sections.length} found` }
    : later;
}

const later = { state: 'later', note: 'not yet' } as const;

/** The rail's stages for a session. */
export function stageStates(view: SessionView): StageState[] {
  const failed = view.recordings.filter(isRefused).length;
  const arriving = view.recordings.filter((r) => r.state === 'waiting' || r.state === 'arriving').length;
  const lost = view.recordings.filter((r) => r.inPlace && r.inPlace.state !== 'there').length;
  const tracks = tracksInOrder(view.session).length;
  const doubts = doubtfulTracks(view).length;
  const unsorted = tracksInOrder(view.session).filter((t) => t.confidence === 0).length;
  const found = findingsOf(view).open.filter((f) => f.severity !== 'note').length;
  const newest = view.handovers.find((h) => h.state === 'done');
  return [
    {
      key: 'intake',
      name: 'Intake',
      ...(failed > 0
        ? { state: 'open', note: `${failed} failed` }
        : lost > 0
          ? { state: 'open', note: `${lost} missing` }
          : arriving > 0
            ? { state: 'open', note: `${arriving} arriving` }
            : tracks === 0
              ? { state: 'open', note: 'add files' }
              : found > 0
                ? { state: 'open', note: `${found} to check` }
                : uncomparedOf(view).isUnderWay && uncomparedOf(view).count > 0
                  ? { state: 'open', note: 'comparing' }
                  : { state: 'done', note: 'done' }),
    },
    {
      key: 'sort',
      name: 'Sort',
      ...(tracks === 0
        ? later
        : namesStateOf(view) === 'reading'
          ? { state: 'later', note: 'reading names' }
          : unsorted > doubts
            ? { state: 'open', note: 'to sort' }
            : doubts > 0
              ? { state: 'open', note: `${doubts} to check` }
              : { state: 'done', note: 'done' }),
    },
    { key: 'tidy', name: 'Tidy', ...(tracks === 0 ? later : tidyState(view)) },
    {
      key: 'tempo',
      name: 'Tempo',
      ...(tracks === 0
        ? later
        : view.session.map
          ? { state: 'done', note: 'done' }
          : view.tempo
            ? { state: 'open', note: 'to accept' }
            : { state: 'open', note: 'to find' }),
    },
    { key: 'sections', name: 'Sections', ...(tracks === 0 ? later : sectionsState(view)) },
    { key: 'handover', name: 'Handover', ...(newest ? { state: 'done', note: `v${newest.number}` } : later) },
  ];
}

/** A saved filter over the sheet. */
export interface Lens {
  readonly key: string;
  readonly name: string;
  readonly count: number;
  /** Digit that, with Shift, switches to it; null beyond the ninth. */
  readonly digit: string | null;
  readonly trackIds: ReadonlySet<string>;
}

/** Key of the lens that shows only summed folders. */
export const SUMS_LENS = 'sums';

/** The lenses of a session: everything, each of the house style that shows something, and what to check; always from the whole session. */
export function lensesOf(view: SessionView): Lens[] {
  const { session, style } = view;
  const tracks = tracksInOrder(session);
  const facts = trackFacts(view);
  const lens = (
    key: string,
    name: string,
    list: readonly { readonly id: string }[],
  ): Omit<Lens, 'digit'> => ({ key, name, count: list.length, trackIds: new Set(list.map((t) => t.id)) });
  const kinds = style.lenses
    .map((l) => lens(l.key, l.name, tracksMeeting(session, l.when, facts)))
    .filter((l) => l.count > 0);
  const doubts = doubtfulTracks(view);
  const summed = Object.values(session.nodes).filter((n) => n.kind === 'folder' && n.busId !== null);
  return [
    ...[lens('all', 'Everything', tracks), ...kinds].map((l, i) => ({
      ...l,
      digit: i < 9 ? String(i + 1) : null,
    })),
    ...(summed.length > 0
      ? [{ ...lens(SUMS_LENS, 'Sums only', []), count: summed.length, digit: null }]
      : []),
    ...(doubts.length > 0 ? [{ ...lens('doubts', 'To check', doubts), digit: '0' }] : []),
  ];
}
