import { patternEngine } from '#style-libraries';
import { holdsPattern } from './conditions';
import type { HouseStyle } from './house-style';

/** Whether a style judges by patterns. */
export const holdsPatterns = ({ rules, sends, folders, lenses, groups }: HouseStyle): boolean =>
  [...rules, ...sends, ...folders, ...lenses, ...groups].some((r) => r.when !== null && holdsPattern(r.when));

/** Whether a page has to fetch the engine for patterns before it can judge by this style. */
export const needsPatternEngine = (style: HouseStyle): boolean =>
  patternEngine() === null && holdsPatterns(style);
