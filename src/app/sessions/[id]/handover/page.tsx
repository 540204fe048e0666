import { HandoverStage } from '@/ui/features/handover';

export default function Page() {
  return <HandoverStage />;
}
