'use client';
import { Kbd, Tabs } from '@/ui/kit';

/** What Tidy shows: what stays of the tracks, or how loud they are. */
export type TidyView = 'cuts' | 'levels';

const VIEWS = [
  { key: 'cuts', label: 'Cuts' },
  { key: 'levels', label: 'Levels' },
] as const;

export function ViewTabs({
  view,
  onView,
}: {
  readonly view: TidyView;
  readonly onView: (to: TidyView) => void;
}) {
  return (
    <Tabs label="View" tabs={VIEWS} chosen={view} onChoose={onView}>
      {' '}
      <Kbd>B</Kbd>
    </Tabs>
  );
}
