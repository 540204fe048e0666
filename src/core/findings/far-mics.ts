import type { SourceFields } from '../naming';
import type { FarMicFact } from './finding';

/** What is known of a recording before far microphones are compared. */
export interface FarMicFile {
  readonly id: string;
  readonly channels: number;
  readonly source: Pick<SourceFields, 'family' | 'part' | 'position' | 'number'>;
}

/** Microphones over a kit and in its room, each channel against the snare's own: what hears it sharpest, and all of them hear. */
export function farMicPairs<F extends FarMicFile>(
  files: readonly F[],
): readonly { readonly leader: F; readonly other: F; readonly channel: 0 | 1 }[] {
  const drums = files.filter((f) => f.source.family === 'drums');
  const leader = drums
    .filter((f) => f.source.part === 'snare' && f.channels === 1 && !UNDER.has(f.source.position ?? ''))
    .sort((a, b) => (a.source.number ?? 0) - (b.source.number ?? 0))[0];
  if (!leader) return [];
  return drums
    .filter((f) => f.source.part === 'overhead' || f.source.part === 'room')
    .flatMap((other) =>
      ([0, 1] as const).slice(0, other.channels).map((channel) => ({ leader, other, channel })),
    );
}

/** A snare's microphones that hear it another way up, or not at all. */
const UNDER: ReadonlySet<string> = new Set(['bottom', 'trigger', 'room', 'far', 'side']);

/** From here on what was found is believed. */
const SURE = 0.5;

/** A far microphone as all its channels say together. */
export interface FarMic {
  readonly leader: string;
  readonly other: string;
  /** How much later it hears the snare than the snare's own; over its channels the mean. */
  readonly delaySamples: number;
  /** Null where its channels say otherwise each. */
  readonly polarity: 1 | -1 | null;
  readonly confidence: number;
}

/** Which channel of what was compared with what. */
const nameOf = (leader: string, other: string, channel: number): string => `${leader} ${other} ${channel}`;

/** What is surely known of each far microphone, as the recordings are called now: what was compared under another name says nothing any more. */
export function sureFarMics(files: readonly FarMicFile[], facts: readonly FarMicFact[]): FarMic[] {
  const asked = new Set(farMicPairs(files).map((p) => nameOf(p.leader.id, p.other.id, p.channel)));
  const sure = facts.filter((f) => f.confidence >= SURE && asked.has(nameOf(f.leader, f.other, f.channel)));
  return [...new Set(sure.map((f) => f.other))].map((other) => {
    const own = sure.filter((f) => f.other === other);
    const [first] = own as [FarMicFact, ...FarMicFact[]];
    return {
      leader: first.leader,
      other,
      delaySamples: own.reduce((sum, f) => sum + f.delaySamples, 0) / own.length,
      polarity: own.every((f) => f.polarity === first.polarity) ? first.polarity : null,
      confidence: Math.min(...own.map((f) => f.confidence)),
    };
  });
}
