/** What Tidy shows: what stays of the tracks, what brings them to each other, how loud they are in a first listen. */
export const TIDY_VIEWS = ['cuts', 'match', 'levels'] as const;

/** One of {@link TIDY_VIEWS}. */
export type TidyView = (typeof TIDY_VIEWS)[number];

/** The view that the key of the views leads to. */
export const nextView = (view: TidyView): TidyView =>
  TIDY_VIEWS[(TIDY_VIEWS.indexOf(view) + 1) % TIDY_VIEWS.length] as TidyView;
