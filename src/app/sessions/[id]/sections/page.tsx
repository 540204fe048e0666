import { SectionsStage } from '@/ui/features/sections';
import { stageTitle } from '../session-of-page';

export const generateMetadata = stageTitle('Sections');

export default function Page() {
  return <SectionsStage />;
}
