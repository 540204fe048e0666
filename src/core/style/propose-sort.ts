import { readNames } from '../naming';
import type { SessionState } from '../session';
import type { HouseStyle } from './house-style';
import { namesFor, proposeBy, type ProposeOptions, type SortProposal } from './propose';

/** Reads all names together and proposes what the house style makes of a session. A page has names read by its worker and calls `proposeBy`. */
export const proposeSort = (
  session: SessionState,
  style: HouseStyle,
  options: ProposeOptions = {},
): SortProposal => proposeBy(readNames(...namesFor(session, style)), session, style, options);
