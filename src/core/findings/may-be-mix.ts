import type { SoundLikeness } from '../analysis';
import type { KnownFile } from './finding';

/** Microphones that hear everybody are no mix, however alike. */
const HEARS_ALL: ReadonlySet<string> = new Set(['overhead', 'room', 'kit', 'ambience']);

/** Confidence from which a name is believed. */
const DOUBTFUL = 0.7;
/** From here on the ear is sure that it is one kind of thing. */
const SURE = 0.9;

type MixFile = Pick<KnownFile, 'channels' | 'source'> & {
  readonly heard: { readonly as?: SoundLikeness | null } | null;
};

/** Whether a recording may be a mix of the others: it does not sound like one thing, and its name says nothing, is read with doubt (a song's title), or is another thing's on a stereo file. */
export function mayBeMix({
  channels,
  source: { family, part, position, confidence = 1 },
  heard,
}: MixFile): boolean {
  if (isOneThing(heard)) return false;
  if (family === 'unknown' || (confidence < DOUBTFUL && family === 'effects')) return true;
  if (channels !== 2 || ['reference', 'click', 'mains', 'effects'].includes(family)) return false;
  return !HEARS_ALL.has(part ?? '') && !['room', 'far', 'high'].includes(position ?? '');
}

/** A close microphone hears its neighbours: by levels alone it could be a mix of them. */
const isOneThing = (heard: MixFile['heard']): boolean =>
  heard?.as != null && heard.as.kind !== 'several' && heard.as.confidence >= SURE;

/** Kinds heard that are one group of a mix, however many tracks they are. */
const GROUPS: Readonly<Record<string, string>> = {
  drums: 'drums',
  bass: 'bass',
  'voice-like': 'lead-vocal',
};

/** What a recording counts as among the parts of a mix: its family; where its name says nothing, what it sounds like; else itself. */
export const mixGroup = ({
  id,
  source: { family },
  heard,
}: Pick<KnownFile, 'id' | 'source'> & Pick<MixFile, 'heard'>): string =>
  family !== 'unknown'
    ? family
    : ((heard?.as && heard.as.confidence >= DOUBTFUL ? GROUPS[heard.as.kind] : undefined) ?? id);
