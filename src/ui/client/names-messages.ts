import type { NameReading, OwnWord } from '@/core/naming';
import type { SessionState } from '@/core/session';
import type { HouseStyle, Lesson } from '@/core/style';

/** The names of a delivery, and words that go before those of the trade. */
export interface AskedNames {
  readonly names: readonly string[];
  readonly own: readonly OwnWord[];
  readonly junk: readonly string[];
}

/** What the page asks of the worker that knows the lexicon. */
export type NamesQuestion =
  | ({ readonly kind: 'read' } & AskedNames)
  | ({ readonly kind: 'siblings'; readonly at: number } & AskedNames)
  | {
      readonly kind: 'lessons';
      readonly session: SessionState;
      readonly style: HouseStyle;
      readonly trackId: string;
    };

/** What it answers: the readings; places of the siblings; what could be learned. */
export interface NamesAnswers {
  readonly read: readonly NameReading[];
  readonly siblings: readonly number[];
  readonly lessons: readonly Lesson[];
}

/** One answer on its way, by the number of its question. */
export type NamesAnswer =
  | { readonly id: number; readonly answer: NamesAnswers[keyof NamesAnswers] }
  | { readonly id: number; readonly failed: string };
