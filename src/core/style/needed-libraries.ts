import { needPatternEngine } from './conditions';
import type { HouseStyle } from './house-style';

/** Whether a page has to fetch the engine for patterns before it can judge by this style. */
export const needsPatternEngine = ({ rules, sends, folders, lenses, groups }: HouseStyle): boolean =>
  needPatternEngine([...rules, ...sends, ...folders, ...lenses, ...groups].map((r) => r.when));
