import { percentile } from '../dsp';
import type { Family } from '../naming';
import {
  type BarRange,
  type Clip,
  CONFORM_METHODS,
  type ConformSettings,
  isUncut,
  type Lane,
  lanesOf,
  type SessionState,
  type Track,
  soundTracks,
} from '../session';
import { createSongMap, type SongMap, songMapToFile } from '../time';
import { type ConformGroup, planGroups, sourceKeys } from './groups';
import { steadyMap, type Warp, warpBetween } from './warp';

/** What decides how a session is conformed. */
export type ConformWish = Pick<ConformSettings, 'bpm' | 'treatments' | 'keep'>;

/** Everything that follows from a session's map and its conform settings. */
export interface ConformPlan {
  readonly played: SongMap;
  readonly conformed: SongMap;
  readonly warp: Warp;
  readonly groups: readonly ConformGroup[];
}

/** The plan for these settings; null without a map that has two pulses. Stretched is from the first pulse to the last: what rings on after it is left as it is. */
export function planConform(session: SessionState, settings: ConformWish): ConformPlan | null {
  const pulses = session.mapFacts?.pulses ?? [];
  const [first, last] = [pulses[0], pulses.at(-1)];
  if (!session.map || !first || !last || first.seconds >= last.seconds) return null;
  const played = createSongMap(session.map.points, session.map.meters);
  const conformed = steadyMap(played, settings.bpm, first.seconds, settings.keep);
  return {
    played,
    conformed,
    warp: warpBetween(played, conformed, { startSeconds: first.seconds, endSeconds: last.seconds }),
    groups: groupsOf(session, settings.treatments),
  };
}

function groupsOf(session: SessionState, treatments: ConformSettings['treatments']): ConformGroup[] {
  const tracks = soundTracks(session);
  const keys = sourceKeys(tracks);
  return planGroups(
    tracks.map((t, i) => ({
      id: t.id,
      family: t.family,
      part: t.part,
      sourceKey: keys[i] ?? null,
      sampleRateHz: session.sampleRateHz ?? 48_000,
      treatment: treatments[t.id] ?? null,
    })),
  );
}

/** A track as it stands after conforming: its recordings begin at `startFrames` of the conformed song, and its clips follow the music. */
export function conformedTrack(
  track: Track,
  { warp, groups }: Pick<ConformPlan, 'warp' | 'groups'>,
  rateHz: number,
  startFrames = 0,
): Track {
  if (track.startFrames === startFrames && isUncut(track)) return track;
  const isStill = groups.some((g) => g.method === 'still' && g.trackIds.includes(track.id));
  const move = (frames: number): number =>
    isStill ? frames : Math.round(warp.toConformed(frames / rateHz) * rateHz);
  const lanes = new Map(lanesOf(track).map((l) => [l.id, l]));
  return {
    ...track,
    startFrames,
    otherLanes: track.otherLanes.map((l) => ({ ...l, startFrames })),
    clips: track.clips.map((clip) => conformedClip(clip, lanes.get(clip.laneId) as Lane, move)),
  };
}

/** What was recorded under its first frame stays there; fades end at the moment of the music where they ended. */
function conformedClip(clip: Clip, lane: Lane, move: (frames: number) => number): Clip {
  const begin = lane.startFrames + clip.slipFrames;
  const from = clip.fromFrames ?? begin;
  const first = Math.max(from, begin);
  return {
    ...clip,
    // A conformed lane begins with silence: what fades in or was moved keeps to the sound.
    fromFrames:
      clip.fromFrames === null && clip.fadeInFrames === 0 && clip.slipFrames === 0 ? null : move(from),
    toFrames: clip.toFrames === null ? null : move(clip.toFrames),
    slipFrames: clip.slipFrames === 0 ? 0 : move(first) - move(first - clip.slipFrames),
    fadeInFrames: move(from + clip.fadeInFrames) - move(from),
    fadeOutFrames:
      clip.toFrames === null
        ? clip.fadeOutFrames
        : move(clip.toFrames) - move(clip.toFrames - clip.fadeOutFrames),
  };
}

const isSteady = ({ keep = [] }: ConformWish): boolean => keep.length === 0;

/** The session as it stands after conforming: its map, its pulses; recordings begin at the common zero (notes follow through the map as played). Unchanged when there is no plan. */
export function asConformed(session: SessionState): SessionState {
  const plan = session.conform ? planConform(session, session.conform) : null;
  if (!plan || !session.conform || !session.mapFacts) return session;
  const nodes = Object.fromEntries(
    Object.entries(session.nodes).map(([id, node]) => [
      id,
      node.kind === 'track' && node.tiedTo === null
        ? conformedTrack(node, plan, session.sampleRateHz ?? 48_000)
        : node,
    ]),
  );
  return {
    ...session,
    nodes,
    markers: session.markers.map((m) => ({ ...m, seconds: plan.warp.toConformed(m.seconds) })),
    map: songMapToFile(plan.conformed),
    mapFacts: {
      ...session.mapFacts,
      steady: isSteady(session.conform),
      bpm: isSteady(session.conform) ? session.conform.bpm : null,
      pulses: session.mapFacts.pulses.map((p) => ({ ...p, seconds: plan.warp.toConformed(p.seconds) })),
    },
  };
}

/** The session as the person listens to it now. */
export const asPlayedBack = (session: SessionState): SessionState =>
  session.conform?.heard === 'conformed' ? asConformed(session) : session;

/** From the time as played to the time as it is heard now; null when they are the same. */
export const playbackWarp = (session: SessionState): Warp | null =>
  session.conform?.heard === 'conformed' ? (planConform(session, session.conform)?.warp ?? null) : null;

/** Length of each pulse after conforming over its length before. */
export function pulseRatios(
  plan: ConformPlan,
  pulses: readonly { readonly seconds: number }[],
): { readonly seconds: number; readonly ratio: number }[] {
  return pulses.slice(0, -1).map((p, i) => {
    const next = (pulses[i + 1] as { seconds: number }).seconds;
    return {
      seconds: p.seconds,
      ratio: (plan.warp.toConformed(next) - plan.warp.toConformed(p.seconds)) / (next - p.seconds),
    };
  });
}

/** What a stretch will do to material, in four steps from inaudible to surely audible. */
export type StretchOutlook = 'none' | 'inaudible' | 'careful' | 'audible';

/** What is to be expected of one group. */
export interface GroupOutlook {
  readonly outlook: StretchOutlook;
  /** Most shortened and most lengthened beat, the outermost twentieths set aside; e.g. −0.02 and 0.03. */
  readonly low: number;
  readonly high: number;
}

/** Up to here nothing is heard, and from here on it is; formats handed down in the trade (common practice, no source). */
const LIMITS: { readonly [F in Family]?: readonly [inaudible: number, audible: number] } = {
  drums: [0.03, 0.15],
  percussion: [0.03, 0.15],
  'lead-vocal': [0.06, 0.12],
  'backing-vocal': [0.06, 0.12],
  strings: [0.06, 0.12],
  winds: [0.06, 0.12],
  brass: [0.06, 0.12],
  synths: [0.06, 0.15],
  reference: [0.02, 0.08],
  click: [0.2, 0.5],
};
const OTHERWISE: readonly [number, number] = [0.04, 0.1];

/** What the given ratios will do to a group of this family. */
export function outlookOf(
  group: Pick<ConformGroup, 'method'>,
  track: Pick<Track, 'family'>,
  ratios: readonly { readonly ratio: number }[],
): GroupOutlook {
  const changes = ratios.map((r) => r.ratio - 1);
  const [low, high] =
    group.method === 'still' || changes.length === 0
      ? [0, 0]
      : [percentile(changes, 0.05), percentile(changes, 0.95)];
  if (group.method === 'none' || group.method === 'still') return { outlook: 'none', low, high };
  const most = Math.max(Math.abs(low), Math.abs(high));
  const [inaudible, audible] = LIMITS[track.family] ?? OTHERWISE;
  return {
    outlook: most < 1e-6 ? 'none' : most <= inaudible ? 'inaudible' : most <= audible ? 'careful' : 'audible',
    low,
    high,
  };
}

/** What the cover note says about a conforming. */
export interface ConformedFacts {
  /** Pulses a minute. */
  readonly bpm: number;
  /** Bars that keep the tempo they were played in. */
  readonly keep: readonly BarRange[];
  /** Track names by what was done to them. */
  readonly methods: readonly { readonly method: ConformGroup['method']; readonly names: readonly string[] }[];
}

/** The facts of a session's conforming; null when there is none. */
export function conformedFacts(session: SessionState): ConformedFacts | null {
  const plan = session.conform ? planConform(session, session.conform) : null;
  if (!plan || !session.conform) return null;
  const names = (method: ConformGroup['method']): string[] =>
    plan.groups
      .filter((g) => g.method === method)
      .flatMap((g) => g.trackIds.map((id) => (session.nodes[id] as Track).name));
  return {
    bpm: session.conform.bpm,
    keep: session.conform.keep ?? [],
    methods: CONFORM_METHODS.map((method) => ({ method, names: names(method) })).filter(
      (m) => m.names.length > 0,
    ),
  };
}
