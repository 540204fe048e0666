#!/usr/bin/env node
// Writes the few icons that are used out of the set of bootstrap-icons (MIT) into src/ui/kit/icon-paths.ts: `node bin/icons.mjs`.
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './lib/say.mjs';

const NAMES =
  'arrow-clockwise arrow-counterclockwise arrow-down arrow-up archive bookmark-fill bookmark-plus box-arrow-in-down caret-down-fill caret-right-fill check-lg check-square-fill chevron-down chevron-left chevron-right clipboard clock-history copy dot download exclamation-octagon exclamation-octagon-fill exclamation-triangle folder folder-plus gear hand-index headphones inbox info-circle keyboard layout-three-columns link-45deg list moon pause-fill person-check play play-fill plus search slash-circle square sun trash3 x x-lg'.split(
    ' ',
  );
const paths = NAMES.map((name) => {
  const svg = readFileSync(join(ROOT, 'node_modules/bootstrap-icons/icons', `${name}.svg`), 'utf8');
  const parts = [...svg.matchAll(/<path[^>]* d="([^"]+)"/g)].map((m) => m[1]);
  // Paths begin where they say, some relative to 0, 0: joined to one they would be drawn elsewhere.
  return `  '${name}': [${parts.map((d) => `'${d}'`).join(', ')}],`;
});
writeFileSync(
  join(ROOT, 'src/ui/kit/icon-paths.ts'),
  `/** Made by \`node bin/icons.mjs\` out of bootstrap-icons (MIT): outlines on 16 × 16. */\n// prettier-ignore\nexport const ICON_PATHS = {\n${paths.join('\n')}\n} as const;\n`,
);
