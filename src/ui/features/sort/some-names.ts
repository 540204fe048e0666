/** How many are named before the rest is counted. */
export const MOST_NAMED = 4;

/** A few names, and how many more. */
export const someNames = (names: readonly string[]): string =>
  `${names.slice(0, MOST_NAMED).join(', ')}${names.length > MOST_NAMED ? ` and ${names.length - MOST_NAMED} more` : ''}`;
