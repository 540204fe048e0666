import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';

/** What axe-core finds serious or critical on a page as it stands: rule and place. */
export async function seriousFindings(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page }).analyze();
  return violations
    .filter((v) => v.impact === 'serious' || v.impact === 'critical')
    .flatMap((v) => v.nodes.map((n) => `${v.id}: ${n.target.join(' ')}`));
}
