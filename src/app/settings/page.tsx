import type { Metadata } from 'next';
import { viewMachine } from '@/server/services';
import { SettingsPage } from '@/ui/features/settings';

export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'Settings · Fernmoss' };

export default async function Page() {
  return <SettingsPage machine={await viewMachine()} />;
}
