/** A word of a name: lower case, without marks, and where it stood. */
export interface Token {
  readonly text: string;
  /** As it stood in the name. */
  readonly shown: string;
}

const EXTENSION = /\.(wav|wave|bwf|rf64|aiff?|aifc|flac|caf|w64|mp3|m4a|aac|ogg|opus|mid|midi)$/i;

/** Name without the extension of a sound file; other dots stay. */
export const stripExtension = (name: string): string => name.replace(EXTENSION, '');

/** Whether a file's name is that of a recording, by its extension; what it is shows in its bytes. */
export const isSoundFileName = (name: string): boolean => EXTENSION.test(name) && !/\.midi?$/i.test(name);

const OTHER =
  /\.(txt|md|rtf|nfo|log|pdf|docx?|odt|pages|xlsx?|ods|csv|jpe?g|png|gif|heic|webp|tiff?|bmp|svg|json|xml|html?|url|webloc|ini)$/i;

/** Whether a file's name is that of something that lies beside recordings: texts, pictures, tables, links. */
export const isOtherFileName = (name: string): boolean => OTHER.test(name);

/** Whether such a file is a text that people read. */
export const isTextFileName = (name: string): boolean => /\.(txt|md|nfo)$/i.test(name);

/** Text fit to show: NFC, control characters and direction overrides gone, spaces single, at most `limit` characters. */
export function toSafeText(text: string, limit = 200): string {
  const clean = text
    .normalize('NFC')
    .replace(/[\u0000-\u001f\u007f-\u009f\u200b-\u200f\u202a-\u202e\u2066-\u2069\ufeff]/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
  return Array.from(clean).slice(0, limit).join('');
}

/** Rate, depth, tempo and key as senders write them into names: claims about the file or the song, no numbers of instruments (common practice, no source). */
const CLAIMS: readonly RegExp[] = [
  /(?<![\p{L}\d.])(?:44[.,]?1?|48|88[.,]?2?|96|192) ?k ?(?:16|24|32) ?b(?:its?)?(?![\p{L}\d])/giu,
  /(?<![\p{L}\d.])(?:16|24|32)[-/ ](?:44|48|88|96|192)(?:[.,]1|[.,]2)?k?(?:hz)?(?![\p{L}\d])/giu,
  /(?<![\p{L}\d.])(?:44[.,]?1|48|88[.,]?2|96|176[.,]?4|192) ?k(?:hz)?(?![\p{L}\d])/giu,
  /(?<![\p{L}\d.])(?:44|88|176)k[124](?:hz)?(?![\p{L}\d])|(?<![\d.])(?:44[.,]1|88[.,]2|176[.,]4)(?![\p{L}\d])/giu,
  /(?<![\p{L}\d.])(?:44100|48000|88200|96000|176400|192000) ?(?:hz)?(?![\p{L}\d])/giu,
  /(?<![\p{L}\d.])(?:16|24|32) ?-?b(?:its?)?(?![\p{L}\d])/giu,
  /(?<![\p{L}\d.])\d{2,3}(?:[.,]\d{1,3})? ?bpm(?!\p{L})|(?<!\p{L})bpm ?\d{2,3}(?:[.,]\d{1,3})?(?!\d)/giu,
  /(?<![\p{L}\d#])[A-G][#♯b♭]?(?:m| ?min| ?minor| ?maj| ?major)(?![\p{L}\d])/gu,
];

/** Days as senders write them: `2024-05-17`, `17.05.2024`, `240517` (common practice, no source). */
const DAYS: readonly RegExp[] = [
  /(?<!\d)(?:19|20)\d\d([-_. ]?)(?:0[1-9]|1[0-2])\1(?:0[1-9]|[12]\d|3[01])(?!\d)/gu,
  /(?<!\d)(?:0?[1-9]|[12]\d|3[01])([-_. /])(?:0?[1-9]|1[0-2])\1(?:19|20)\d\d(?!\d)/gu,
  /(?<!\d)[12]\d(?:0[1-9]|1[0-2])(?:0[1-9]|[12]\d|3[01])(?!\d)/gu,
];

/** A text without what name-facts reads out of it; what is nothing but that stays. */
export const withoutClaims = (text: string): string => {
  // Underscores are spaces to these; what is nothing but a claim stays, so that no name is empty.
  const plain = [...DAYS, ...CLAIMS].reduce(
    (rest, claim) => rest.replace(claim, ' '),
    text.replace(/_/g, ' '),
  );
  return /[\p{L}\p{N}]/u.test(plain) ? plain : text;
};

/** Splits at separators, at camelCase and between letters and digits; marks on letters are dropped for comparing. */
export function tokenise(name: string): Token[] {
  const spaced = withoutClaims(toSafeText(stripExtension(name.split(/[\\/]/).at(-1) ?? '')))
    .replace(/([a-zà-ÿ])([A-ZÀ-Þ])/g, '$1 $2')
    .replace(/([A-Z]+)([A-Z][a-z]{2,})/g, '$1 $2')
    .replace(/(\p{L})(\d)/gu, '$1 $2')
    .replace(/(\d)(\p{L})/gu, '$1 $2');
  return (spaced.match(/[\p{L}\p{N}#&]+/gu) ?? []).map((shown) => ({
    shown,
    text: shown.normalize('NFD').replace(/\p{M}/gu, '').replace(/ß/g, 'ss').toLowerCase(),
  }));
}

/** Number of leading tokens that all names share (song or artist), never a whole name. Needs three names to be a pattern. */
export function sharedPrefixLength(
  names: readonly (readonly Token[])[],
  keeps: (text: string) => boolean,
): number {
  if (names.length < 3) return 0;
  const shortest = Math.min(...names.map((n) => n.length));
  let shared = 0;
  while (shared < shortest - 1) {
    const word = names[0]?.[shared]?.text;
    if (word === undefined || keeps(word) || !names.every((n) => n[shared]?.text === word)) break;
    shared++;
  }
  return shared;
}
