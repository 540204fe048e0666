import { TempoStage } from '@/ui/features/tempo';
import { stageTitle } from '../session-of-page';

export const generateMetadata = stageTitle('Tempo');

export default function Page() {
  return <TempoStage />;
}
