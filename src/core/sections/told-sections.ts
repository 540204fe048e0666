import { roundTo } from '../units';
import type { FoundSections } from './find-sections';
import type { SectionKind } from './kinds';
import { letterOf, sectionNames } from './section-names';
import type { SongLines } from './song-lines';

/** A section as people are told it. */
export interface ToldSection {
  readonly name: string;
  readonly kind: SectionKind;
  readonly kindConfidence: number;
  /** The same letter for alike sections. */
  readonly like: string;
  readonly fromSeconds: number;
  readonly toSeconds: number;
  /** Inner number of the bar at whose line it begins; ends; null without a map. */
  readonly fromBar: number | null;
  readonly toBar: number | null;
  readonly confidence: number;
}

/** Sections by their names, in seconds and bars of the map they were found on. */
export function toldSections({ sections }: FoundSections, lines: SongLines): ToldSection[] {
  const names = sectionNames(sections);
  return sections.map((s, i) => ({
    name: names[i] as string,
    kind: s.kind,
    kindConfidence: roundTo(s.kindConfidence, 3),
    like: letterOf(s.group),
    fromSeconds: lineSeconds(lines, s.fromBar),
    toSeconds: lineSeconds(lines, s.toBar),
    fromBar: lineBar(lines, s.fromBar),
    toBar: lineBar(lines, s.toBar),
    confidence: roundTo(s.confidence, 3),
  }));
}

/** Time of a line, s; its bar by the map's inner number. */
export const lineSeconds = ({ seconds }: SongLines, line: number): number =>
  roundTo(seconds[line] as number, 6);
export const lineBar = ({ firstBar }: SongLines, line: number): number | null =>
  firstBar === null ? null : firstBar + line;
