import type { BarFeatures } from './bar-features';
import { median } from '../dsp';
import { clip, mean } from './bar-math';
import { type BarSpan, lengthOf } from './alike';

/** What a section can be. */
export const SECTION_KINDS = [
  'intro',
  'verse',
  'pre-chorus',
  'chorus',
  'post-chorus',
  'bridge',
  'solo',
  'break',
  'interlude',
  'outro',
  'other',
] as const;
export type SectionKind = (typeof SECTION_KINDS)[number];

/** A section and which others are like it. */
export interface GroupedSpan extends BarSpan {
  readonly group: number;
}

const SINGS = 0.3;

/** What speaks for the kind of a section. */
export const KIND_FACTS = [
  ...[
    'first',
    'last',
    'second',
    'next to last',
    'before the voice',
    'after the voice',
    'place',
    'long',
    'short',
  ],
  ...[
    'voice',
    'voice of its like',
    'hits',
    'few hits',
    'no hits',
    'fullness',
    'fullness of its like',
    'level',
  ],
  ...['level of its like', 'player of its own', 'fuller than before', 'fuller than after', 'no voice at all'],
  ...[
    'other voices',
    'fullest',
    'likes',
    'share of its like',
    'like the first sung',
    'once',
    'before the fullest',
  ],
  ...['after the fullest', 'sung, before the fullest sung', 'unsung between sung', 'place of its like'],
  'sung once, not first',
] as const;

/** What is known of all sections before each is looked at. */
interface SongFacts {
  readonly bars: BarFeatures;
  readonly sections: readonly GroupedSpan[];
  /** Share of the bars in which the lead voice sounds. */
  readonly voice: readonly number[];
  /** How full it is played, 0–1. */
  readonly full: readonly number[];
  /** Hits of the drums against the song's usual bar. */
  readonly hits: readonly number[];
  /** Level over the song's usual bar, in steps of 6 dB. */
  readonly level: readonly number[];
  readonly others: readonly number[];
  readonly firstSung: number;
  readonly lastSung: number;
  /** Group that is played and sung fullest. */
  readonly top: number | undefined;
}

const SUNG = 0.4;
const yes = (is: boolean): number => Number(is);

function shareOf(values: ArrayLike<number>, { fromBar, toBar }: BarSpan): number {
  let sum = 0;
  for (let i = fromBar; i < toBar; i++) sum += values[i] as number;
  return sum / Math.max(1, toBar - fromBar);
}

function songFacts(bars: BarFeatures, sections: readonly GroupedSpan[]): SongFacts {
  const over = (values: ArrayLike<number>): number[] => sections.map((s) => shareOf(values, s));
  const weights = bars.tracks.reduce((sum, t) => sum + t.weight, 0) || 1;
  const activity = Float32Array.from({ length: bars.count }, (_, i) =>
    bars.tracks.reduce((sum, t) => sum + (t.weight * (t.activity[i] as number)) / weights, 0),
  );
  const backing = bars.tracks.filter((t) => t.family === 'backing-vocal');
  const others = Float32Array.from({ length: bars.count }, (_, i) =>
    Math.max(0, ...backing.map((t) => t.activity[i] as number)),
  );
  const usualHits = Math.max(0.5, median(bars.hits));
  const usualDb = median(bars.levelDb);
  const voice = over(bars.voice.map((v) => yes(v > SINGS)));
  const facts = {
    bars,
    sections,
    voice,
    full: over(activity),
    hits: over(bars.hits).map((h) => h / usualHits),
    level: over(bars.levelDb).map((db) => clip((db - usualDb) / 6, -2, 2)),
    others: over(others),
    firstSung: voice.findIndex((v) => v > SUNG),
    lastSung: voice.findLastIndex((v) => v > SUNG),
    top: undefined,
  };
  const strength = sections.map(
    (_, i) =>
      ofLike(facts, facts.full, i) +
      0.3 * ofLike(facts, voice, i) +
      0.2 * ofLike(facts, facts.level, i) +
      (likesOf(facts, i).length > 1 ? 0.15 : 0),
  );
  return { ...facts, top: sections[strength.indexOf(Math.max(...strength))]?.group };
}

const likesOf = ({ sections }: Pick<SongFacts, 'sections'>, i: number): readonly GroupedSpan[] =>
  sections.filter((s) => s.group === sections[i]?.group);

/** Mean over the sections that are like one. */
const ofLike = ({ sections }: Pick<SongFacts, 'sections'>, values: readonly number[], i: number): number =>
  mean(values.filter((_, j) => sections[j]?.group === sections[i]?.group));

/** Facts of every section, in the order of {@link KIND_FACTS}. */
export function kindFacts(bars: BarFeatures, sections: readonly GroupedSpan[]): number[][] {
  const facts = songFacts(bars, sections);
  return sections.map((_, i) => [...placeFacts(facts, i), ...playedFacts(facts, i), ...amongFacts(facts, i)]);
}

/** Where in the song it is. */
function placeFacts({ sections, bars, firstSung, lastSung }: SongFacts, i: number): number[] {
  const { fromBar, toBar } = sections[i] as GroupedSpan;
  const bars8 = Math.log2(Math.max(1, toBar - fromBar)) - 3;
  return [
    yes(i === 0),
    yes(i === sections.length - 1),
    yes(i === 1),
    yes(i === sections.length - 2),
    yes(firstSung > 0 && i < firstSung),
    yes(lastSung >= 0 && i > lastSung),
    (fromBar + toBar) / 2 / Math.max(1, bars.count),
    clip(bars8, -2, 2),
    yes(toBar - fromBar <= 4),
  ];
}

/** What is played in it. */
function playedFacts(facts: SongFacts, i: number): number[] {
  const { voice, hits, full, level, bars, sections, others } = facts;
  const fullest = Math.max(...full, 1e-6);
  const at = (values: readonly number[], j: number): number => values[j] ?? 0;
  return [
    at(voice, i),
    ofLike(facts, voice, i),
    clip(at(hits, i), 0, 2),
    yes(at(hits, i) < 0.5),
    yes(at(hits, i) < 0.1),
    at(full, i) / fullest,
    ofLike(facts, full, i) / fullest,
    at(level, i),
    ofLike(facts, level, i),
    ownPlayer(bars, sections, i),
    clip((at(full, i) - at(full, i - 1)) * 2, -1, 1),
    clip((at(full, i) - at(full, i + 1)) * 2, -1, 1),
    yes(!bars.hasVoice),
    at(others, i),
  ];
}

/** How it stands to the others. */
function amongFacts(facts: SongFacts, i: number): number[] {
  const { sections, voice, firstSung, lastSung, top } = facts;
  const total = Math.max(1, facts.bars.count);
  const likes = likesOf(facts, i);
  const isTop = (j: number): boolean => top !== undefined && sections[j]?.group === top;
  const isSung = (j: number): boolean => (voice[j] ?? 0) > SUNG;
  const first = sections[firstSung];
  const leadsUp = isTop(i + 1) && !isTop(i);
  return [
    yes(isTop(i)),
    Math.min(5, likes.length) / 5,
    likes.reduce((sum, o) => sum + lengthOf(o), 0) / total,
    yes(first !== undefined && first.group === sections[i]?.group),
    yes(likes.length === 1),
    yes(leadsUp),
    yes(isTop(i - 1) && !isTop(i)),
    yes(leadsUp && isSung(i) && isSung(i - 1) && !isTop(i - 1)),
    yes(!isSung(i) && firstSung >= 0 && i > firstSung && i < lastSung),
    mean(likes.map((o) => o.fromBar / total)),
    yes(isSung(i) && likes.length === 1 && i !== firstSung),
  ];
}

/** How much a track plays here that hardly plays anywhere else, 0–1. */
function ownPlayer(bars: BarFeatures, sections: readonly GroupedSpan[], i: number): number {
  const here = sections[i] as GroupedSpan;
  let most = 0;
  for (const t of bars.tracks) {
    let [inside, outside, others] = [0, 0, 0];
    for (let bar = 0; bar < bars.count; bar++) {
      const x = t.activity[bar] as number;
      if (bar >= here.fromBar && bar < here.toBar) inside += x / Math.max(1, lengthOf(here));
      else {
        outside += x;
        others++;
      }
    }
    most = Math.max(most, inside - outside / Math.max(1, others));
  }
  return clip(most, 0, 1);
}
