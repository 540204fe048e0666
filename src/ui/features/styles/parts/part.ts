import type { HouseStyle } from '@/core/style';

/** What every part of the editor is given. */
export interface PartProps {
  readonly style: HouseStyle;
  readonly change: (fields: Partial<HouseStyle>) => void;
  /** How many of the names at hand each rule meets. */
  readonly hits: ReadonlyMap<string, readonly string[]>;
  /** What the counts count: `tracks of Nine`, `names`. */
  readonly counted: string;
}
