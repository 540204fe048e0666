import { tokenise, stripExtension } from '../naming';

/** What a word of a name says of takes. */
type TakeWord = SaidOfTakes | 'together' | 'place';

/** What speaks for another take. */
type SaidOfTakes = 'take' | 'comp' | 'punch' | 'day';

/** A name with regard to takes. */
export interface TakeName {
  /** Its words without those of takes and without numbers: alike for all takes of a part. */
  readonly stem: string;
  /** The same without words of what sounds together, and of places. */
  readonly root: string;
  /** Number of the take where a word says it is one. */
  readonly take: number | null;
  /** A number that nothing is said of. */
  readonly number: number | null;
  /** What speaks for another take, comp or punch-in, as it stood there. */
  readonly says: { readonly as: SaidOfTakes; readonly text: string } | null;
  /** What speaks for a part that sounds beside another, as it stood there. */
  readonly together: string | null;
}

const words = (text: string): ReadonlySet<string> => new Set(text.split(/\s+/).filter((w) => w !== ''));

/** Words of the trade in some languages; common practice, no source. */
const SAID: Readonly<Record<Exclude<TakeWord, 'day'>, ReadonlySet<string>>> = {
  take: words(`take takes tk tke tks tkes pass passes alt alts alternate alternative attempt attempts try version
    ver vers v old new orig original keep keeper kept best good safety safe backup unused spare outtake
    versuch fassung durchgang durchlauf aufnahme toma tomas tentativa prise prises essai presa prese ripresa tomada
    opname poging tagning tagn forsok otto`),
  comp: words('comp comped comps composite compiled zusammenschnitt montage'),
  punch: words(`punch punched punchin punches insert inserts fix fixes fixed repair repaired redo retake patch
    patched dropin pickups korrektur nachaufnahme raccord arreglo correction`),
  together:
    words(`dbl dble dbls double doubles doubled doubler doubling doub dopp doppel dopplung doppelung gedoppelt
    doublage doublee doblaje doble doblada dobra dobrada doppia doppio raddoppio dubbel dubb dubbad dubbing adt
    triple triples trip trpl tripled quad quads third thirds fourth fifth fifths sixth terz terzen quinte quart
    octave octaves oct octv oktave oktaven octava ottava oitava 8va 8ve harm harms harmony harmonies hrm hmny armonia
    harmonie harmonien upper lower high low hi lo mid gang gangs group crowd stack stacks layer layers
    unison unis unisono adlib adlibs lib libs answer response call whisper whispers ooh oohs aah aahs bgv bgvs bv bvs
    descant counter counterpoint zweite zweistimme 3rd 5th 2nd 6th 4th`),
  place:
    words(`di amp mic mike close near far room left right l r in out front rear back spot ribbon cond condenser
    dyn dynamic lav boom`),
};

/** Words that join others to one: `drop in`, `ad lib`, `best of`. */
const JOINED: readonly (readonly [first: string, second: string, as: Exclude<TakeWord, 'day'>])[] = [
  ['drop', 'in', 'punch'],
  ['punch', 'in', 'punch'],
  ['pick', 'up', 'punch'],
  ['ad', 'lib', 'together'],
  ['ad', 'libs', 'together'],
  ['best', 'of', 'comp'],
  ['master', 'take', 'comp'],
];

const DAY =
  /(?<!\d)(?:(?:19|20)\d\d[-_. ]?(?:0[1-9]|1[0-2])[-_. ]?(?:0[1-9]|[12]\d|3[01])|(?:0?[1-9]|[12]\d|3[01])[-_.](?:0?[1-9]|1[0-2])[-_.](?:19|20)?\d\d|[12]\d(?:0[1-9]|1[0-2])(?:0[1-9]|[12]\d|3[01]))(?!\d)/;
const HOUR = /(?<![\d.])(?:[01]?\d|2[0-3])[h:.-][0-5]\d(?:[m:.-][0-5]\d)?(?![\d])/;

interface Word {
  readonly text: string;
  readonly as: TakeWord | 'number' | 'plain';
}

const isNumber = (text: string | undefined): text is string => text !== undefined && /^\d+$/.test(text);

function kindOf(text: string, next: string | undefined): Word['as'] {
  if (isNumber(text)) return 'number';
  // T4, V2: a letter that counts.
  if ((text === 't' || text === 'v') && !isNumber(next)) return 'plain';
  if (text === 't') return 'take';
  for (const as of ['comp', 'punch', 'together', 'take', 'place'] as const) if (SAID[as].has(text)) return as;
  return 'plain';
}

/** Ordinals are one word, and times of day none. */
const inOneWord = (name: string): string => name.replace(/(\d)(st|nd|rd|th|va|ve)\b/gi, '$1\u2060$2');

function wordsOf(name: string): Word[] {
  const timeless = withoutMoment(name);
  const ordinals = new Map<string, string>();
  const marked = inOneWord(timeless).replace(
    /(\d)\u2060(st|nd|rd|th|va|ve)/gi,
    (_, digit: string, end: string) => {
      const key = `ordinal${'abcdefghij'[Number(digit)] as string}`;
      ordinals.set(key, `${digit}${end}`.toLowerCase());
      return ` ${key} `;
    },
  );
  const texts = tokenise(marked).map((t) => ordinals.get(t.text) ?? t.text);
  const out: Word[] = [];
  for (let i = 0; i < texts.length; i++) {
    const [text, next] = [texts[i] as string, texts[i + 1]];
    const joined = JOINED.find(([first, second]) => first === text && second === next);
    if (joined) {
      out.push({ text: `${text} ${next}`, as: joined[2] });
      i++;
    } else out.push({ text, as: kindOf(text, next) });
  }
  return out;
}

const withoutMoment = (name: string): string =>
  stripExtension(name.split(/[\\/]/).at(-1) ?? '')
    .replace(DAY, ' ')
    .replace(HOUR, ' ');

/** Longer numbers count no takes. */
const LONGEST = 4;

/** What a file's name says about takes, whatever the part is called. */
export function takeName(name: string): TakeName {
  const all = wordsOf(name);
  const at = sayingAt(all);
  const numbers = all.filter((w) => w.as === 'number' && w.text.length <= LONGEST);
  const behind = all[at + 1];
  const counted = at < 0 ? undefined : behind?.as === 'number' ? behind : numbers.at(-1);
  const left = numbers.filter((w) => w !== counted).at(-1);
  const keep = (...kinds: readonly Word['as'][]): string =>
    all.flatMap((w) => (kinds.includes(w.as) ? [w.text] : [])).join(' ');
  return {
    stem: keep('plain', 'together', 'place'),
    root: keep('plain'),
    take: counted ? Number(counted.text) : null,
    number: left ? Number(left.text) : null,
    says: saidBy(all[at], counted) ?? momentIn(name),
    together: all.find((w) => w.as === 'together')?.text ?? null,
  };
}

/** Where the word stands that says most; −1 = none does. */
function sayingAt(all: readonly Word[]): number {
  const strong = all.findIndex((w) => w.as === 'comp' || w.as === 'punch');
  return strong >= 0 ? strong : all.findIndex((w) => w.as === 'take');
}

const saidBy = (said: Word | undefined, counted: Word | undefined): TakeName['says'] =>
  said ? { as: said.as as SaidOfTakes, text: counted ? `${said.text} ${counted.text}` : said.text } : null;

function momentIn(name: string): TakeName['says'] {
  const plain = stripExtension(name.split(/[\\/]/).at(-1) ?? '');
  const text = (DAY.exec(plain) ?? HOUR.exec(plain))?.[0];
  return text === undefined ? null : { as: 'day', text: text.trim() };
}
