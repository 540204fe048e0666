import type { NameReading } from './reading';

const PART_WORDS: Readonly<Record<string, string>> = { hihat: 'Hat', vocal: 'Vocal', mix: 'Rough Mix', kit: 'Drums', 'electric-bass': 'Bass', effect: 'Effect' };

const POSITION_WORDS: Readonly<Record<string, string>> = { di: 'DI', rack: 'Rack', floor: 'Floor' };

/** Roles worth reading in a name; "lead" of a voice is part of its word. */
const title = (word: string): string => word.split('-').map((w) => w.charAt(0).toUpperCase() + w.slice(1)).join(' ');

/** The name people read in the session: part, role, position, number, side; null when the part is unknown. */
export function displayName(r: Pick<NameReading, 'family' | 'part' | 'role' | 'position' | 'side' | 'number'>): string | null {
  if (r.part === null) return null;
  let words = PART_WORDS[r.part] ?? title(r.part);
  let role = r.role;
  if (r.part === 'vocal') {
    words = r.family === 'backing-vocal' ? 'Backing Vocal' : 'Lead Vocal';
    if (role === 'lead') role = null;
  }
  // "Floor Tom", but "Snare Top".
  const place = r.position ? (POSITION_WORDS[r.position] ?? title(r.position)) : null;
  const out = place !== null && r.part === 'tom' ? [place, words] : [words];
  if (role) out.push(title(role));
  if (place !== null && r.part !== 'tom') out.push(place);
  if (r.number !== null) out.push(String(r.number));
  if (r.side) out.push({ left: 'L', right: 'R', mid: 'M', side: 'S' }[r.side]);
  return out.join(' ');
}

/** Equal names get 1, 2, 3 … in order, before a trailing L/R so that pairs stay pairs; numbered names are left alone. */
export function numberDoubles(names: readonly string[]): string[] {
  const counts = new Map<string, number>();
  names.forEach((n) => counts.set(n, (counts.get(n) ?? 0) + 1));
  const taken = new Set(names.filter((n) => counts.get(n) === 1));
  const next = new Map<string, number>();
  return names.map((name) => {
    if ((counts.get(name) ?? 0) < 2) return name;
    const side = / [LR]$/.exec(name)?.[0] ?? '';
    const stem = side ? name.slice(0, -2) : name;
    let n = next.get(name) ?? 1;
    while (taken.has(`${stem} ${n}${side}`)) n++;
    taken.add(`${stem} ${n}${side}`);
    next.set(name, n + 1);
    return `${stem} ${n}${side}`;
  });
}

/** Family, part and place in plain words: `drums · kick · in`. */
export function describeReading(r: { readonly family: string; readonly part: string | null; readonly role?: string | null; readonly position?: string | null; readonly side?: string | null }): string {
  return [r.family, r.part, r.role, r.position, r.side].filter((x) => x !== null && x !== undefined).map((x) => String(x).replaceAll('-', ' ')).join(' · ');
}
