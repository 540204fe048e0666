import type { Family } from '../naming';

/** What a level is told by: highest sample; highest true peak; loudness of all that passes the gates, of the loudest four seconds, of all that plays. */
export const MATCH_MEASURES = ['peak', 'true-peak', 'loudness', 'loudest', 'active'] as const;

/** One of {@link MATCH_MEASURES}. */
export type MatchMeasure = (typeof MATCH_MEASURES)[number];

/** What gets a gain of its own: every piece of a track, every track, or all tracks one and the same. */
export const MATCH_UNITS = ['piece', 'track', 'all'] as const;

/** One of {@link MATCH_UNITS}. */
export type MatchUnit = (typeof MATCH_UNITS)[number];

/** How levels of recordings are brought to each other. */
export interface MatchRules {
  readonly by: MatchMeasure;
  readonly each: MatchUnit;
  /** Loudness each family is brought to, LUFS, as far as peaks allow; null = it is left as it is. */
  readonly lufs: Readonly<Record<Family, number | null>>;
  /** Highest sample or true peak of what is matched, dBFS or dBTP: what is aimed at where levels are told by peaks, and a limit where by loudness. */
  readonly peakDb: number;
  /** Highest true peak whatever the target, dBTP. */
  readonly ceilingDbtp: number;
  /** Whether a handover writes the gains of pieces into its files; else they are handed over as levels, where a track has one. */
  readonly inFiles: boolean;
}

/** Bounds of what levels are brought to, LUFS and dBFS: neither inaudible nor above full scale. */
export const MATCH_LIMITS = { lufs: { min: -60, max: -6 }, peakDb: { min: -40, max: 0 } } as const;

/** Whether levels are told by peaks: then their highest is aimed at, else it is a limit. */
export const isByPeak = ({ by }: Pick<MatchRules, 'by'>): boolean => by === 'peak' || by === 'true-peak';

/** What the measures and units are called. */
export const MATCH_WORDS: Readonly<Record<MatchMeasure | MatchUnit, string>> = {
  peak: 'sample peak',
  'true-peak': 'true peak',
  loudness: 'loudness',
  loudest: 'loudness of the loudest four seconds',
  active: 'loudness while it plays',
  piece: 'every piece',
  track: 'every track',
  all: 'all tracks by one gain',
};

/** Common practice, no source: every family near where a mix has it, peaks well under full scale. */
export const MATCH_DEFAULTS: MatchRules = {
  by: 'loudness',
  each: 'track',
  lufs: {
    'lead-vocal': -21,
    'backing-vocal': -26,
    drums: -25,
    percussion: -28,
    bass: -23,
    guitars: -25,
    keys: -26,
    synths: -26,
    strings: -27,
    brass: -26,
    winds: -26,
    mains: -25,
    effects: -28,
    unknown: -26,
    reference: null,
    click: null,
  },
  peakDb: -12,
  ceilingDbtp: -1,
  inFiles: true,
};
