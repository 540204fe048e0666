/** Views of Sort, in the order in which a key goes through them. */
export const SORT_VIEWS = ['tracks', 'routing', 'takes'] as const;

/** One of {@link SORT_VIEWS}. */
export type SortView = (typeof SORT_VIEWS)[number];
