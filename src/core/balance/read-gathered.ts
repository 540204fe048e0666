import { levelChanges, type LevelChange, stretchesOf } from './changes';
import { type BalanceFit, fitBalance } from './fit';
import { type MissingPart, missingParts } from './missing';
import type { GatheredMix, MixGram } from './mix-gram';

/** What is read of a mix. */
export interface GatheredReading {
  readonly fit: BalanceFit;
  /** A list for each track, empty where its level stays. */
  readonly changes: readonly (readonly LevelChange[])[];
  readonly missing: readonly MissingPart[];
  /** How far the mix is held down where it is most, dB: 0 or less. */
  readonly heldDownDb: number;
}

/**
 * Levels that step and a limiter look alike: a model of levels that stay takes steps for being held down, and a limiter makes steps of
 * its hits. Held down with the mix no track steps unless its level does: then the tracks are read as they are, and nothing is said of
 * what holds the mix down.
 */
export function readGathered(gathered: GatheredMix): GatheredReading {
  const held = gathered.held && read(gathered.held);
  return held?.changes.every((c) => c.length === 0)
    ? { ...held, heldDownDb: gathered.heldDownDb }
    : { ...read(gathered), heldDownDb: 0 };
}

function read(gram: MixGram): Omit<GatheredReading, 'heldDownDb'> {
  const fit = fitBalance(gram);
  const stretches = stretchesOf(gram, fit);
  return { fit, changes: levelChanges(stretches), missing: missingParts(gram, stretches) };
}
