/** Family, part and place in plain words: `drums · kick · in`. */
export function describeReading(r: {
  readonly family: string;
  readonly part: string | null;
  readonly role?: string | null;
  readonly position?: string | null;
  readonly side?: string | null;
}): string {
  return [r.family, r.part, r.role, r.position, r.side]
    .filter((x) => x !== null && x !== undefined)
    .map((x) => String(x).replaceAll('-', ' '))
    .join(' · ');
}
