'use client';
import { useEffect } from 'react';
import { array, boolean, type InferType, number, object, string } from 'yup';
import { createStore } from 'zustand/vanilla';
import { useStore } from 'zustand';
import { TIDY_DEFAULTS, TIDY_LIMITS, type TidyChoice, type TidySettings } from '@/core/tidy';

/** Controls of the cut as the house style has them: for all tracks, and for those of families that are treated otherwise. */
export interface HouseControls {
  readonly all: TidySettings;
  readonly byTrack: Readonly<Record<string, TidySettings>>;
}

/** What a person has in hand at Tidy and did not apply yet; a session's is kept over reloads, in this tab. */
export interface TidyHand {
  /** What holds where nothing was set; not kept: the session's style says it. */
  readonly house: HouseControls;
  /** Controls by track; what is missing is as the house has it. */
  readonly controls: Readonly<Record<string, TidySettings>>;
  readonly choices: Readonly<Record<string, readonly TidyChoice[]>>;
  readonly ticks: Readonly<Record<string, boolean>>;
  /** Tracks that are cut by themselves, though others were recorded with them. */
  readonly apart: readonly string[];
}

const NOTHING: Omit<TidyHand, 'house'> = { controls: {}, choices: {}, ticks: {}, apart: [] };

/** The hand of this page. */
export const tidyHand = createStore<TidyHand>(() => ({
  ...NOTHING,
  house: { all: TIDY_DEFAULTS, byTrack: {} },
}));

export const useTidyHand = <T>(select: (hand: TidyHand) => T): T => useStore(tidyHand, select);

/** Controls in force for a track. */
export const controlsOf = (
  { controls, house }: Pick<TidyHand, 'controls' | 'house'>,
  trackId: string,
): TidySettings => controls[trackId] ?? house.byTrack[trackId] ?? house.all;

/** Sets a control of tracks: what was proposed for them is meant to be done. */
export function setControl(trackIds: readonly string[], change: Partial<TidySettings>): void {
  const hand = tidyHand.getState();
  tidyHand.setState({
    controls: {
      ...hand.controls,
      ...Object.fromEntries(trackIds.map((id) => [id, { ...controlsOf(hand, id), ...change }])),
    },
    ticks: { ...hand.ticks, ...Object.fromEntries(trackIds.map((id) => [id, true])) },
  });
}

const without = <T>(record: Readonly<Record<string, T>>, ids: readonly string[]): Record<string, T> => {
  const gone = new Set(ids);
  return Object.fromEntries(Object.entries(record).filter(([id]) => !gone.has(id)));
};

/** Controls and decisions of tracks as they were at first. */
export function resetHand(trackIds: readonly string[]): void {
  const { controls, choices, ticks, apart } = tidyHand.getState();
  tidyHand.setState({
    controls: without(controls, trackIds),
    choices: without(choices, trackIds),
    ticks: without(ticks, trackIds),
    apart: apart.filter((id) => !trackIds.includes(id)),
  });
}

/** Tracks are cut by themselves from now on, or again with what they were recorded with. */
export function setApart(trackIds: readonly string[], on: boolean): void {
  const others = tidyHand.getState().apart.filter((id) => !trackIds.includes(id));
  tidyHand.setState({ apart: on ? [...others, ...trackIds] : others });
}

/** Ticks are no decision any more once what they meant was done. */
export function forgetTicks(trackIds: readonly string[]): void {
  tidyHand.setState({ ticks: without(tidyHand.getState().ticks, trackIds) });
}

export function setTicks(trackIds: readonly string[], on: boolean): void {
  tidyHand.setState({
    ticks: { ...tidyHand.getState().ticks, ...Object.fromEntries(trackIds.map((id) => [id, on])) },
  });
}

/** Decides of a stretch of tracks. */
export function decide(trackIds: readonly string[], choice: TidyChoice): void {
  const { choices, ticks } = tidyHand.getState();
  tidyHand.setState({
    choices: {
      ...choices,
      ...Object.fromEntries(trackIds.map((id) => [id, [...(choices[id] ?? []), choice]])),
    },
    ticks: { ...ticks, ...Object.fromEntries(trackIds.map((id) => [id, true])) },
  });
}

const within = ([least, most]: readonly [number, number]) => number().min(least).max(most).required();
const id = () => string().min(1).max(200).required();
const frame = () =>
  number()
    .integer()
    .min(0)
    .max(2 ** 32)
    .required();
const keptSchema = object({
  controls: array(
    object({
      id: id(),
      thresholdDb: number()
        .min(TIDY_LIMITS.thresholdDb[0])
        .max(TIDY_LIMITS.thresholdDb[1])
        .nullable()
        .defined(),
      shortestSeconds: within(TIDY_LIMITS.shortestSeconds),
      beforeSeconds: within(TIDY_LIMITS.beforeSeconds),
      afterSeconds: within(TIDY_LIMITS.afterSeconds),
      fadeSeconds: within(TIDY_LIMITS.fadeSeconds),
    }).noUnknown(),
  ).required(),
  choices: array(
    object({ id: id(), from: frame(), to: frame(), keeps: boolean().required() }).noUnknown(),
  ).required(),
  ticks: array(object({ id: id(), on: boolean().required() }).noUnknown()).required(),
  apart: array(id()).default([]),
}).noUnknown();

/** As lists, which a schema can read. */
const written = ({
  controls,
  choices,
  ticks,
  apart,
}: Omit<TidyHand, 'house'>): InferType<typeof keptSchema> => ({
  controls: Object.entries(controls).map(([trackId, c]) => ({ id: trackId, ...c })),
  choices: Object.entries(choices).flatMap(([trackId, list]) => list.map((c) => ({ id: trackId, ...c }))),
  ticks: Object.entries(ticks).map(([trackId, on]) => ({ id: trackId, on })),
  apart: [...apart],
});

/** What was kept; nothing where it cannot be read. */
function readHand(text: string | null): Omit<TidyHand, 'house'> {
  try {
    const read = keptSchema.validateSync(JSON.parse(text ?? ''), { strict: true });
    const choices: Record<string, TidyChoice[]> = {};
    for (const { id: trackId, ...choice } of read.choices) (choices[trackId] ??= []).push(choice);
    return {
      controls: Object.fromEntries(read.controls.map(({ id: trackId, ...c }) => [trackId, c])),
      choices,
      ticks: Object.fromEntries(read.ticks.map((t) => [t.id, t.on])),
      apart: read.apart,
    };
  } catch {
    return NOTHING;
  }
}

/** Keeps the hand over reloads and ways back, a session at a time, in this tab. */
export function useKeptTidyHand(sessionId: string): void {
  useEffect(() => {
    const key = `fernmoss-tidy-${sessionId}`;
    tidyHand.setState(readHand(window.sessionStorage.getItem(key)));
    return tidyHand.subscribe((hand) => window.sessionStorage.setItem(key, JSON.stringify(written(hand))));
  }, [sessionId]);
}
