import type { SessionView } from '@/contracts';
import { lensesOf } from '@/ui/client';

/** Track ids a lens lets through, always from the whole session; null = everything. */
export function lensTracks(view: SessionView, lens: string): ReadonlySet<string> | null {
  if (lens === 'all') return null;
  return lensesOf(view).find((l) => l.key === lens)?.trackIds ?? null;
}
