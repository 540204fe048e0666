import { IntakeStage } from '@/ui/features/intake';
import { stageTitle } from '../session-of-page';

export const generateMetadata = stageTitle('Intake');

export default function Page() {
  return <IntakeStage />;
}
