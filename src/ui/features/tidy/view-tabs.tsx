'use client';
import { Kbd, Tabs } from '@/ui/kit';
import type { TidyView } from './tidy-views';

const VIEWS = [
  { key: 'cuts', label: 'Cuts' },
  { key: 'match', label: 'Matching' },
  { key: 'levels', label: 'Balance' },
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
