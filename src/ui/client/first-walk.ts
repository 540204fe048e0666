'use client';
import { keptChoice } from '@/ui/kit';

/** Where a person is in the first walk: not begun, at a step, or done with it. */
export const WALK_STEPS = ['1', '2', '3', '4', '5', '6', '7'] as const;
export type WalkStep = (typeof WALK_STEPS)[number];

const walk = keptChoice<'new' | WalkStep | 'left'>(
  'fernmoss-first-walk',
  ['new', ...WALK_STEPS, 'left'],
  'left',
);

/** Where in the first walk this browser is. */
export const useWalk = walk.use;

/** Goes to a step, or leaves the walk. */
export const setWalk = walk.set;
