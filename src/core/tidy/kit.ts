import type { Family } from '../naming';

interface Named {
  readonly family: Family;
  readonly part: string | null;
}

/** Parts of a kit that have microphones; a loop is one recording of its own. */
const NO_MIC = new Set<string | null>(['loop']);

/** A microphone of a kit: it hears all of it, so all are cut at the same places. */
export const isKitMic = ({ family, part }: Named): boolean => family === 'drums' && !NO_MIC.has(part);

/** Toms play seldom and may have cuts of their own; holes in the bleed of any other microphone of a kit are heard. */
export const mayBeCutAlone = ({ part }: Named): boolean => part === 'tom';

/** Cut only together with others that hear the same. */
export const isCutTogether = (named: Named): boolean =>
  named.family === 'mains' || (isKitMic(named) && !mayBeCutAlone(named));

/** Whether two tracks are always cut at the same places. */
export const areCutAlike = (a: Named, b: Named): boolean =>
  isCutTogether(a) && isCutTogether(b) && (a.family === 'mains') === (b.family === 'mains');
