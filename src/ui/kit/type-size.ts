'use client';
import { keptChoice } from './kept-choice';

/** Sizes of type to choose from, in hundredths of the usual one. */
export const TYPE_SIZES = ['100', '90', '112', '125', '150'] as const;
export type TypeSize = (typeof TYPE_SIZES)[number];

const kept = keptChoice('fernmoss-type-size', TYPE_SIZES);

/** The size in force. */
export const useTypeSize = kept.use;

/** Chooses a size, for this browser; everything that is measured in type grows with it. */
export function setTypeSize(size: TypeSize): void {
  kept.set(size);
  document.documentElement.style.fontSize = size === '100' ? '' : `${size}%`;
}
