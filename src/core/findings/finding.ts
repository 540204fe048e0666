import type { ArrivalFacts, HeardFacts, MixFit, FaultSpan } from '../analysis';
import type { SoundMetadata, SoundWarning } from '../audio';
import type { SourceFields } from '../naming';
import { roundTo } from '../units';

/** How much it matters: sound is lost or wrong; look before going on; good to know. */
export type Severity = 'problem' | 'check' | 'note';

/** All severities, worst first. */
export const SEVERITIES = ['problem', 'check', 'note'] as const satisfies readonly Severity[];

/** A recording of a delivery and all that is known of it. */
export interface KnownFile {
  readonly id: string;
  readonly receivedName: string;
  /** Its track was sorted or touched: what comes later may be meant for its place. */
  readonly settled: boolean;
  /** Hash of what is played: a finding put aside comes back when it changes. */
  readonly sha256: string;
  /** Rate at which its samples pass in the session, Hz. */
  readonly sampleRateHz: number;
  /** Rate it was recorded at, where that is another. */
  readonly recordedHz?: number;
  readonly channels: number;
  readonly bitDepth: number;
  /** As stored, e.g. `s24`; floats begin with f. */
  readonly encoding: string;
  readonly lengthFrames: number;
  readonly lossy: boolean;
  readonly metadata: SoundMetadata;
  readonly warnings: readonly SoundWarning[];
  readonly facts: ArrivalFacts;
  /** dBTP; null where it was not measured (the sample peak is far from full scale). */
  readonly truePeakDbtp: number | null;
  /** What the listening pass made of it; null = not heard yet. */
  readonly heard: HeardFacts | null;
  /** What it is, by its name or as a person set it. */
  readonly source: SourceFields;
}

/** The same take in two files. */
export interface Twin {
  readonly a: string;
  readonly b: string;
  /** The second over the first, dB. */
  readonly gainDb: number;
  readonly polarity: 1 | -1;
  /** What is left of the second after the first was taken from it at best fit, dB; null = nothing. */
  readonly residualDb: number | null;
}

/** A microphone against the leader of its source. */
export interface MicFact {
  readonly leader: string;
  readonly other: string;
  readonly delaySamples: number;
  readonly polarity: 1 | -1;
  readonly correlation: number;
  readonly confidence: number;
}

/** A channel of a microphone over a kit or in its room against the snare's own. */
export interface FarMicFact extends MicFact {
  readonly channel: 0 | 1;
}

/** From here on two recordings whose names say nothing of it are held for microphones of one source (own). */
const ONE_SOURCE = 0.7;

/** Whether what was measured between two recordings of other names shows that they pick up one source, one of them turned over. Alike ones without that are of no consequence, and could play in unison. */
export const isTurnedOver = (relation: Pick<MicFact, 'correlation' | 'polarity'> | null): boolean =>
  relation !== null && relation.polarity === -1 && Math.abs(relation.correlation) >= ONE_SOURCE;

/** Two recordings whose names say left and right. */
export interface PairFact {
  readonly left: string;
  readonly right: string;
  /** Highest correlation of the two within 40 ms, as a size 0–1; null = not compared. */
  readonly correlation: number | null;
  /** Whether it is the same playing on both; null = not compared. */
  readonly related: boolean | null;
}

/** Correlation from which two sides are the same playing, and below which they are two takes; between them nothing is said. */
const RELATED = 0.17;
const UNRELATED = 0.12;

/** What the relation of two recordings named left and right says of them. */
export function pairFact(
  relation: { readonly correlation: number } | null,
): Omit<PairFact, 'left' | 'right'> {
  const size = relation ? roundTo(Math.abs(relation.correlation), 4) : null;
  return {
    correlation: size,
    related: size === null || (size < RELATED && size >= UNRELATED) ? null : size >= RELATED,
  };
}

/** How far a recording without a telling name is the others together. */
export interface MixFact extends MixFit {
  readonly id: string;
}

/** A later arrival that plays as one that was there. */
export interface AlikeFact {
  readonly fresh: string;
  readonly settled: string;
  /** Positive when the later arrival has the same things later, s. */
  readonly laterSeconds: number;
  readonly correlation: number;
}

/** What was found between files. */
export interface Relations {
  readonly twins: readonly Twin[];
  readonly mics: readonly MicFact[];
  readonly pairs: readonly PairFact[];
  readonly mixes: readonly MixFact[];
  readonly alikes: readonly AlikeFact[];
  readonly farMics: readonly FarMicFact[];
}

/** Nothing known between files. */
export const NO_RELATIONS: Relations = { twins: [], mics: [], pairs: [], mixes: [], alikes: [], farMics: [] };

/** What can be noticed. */
export const FINDING_CODES = [
  'truncated',
  'size-missing',
  'second-data-ignored',
  'damaged',
  'dropouts',
  'clipped',
  'above-full-scale',
  'flat-tops',
  'silent',
  'nearly-silent',
  'dead-channel',
  'dual-mono',
  'dc-offset',
  'inter-sample-overs',
  'sixteen-in-more',
  'abrupt-start',
  'abrupt-end',
  'limited',
  'reverb',
  'lossy',
  'rate-differs',
  'depth-differs',
  'length-differs',
  'starts-later',
  'tempo-claim',
  'replaces',
  'same-bytes',
  'same-audio',
  'same-take',
  'pair',
  'pair-unrelated',
  'mic-polarity',
  'mic-delay',
  'far-mic-polarity',
  'heard-mix',
  'heard-click',
  'reference',
  'click',
  'missing-side',
  'missing-number',
  'notes-cut-off',
] as const;

/** One of {@link FINDING_CODES}. */
export type FindingCode = (typeof FINDING_CODES)[number];

/** One file's part in a finding. */
export interface FindingFile {
  readonly id: string;
  /** The other file, where it is about two. */
  readonly other: string | null;
  /** Figures by name; their units stand in the names. */
  readonly figures: Readonly<Record<string, number | string>>;
  readonly places: readonly FaultSpan[];
}

/** What one move would do about it; nothing of it touches a file. */
export type RemedyKind =
  | 'make-mono'
  | 'use-live-channel'
  | 'pair'
  | 'flip-polarity'
  | 'shift'
  | 'take-out'
  | 'place-by-stamp'
  | 'take-place'
  | 'as-mix'
  | 'as-click';

/** Something noticed, about one file or about many alike. */
export interface Finding {
  readonly code: FindingCode;
  readonly severity: Severity;
  readonly files: readonly FindingFile[];
  readonly remedy: RemedyKind | null;
}

/** Names a file's part in a finding for good: it changes when the sound of either file does. */
export const findingKey = (code: FindingCode, part: FindingFile, sha256Of: (id: string) => string): string =>
  [code, sha256Of(part.id), ...(part.other === null ? [] : [sha256Of(part.other)])].join(' ');

/** Codes of the findings that each file is part of, by its id. */
export function codesByFile(findings: readonly Finding[]): ReadonlyMap<string, readonly FindingCode[]> {
  const codes = new Map<string, FindingCode[]>();
  for (const f of findings)
    for (const part of f.files)
      for (const id of [part.id, part.other])
        if (id !== null) codes.set(id, [...(codes.get(id) ?? []), f.code]);
  return codes;
}
