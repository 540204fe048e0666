import { SortStage } from '@/ui/features/sort';

export default function Page() {
  return <SortStage />;
}
