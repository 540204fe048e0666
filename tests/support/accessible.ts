import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';

/** What a theme can change. */
const OF_COLOURS = ['color-contrast', 'link-in-text-block'];

/** A letter shown in a frame is a document of its own; without frames no second page is opened either, which would take the keyboard away. */
const OPTIONS = { resultTypes: ['violations' as const], iframes: false };

/** What axe-core finds serious or critical on a page as it stands: rule and place; of the colours alone, or of all. */
export async function seriousFindings(page: Page, only: 'colours' | 'all' = 'all'): Promise<string[]> {
  const axe = new AxeBuilder({ page }).setLegacyMode().options(OPTIONS);
  const { violations } = await (only === 'all' ? axe : axe.withRules(OF_COLOURS)).analyze();
  return violations
    .filter((v) => v.impact === 'serious' || v.impact === 'critical')
    .flatMap((v) => v.nodes.map((n) => `${v.id}: ${n.target.join(' ')}`));
}

/** Everything axe-core finds on a page as it stands, best practice included: rule and place. */
export async function allFindings(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page }).setLegacyMode().options(OPTIONS).analyze();
  return violations.flatMap((v) => v.nodes.map((n) => `${v.id}: ${n.target.join(' ')}`));
}
