import {
  clampChroma,
  type Color,
  converter,
  differenceCiede2000,
  filterDeficiencyDeuter,
  filterDeficiencyProt,
  filterDeficiencyTrit,
  formatHex,
  modeLab65,
  modeLrgb,
  modeOklab,
  modeOklch,
  modeRgb,
  type Oklch,
  useMode as knowMode,
  wcagContrast,
} from 'culori/fn';

// Only the spaces used here: the whole library is 20 KB more for every page.
for (const mode of [modeRgb, modeLrgb, modeOklab, modeOklch, modeLab65]) knowMode(mode);
const toOklch = converter('oklch');

/** A colour by lightness (0–1), chroma (0–0.4) and hue (degrees); brought into sRGB by less chroma. */
export interface Lch {
  readonly lightness: number;
  readonly chroma: number;
  readonly hue: number;
}

/** `#rrggbb` in OKLCH; a grey has hue 0. */
export function lchOf(hex: string): Lch {
  const c = toOklch(hex) ?? { mode: 'oklch', l: 0.5, c: 0, h: 0 };
  return { lightness: c.l, chroma: c.c, hue: c.h ?? 0 };
}

/** The nearest colour a screen shows, `#rrggbb`. */
export function hexOf({ lightness, chroma, hue }: Lch): string {
  const color: Oklch = {
    mode: 'oklch',
    l: Math.min(1, Math.max(0, lightness)),
    c: Math.max(0, chroma),
    h: ((hue % 360) + 360) % 360,
  };
  return formatHex(clampChroma(color, 'oklch'));
}

/** How the tracks of a folder are coloured: each its own, all as the folder, in steps of the folder's shade, or spread around its hue. */
export type Shades = 'own' | 'folder' | 'steps' | 'spread';

/** All of {@link Shades}. */
export const SHADES = ['own', 'folder', 'steps', 'spread'] as const satisfies readonly Shades[];

/** Grounds of the light and the dark theme. */
const GROUNDS = { paper: '#f7f6f1', dusk: '#1b211e' } as const;
/** A waveform must stand out from its ground (WCAG 2.2, 1.4.11). */
const LEAST_CONTRAST = 3;

/** The nearest colour by lightness that stands out from both grounds. */
export function readableColor(hex: string): string {
  const base = lchOf(hex);
  const stands = (color: string): boolean =>
    wcagContrast(color, GROUNDS.paper) >= LEAST_CONTRAST &&
    wcagContrast(color, GROUNDS.dusk) >= LEAST_CONTRAST;
  for (let away = 0; away <= 1; away += 0.005)
    for (const by of [away, -away]) {
      const tried = away === 0 ? hex : hexOf({ ...base, lightness: base.lightness + by });
      if (stands(tried)) return tried;
    }
  return hex;
}

/** Colours for so many neighbours: hues spread evenly from violet on, by turns darker and lighter so that those who see few hues tell neighbours apart too. */
export const spreadColors = (count: number): string[] =>
  Array.from({ length: count }, (_, i) =>
    readableColor(
      hexOf({
        lightness: i % 2 ? 0.64 : 0.52,
        chroma: i % 2 ? 0.11 : 0.14,
        hue: 310 + (i * 360) / Math.max(1, count),
      }),
    ),
  );

const FREE_CHOICES = 24;

/** A colour as far as can be from those taken; of equally far ones the first along the spectrum. */
export function freeColor(taken: readonly (string | null)[]): string {
  const place = (hex: string): readonly [number, number, number] => {
    const { lightness, chroma, hue } = lchOf(hex);
    return [lightness, chroma * Math.cos((hue * Math.PI) / 180), chroma * Math.sin((hue * Math.PI) / 180)];
  };
  const others = taken.filter((c) => c !== null).map(place);
  const distance = (hex: string): number =>
    Math.min(1, ...others.map((o) => Math.hypot(...place(hex).map((x, i) => x - (o[i] as number)))));
  return spreadColors(FREE_CHOICES).reduce((best, c) => (distance(c) > distance(best) + 1e-9 ? c : best));
}

/** As far as both grounds allow. */
const STEPS_LIGHTNESS = 0.1;
const STEPS_MIDDLE = 0.588;
const SPREAD_DEGREES = 80;

/** Colour of the n-th of `count` tracks of a folder; from darker to lighter, or along the spectrum. */
export function shadeOf(
  folder: string,
  shades: 'folder' | 'steps' | 'spread',
  index: number,
  count: number,
): string {
  if (shades === 'folder' || count < 2) return folder;
  const at = index / (count - 1) - 0.5;
  const base = lchOf(folder);
  if (shades === 'spread') return hexOf({ ...base, hue: base.hue + at * SPREAD_DEGREES });
  return readableColor(hexOf({ ...base, lightness: STEPS_MIDDLE + at * STEPS_LIGHTNESS }));
}

/** Colours nearer than this are hard to tell apart side by side; CIEDE2000, our own choice. */
const LEAST_DIFFERENCE = 8;

/** What is wrong with a colour among its neighbours. */
export type ColorDoubt =
  | {
      readonly kind: 'contrast';
      readonly key: string;
      readonly ground: 'paper' | 'dusk';
      readonly ratio: number;
    }
  /** `sight` is what a person with that deficiency sees; `all` = anyone. */
  | {
      readonly kind: 'alike';
      readonly key: string;
      readonly other: string;
      readonly sight: 'all' | 'deuter' | 'prot' | 'trit';
    };

const seen =
  (see: (color: string & Color) => unknown) =>
  (hex: string): string =>
    formatHex(see(hex as string & Color) as string) ?? hex;
const SIGHTS = [
  ['all', (hex: string) => hex],
  ['deuter', seen(filterDeficiencyDeuter(1))],
  ['prot', seen(filterDeficiencyProt(1))],
  ['trit', seen(filterDeficiencyTrit(1))],
] as const;

/** Whether colours stand out from both grounds, and neighbours from each other, for the common ways of seeing. In order of the list. */
export function doubtsOfColors(
  list: readonly { readonly key: string; readonly color: string }[],
): ColorDoubt[] {
  const unlike = differenceCiede2000();
  const doubts: ColorDoubt[] = [];
  list.forEach(({ key, color }, i) => {
    for (const ground of ['paper', 'dusk'] as const) {
      const ratio = wcagContrast(color, GROUNDS[ground]);
      if (ratio < LEAST_CONTRAST) doubts.push({ kind: 'contrast', key, ground, ratio });
    }
    const next = list[i + 1];
    if (!next) return;
    const sight = SIGHTS.find(([, see]) => unlike(see(color), see(next.color)) < LEAST_DIFFERENCE)?.[0];
    if (sight) doubts.push({ kind: 'alike', key, other: next.key, sight });
  });
  return doubts;
}
