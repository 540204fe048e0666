import type { Company } from './company';

/** What the company says of a short form that could be several things; log units. */
type Judge = (there: (family: string) => number, company: Company) => number;

/** Two letters of a kit stand beside others of it. */
const besideOne =
  (...others: readonly string[]): Judge =>
  (_, { kit, keys }) =>
    kit > 0 && others.some((o) => keys.has(o)) ? 3 : -1;

/** One letter for a source, where nearly all names are so short. */
const MOSTLY = 0.6;
const amongCodes: Judge = (_, { kit, terse }) => (terse >= MOSTLY && kit > 0 ? 2.5 : -2);
/** A source and its side in two letters, the other side beside it. */
const withOther =
  (other: string): Judge =>
  (_, { keys, terse }) =>
    keys.has(other) && terse > 0.3 ? 3 : -1;

/** By key and meaning. Common practice, no source. */
const JUDGES: ReadonlyMap<string, Judge> = new Map<string, Judge>([
  // A hat by another name leaves the high tom.
  ['ht drums/tom', (there) => (there('drums/hihat') > 0 || there('drums/tom') > 0 ? 1.5 : 0)],
  ['ht drums/hihat', () => 0],
  ['lt drums/tom', (_, { kit }) => (kit > 0 ? 0.5 : -1.5)],
  ['mt drums/tom', (_, { kit }) => (kit > 0 ? 0.5 : -1.5)],
  [
    'cb percussion/cowbell',
    (there, { kit }) => (there('strings') > 0 ? -1 : there('percussion') + kit > 0 ? 1.2 : 0),
  ],
  ['cb bass/double-bass', (there) => (there('strings') > 0 ? 1 : 0)],
  // Once, in a band that has no bass.
  [
    'bg bass/electric-bass',
    (there, { kit }) => (kit > 0 && there('bass') === 0 && there('guitars') > 0 ? 0.4 : -2),
  ],
  ['basses bass/double-bass', (_, { choir }) => (choir > 0.5 ? -2 : 0)],
  ['vi strings/violin', (there, { keys }) => (there('strings') > 0 || keys.has('vii') ? 2.2 : -2)],
  ['vii strings/violin', (there, { keys }) => (there('strings') > 0 || keys.has('vi') ? 2.2 : -2)],
  ['altos strings/viola', (there) => (there('strings') > 1 ? 0.5 : -1)],
  // The open hat of a drum machine stands beside its closed one.
  ['oh drums/hihat', (_, { keys }) => (['ch', 'chh', 'hc'].some((k) => keys.has(k)) ? 3.5 : -3)],
  ['acc keys/accordion', (there) => (there('keys') > 0 ? 0 : -0.6)],
  ['db bass/double-bass', (there) => (there('bass') > 0 ? 0 : 0.8)],
  ['tb brass/trombone', (there) => (there('brass') > 0 && there('brass/trombone') === 0 ? 1.6 : 0)],
  // Beside rack toms the floor tom, else a flute.
  ['fl drums/tom', besideOne('rk', 'rt', 'rtom')],
  ['tom drums/tom', (there) => (there('drums') > 0 ? 0 : -1.8)],
  ['st drums/snare', besideOne('sb', 'sn', 'su')],
  ['sb drums/snare', besideOne('st', 'sn')],
  ['su drums/snare', besideOne('so', 'st')],
  ['ki drums/kick', besideOne('ko')],
  ['ko drums/kick', besideOne('ki')],
  ['tf drums/tom', besideOne('tr', 'th', 'rt', 't')],
  ['tr drums/tom', besideOne('tf', 'ft')],
  ['ol drums/overhead', withOther('or')],
  ['or drums/overhead', withOther('ol')],
  ['rl drums/room', withOther('rr')],
  ['rr drums/room', withOther('rl')],
  ['gl guitars/guitar', withOther('gr')],
  ['gr guitars/guitar', withOther('gl')],
  ['kl keys/keys', withOther('kr')],
  ['kr keys/keys', withOther('kl')],
  ['ba bass/electric-bass', amongCodes],
  ['k drums/kick', amongCodes],
  ['s drums/snare', amongCodes],
  ['h drums/hihat', amongCodes],
  ['b bass/electric-bass', amongCodes],
  ['g guitars/guitar', amongCodes],
  ['p keys/piano', amongCodes],
  ['v lead-vocal/vocal', amongCodes],
  ['v backing-vocal/vocal', amongCodes],
  ['rd winds/winds', (there) => (there('drums/ride') > 0 || there('winds') + there('strings') > 1 ? 1 : -1)],
]);

const LONGEST = 6;

/** `T2`: a tom of a kit, else a take. */
export const NUMBERED_TOM = /^t\d$/;

/** A numbered T in a name that says more than itself, or without a kit, is hardly a tom. */
export const numberedTomScore = (isAlone: boolean, company: Company): number =>
  isAlone && company.kit >= 0.5 ? 0 : -4;

/** What the company says of a head that is a short form; null = it is not asked. A single letter beside another source is none. */
export function shortFormScore(
  key: string,
  at: {
    readonly family: string;
    readonly part: string | null;
    readonly company: Company;
    readonly isAlone: boolean;
  },
): number | null {
  if (key.length > LONGEST) return null;
  if (key.length === 1 && !at.isAlone) return BESIDE_A_SOURCE;
  const judge = JUDGES.get(`${key} ${at.family}/${at.part}`);
  return judge ? judge((f) => at.company.clear.get(f) ?? 0, at.company) : null;
}

const BESIDE_A_SOURCE = -4;
