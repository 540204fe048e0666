'use client';
import { useRouter } from 'next/navigation';
import { useSession } from './session-store';
import type { StageState } from './stages';

/** Goes to another stage of the session at hand. */
export function useGoOn(stage: StageState['key']): () => void {
  const router = useRouter();
  const id = useSession((s) => s.view.id);
  return () => router.push(`/sessions/${id}/${stage}`);
}
