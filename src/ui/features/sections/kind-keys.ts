import type { SectionKind } from '@/core/sections';

/** The digit that calls a section by a kind. */
export const KIND_KEYS: readonly (readonly [key: string, kind: SectionKind])[] = [
  ['1', 'intro'],
  ['2', 'verse'],
  ['3', 'pre-chorus'],
  ['4', 'chorus'],
  ['5', 'post-chorus'],
  ['6', 'bridge'],
  ['7', 'solo'],
  ['8', 'break'],
  ['9', 'interlude'],
  ['0', 'outro'],
];
