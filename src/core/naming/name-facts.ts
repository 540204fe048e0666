/** Something a file or folder name says of the song. */
export interface NameFact {
  readonly kind: 'tempo' | 'rate' | 'depth' | 'key' | 'meter';
  /** In one spelling: `96`, `44100`, `24`, `G minor`, `6/8`. */
  readonly value: string;
}

const RATES = [44_100, 48_000, 88_200, 96_000, 176_400, 192_000];

/** Tempo, rate, depth, key and meter in a name, as senders write them (`96bpm`, `44k1`, `24bit`, `Gm`, `6-8 time`). Claims only. Common practice, no source. */
export function factsInName(path: string): NameFact[] {
  const facts: NameFact[] = [];
  const add = (kind: NameFact['kind'], value: string): void => {
    if (!facts.some((f) => f.kind === kind && f.value === value)) facts.push({ kind, value });
  };
  const text = path.replace(/_/g, ' ');
  for (const m of text.matchAll(
    /(?<![\p{L}\d.])(\d{2,3}(?:[.,]\d{1,3})?) ?bpm(?!\p{L})|(?<!\p{L})bpm ?(\d{2,3}(?:[.,]\d{1,3})?)(?!\d)/giu,
  )) {
    const bpm = Number((m[1] ?? m[2] ?? '').replace(',', '.'));
    if (bpm >= 30 && bpm <= 300) add('tempo', String(bpm));
  }
  for (const m of text.matchAll(
    /(?<![\p{L}\d.])(\d{2,3})(?:[.,]?k(\d)?|[.,](\d) ?k)(?:hz)?(?![\p{L}\d])|(?<!\d)(44100|48000|88200|96000|176400|192000)(?!\d)/giu,
  )) {
    const hz = m[4] ? Number(m[4]) : Math.round(1000 * Number(`${m[1]}.${m[2] ?? m[3] ?? '0'}`));
    if (RATES.includes(hz)) add('rate', String(hz));
  }
  for (const m of text.matchAll(/(?<![\p{L}\d])(16|24|32) ?-?bits?(?!\p{L})/giu))
    add('depth', m[1] as string);
  // A letter alone, or with a small m in running text, is as likely a word; the case tells.
  for (const m of text.matchAll(
    /(?<![\p{L}\d#])([A-G])([#♯b♭]?)(?:(m|min| min| minor|minor)|(maj| maj| major|major))(?![\p{L}\d])/gu,
  ))
    add('key', `${m[1]}${(m[2] ?? '').replace('♯', '#').replace('♭', 'b')} ${m[3] ? 'minor' : 'major'}`);
  for (const m of text.matchAll(/(?<!\d)(2|3|4|5|6|7|9|12)[-:](2|4|8)(?= ?(?:time|takt))/gi))
    add('meter', `${m[1]}/${m[2]}`);
  return facts;
}

/** The same in running text: `Am` is a key only where a key is spoken of. */
export const factsInText = (text: string): NameFact[] =>
  factsInName(text.replace(/(?<!\b(?:[Ii]n|[Kk]ey|of)[ :]{1,2})\bAm\b(?! ?(?:in|maj))/gu, ' '));
