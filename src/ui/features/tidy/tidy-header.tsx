'use client';
import type { ReactNode } from 'react';
import type { TidyView } from './tidy-views';
import { ViewTabs } from './view-tabs';

/** The head of Tidy: its views, what is to be said of the one that is shown, its main button. What is said gives way where it is narrow, so that nothing below jumps. */
export function TidyHeader({
  view,
  onView,
  main,
  children,
}: {
  readonly view: TidyView;
  readonly onView: (to: TidyView) => void;
  readonly main: ReactNode;
  readonly children: ReactNode;
}) {
  return (
    <header className="fm-stage-head">
      <h1>Tidy</h1>
      <ViewTabs view={view} onView={onView} />
      <div className="fm-head-note">{children}</div>
      {main}
    </header>
  );
}
