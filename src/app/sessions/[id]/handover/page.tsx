import { HandoverStage } from '@/ui/features/handover';
import { stageTitle } from '../session-of-page';

export const generateMetadata = stageTitle('Handover');

export default function Page() {
  return <HandoverStage />;
}
