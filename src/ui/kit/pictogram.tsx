import type { Family } from '@/core/naming';
import type { HouseStyle, Picture } from '@/core/style';

/** Our own small line drawings on a 16 px grid: one a family, some of single parts and of rows that are no tracks. */
const PATHS: Readonly<Record<Picture | 'folder', string>> = {
  drums:
    'M3 6.5c0-1.4 2.2-2.5 5-2.5s5 1.1 5 2.5v4c0 1.400-2.200 2.500-5 2.500s-5-1.100-5-2.500zM3 6.500c0 1.400 2.200 2.500 5 2.500s5-1.100 5-2.500',
  percussion: 'M4 9a4 4 0 1 0 8 0a4 4 0 1 0-8 0M8 5V2M10 5.500l2-2.500M12 7.500l2.500-1',
  bass: 'M8 2v6M6.500 3h3M5 11a3 3 0 1 0 6 0a3 3 0 1 0-6 0M8 9.500v3',
  guitars: 'M13.500 2.500l-6 6M4 12a3 3 0 1 0 6-1a3 3 0 1 0-6 1M12 2.500l1.500 1.500',
  keys: 'M2.500 4h11v8h-11zM6.200 4v5M9.800 4v5',
  synths: 'M2.500 5h11v6h-11zM5 8h.01M8 8h.01M11 8h.01M2.500 13h11',
  strings: 'M3 13L13 3M6 4c3 0 6 3 6 6M4 6.500c2.500 0 5.500 3 5.500 5.500',
  brass: 'M2 8h7l4.500-3v6L9 8M4 8v2.500h3V8',
  winds: 'M3 13L13 3M6 8.500l1.500 1.500M8 6.500L9.500 8M10 4.500L11.500 6',
  'lead-vocal': 'M6 4.500a2 2 0 1 1 4 0v3a2 2 0 1 1-4 0zM4 7.500a4 4 0 0 0 8 0M8 11.500V14',
  'backing-vocal':
    'M3.500 6a1.600 1.600 0 1 1 3.200 0v2a1.600 1.600 0 1 1-3.200 0zM9.300 6a1.600 1.600 0 1 1 3.200 0v2a1.600 1.600 0 1 1-3.200 0zM5 11.500h6M8 11.500V14',
  mains:
    'M2.500 5.500c3-3 8-3 11 0M4.800 8c2-1.800 4.400-1.800 6.400 0M8 10.500v2.500M6 13h4M7 10a1 1 0 1 0 2 0a1 1 0 1 0-2 0',
  effects: 'M2 8c1.500-5 3-5 4 0s2.500 5 4 0s2.500-5 4 0',
  reference: 'M3 4h10M3 8h10M3 12h6',
  click: 'M5 13l2-10h2l2 10zM8 10l4-6',
  unknown: 'M6 6a2 2 0 1 1 3 1.700c-.700.500-1 .900-1 1.800M8 12.500h.01',
  kick: 'M3 8a5 5 0 1 0 10 0a5 5 0 1 0-10 0M6.500 8a1.500 1.500 0 1 0 3 0a1.500 1.500 0 1 0-3 0M4 13l-1 1.500M12 13l1 1.500',
  snare:
    'M3 6.500c0-1.100 2.200-2 5-2s5 .900 5 2s-2.200 2-5 2s-5-.900-5-2M3 6.500v3c0 1.100 2.200 2 5 2s5-.900 5-2v-3M5 13l6-3.500M5 9.500l6 3.500',
  cymbal: 'M2.500 5.500c3-1.500 8-1.500 11 0c-3 1.200-8 1.200-11 0M8 6.500V13M5.500 14h5',
  piano: 'M3 13V4c2-1.500 4-.500 5 1.500c1 2 3 1.500 5 2.500v5zM5.500 13v-2.500M8 13v-2.500M10.500 13v-2.500',
  organ: 'M3.500 13V6M6 13V4M8.500 13V3M11 13V5M13 13V7M2.500 13h11.500',
  note: 'M6 12a1.800 1.800 0 1 1-3.600 0a1.800 1.800 0 1 1 3.600 0M6 12V4l6-1.500v7.500M12 10a1.800 1.800 0 1 1-3.600 0a1.800 1.800 0 1 1 3.600 0',
  return: 'M13 4v3.500c0 1.500-1 2.500-2.500 2.500H4M6.500 7L3.500 10l3 3',
  'mix-bus':
    'M3 3.500v3c0 1.500 2 1.500 3.500 2.500M13 3.500v3c0 1.500-2 1.500-3.500 2.500M8 3.500V13M5.500 11L8 13.500l2.500-2.500',
  section: 'M4 14V2.500M4 3h8l-2 2.500l2 2.500H4',
  folder: 'M2.500 4.500h4l1.200 1.500h5.800v6.500h-11z',
};

/** The drawing of a family; its meaning always stands beside it in words. */
export function Pictogram({ of }: { readonly of: Picture | 'folder' }) {
  return (
    <svg className="fm-pictogram" viewBox="0 0 16 16" width="16" height="16" aria-hidden="true">
      <path d={PATHS[of]} />
    </svg>
  );
}

/** The drawing a house style has for a track: that of its part, else of its family. */
export const pictureOf = (
  { pictures }: Pick<HouseStyle, 'pictures'>,
  { family, part }: { readonly family: Family; readonly part: string | null },
): Picture => (part === null ? undefined : pictures[part]) ?? pictures[family] ?? family;
