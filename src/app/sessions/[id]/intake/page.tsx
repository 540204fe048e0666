import { IntakeStage } from '@/ui/features/intake';

export default function Page() {
  return <IntakeStage />;
}
