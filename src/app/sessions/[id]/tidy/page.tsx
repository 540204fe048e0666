import { TidyStage } from '@/ui/features/tidy';
import { stageTitle } from '../session-of-page';

export const generateMetadata = stageTitle('Tidy');

export default function Page() {
  return <TidyStage />;
}
