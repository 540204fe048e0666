import { TempoStage } from '@/ui/features/tempo';

export default function Page() {
  return <TempoStage />;
}
