import type { Sense } from '../../src/core/naming/lexicon/sense';
import type { Random } from '../../src/core/units';
import type { Label } from '../../tests/support/labelled-names';

/** One source of a kind of delivery: how often it is there, in how many places, sides and numbers. */
interface Source {
  readonly family: string;
  readonly part: string;
  readonly chance: number;
  readonly positions: readonly string[];
  readonly stereo: boolean;
  readonly most: number;
}

/** `family/part chance positions stereo most`. */
const source = (line: string): Source => {
  const [what = '', chance = '1', positions = '-', stereo = '0', most = '0'] = line.trim().split(' ');
  const [family = '', part = ''] = what.split('/');
  return {
    family,
    part,
    chance: Number(chance),
    positions: positions === '-' ? [] : positions.split(','),
    stereo: stereo === '1',
    most: Number(most),
  };
};

const kind = (text: string): Source[] => text.split('·').map(source);

/** What bands, orchestras and others send. Common practice, no source. */
const KINDS: readonly (readonly Source[])[] = [
  kind(
    'drums/kick 1 in,out,sub·drums/snare 1 top,bottom·drums/hihat·drums/tom 1 - 0 3·drums/overhead 1 - 1·drums/room 0.8 near,far 1·drums/ride 0.4·bass/electric-bass 1 di,amp·guitars/electric-guitar 1 - 1 3·guitars/guitar 0.7 di,amp 1 3·guitars/acoustic-guitar 0.6 - 1 2·keys/piano 0.5 high,low 1·keys/organ 0.5 high,low·keys/electric-piano 0.4 - 1·percussion/tambourine 0.5·percussion/shaker 0.5·synths/pad 0.3·lead-vocal/vocal·backing-vocal/vocal 0.9 - 1 4·click/click 0.5·reference/mix 0.5·reference/guide 0.3',
  ),
  kind(
    'mains/main-pair 0.7 - 1·mains/tree 0.7 - 1·mains/outrigger 0.6 - 1·mains/hall 0.5 - 1·strings/violin 1 close 0 2·strings/viola 1 close·strings/cello 1 close·bass/double-bass 1 close·winds/flute 0.9 - 0 2·winds/oboe 0.9·winds/clarinet 0.9 - 0 2·winds/bassoon 0.9·brass/horn 0.9 - 0 4·brass/trumpet 0.9 - 0 3·brass/trombone 0.9 - 0 3·brass/tuba 0.8·percussion/timpani 0.9·percussion/percussion 0.7 - 1·percussion/bass-drum 0.4·percussion/triangle 0.3·percussion/glockenspiel 0.4·strings/harp 0.8·keys/celesta 0.4·backing-vocal/choir 0.4 - 1',
  ),
  kind(
    'drums/kick 1 - 0 2·drums/snare 0.9·percussion/clap 0.9·drums/hihat 1 - 0 2·drums/loop 0.7·percussion/percussion 0.7 - 0 3·bass/synth-bass·synths/synth 0.9 - 0 3·synths/synth-lead 0.8·synths/pad 0.8 - 0 2·synths/arp 0.7·synths/pluck 0.7·effects/riser 0.7·effects/impact 0.7·effects/sweep 0.5·effects/noise 0.4·effects/reverse 0.4·effects/effect 0.5 - 0 3·lead-vocal/vocal 0.8·backing-vocal/vocal 0.5 - 1·reference/mix 0.4',
  ),
  kind(
    'percussion/conga 0.9 - 1·percussion/bongo 0.8·percussion/timbale 0.7·percussion/guiro 0.6·percussion/cowbell 0.6·percussion/cajon 0.5·percussion/surdo 0.3 - 0 2·bass/electric-bass 0.7 di·bass/double-bass 0.4·keys/piano 0.8 high,low 1·guitars/tres 0.4·guitars/acoustic-guitar 0.7 - 0 2·brass/trumpet 0.8 - 0 3·brass/trombone 0.8 - 0 2·winds/saxophone 0.6 - 0 2·winds/flute 0.4·lead-vocal/vocal·backing-vocal/vocal 0.9 - 0 3·click/click 0.4',
  ),
  kind(
    'strings/violin 0.9 di,close 0 2·guitars/acoustic-guitar 0.9 di,mic 0 2·guitars/mandolin 0.7·guitars/banjo 0.6·guitars/bouzouki 0.4·keys/accordion 0.7 - 1·winds/whistle 0.5·winds/bagpipe 0.4·winds/harmonica 0.5·percussion/bodhran 0.4·percussion/darbuka 0.3·guitars/oud 0.3·bass/double-bass 0.7 di,mic·strings/cello 0.4·winds/clarinet 0.4·lead-vocal/vocal 0.9·backing-vocal/vocal 0.7 - 0 2·guitars/pedal-steel 0.3·guitars/ukulele 0.3',
  ),
  kind(
    'winds/saxophone 1 - 0 5·brass/trumpet 1 - 0 4·brass/trombone 1 - 0 4·winds/flute 0.4·winds/clarinet 0.4·bass/double-bass 0.9 di,mic·keys/piano 0.9 high,low·guitars/guitar 0.8 amp·drums/kick·drums/snare·drums/hihat 0.7·drums/overhead 1 - 1·percussion/vibraphone 0.4·lead-vocal/vocal 0.5·brass/flugelhorn 0.3',
  ),
];

const SONG_WORDS = ['Silver', 'Tide', 'Heart', 'Night', 'Lantern', 'Quay', 'Home', 'Winter', 'Stay', 'Slow'];
const STRAY_WORDS = [
  'lars',
  'mia',
  'noor',
  'joel',
  'petra',
  'main',
  'old',
  '87',
  '421',
  'verse',
  'alt',
  'soft',
];
const LANGUAGES = ['xx', 'xx', 'xx', 'xx', 'de', 'es', 'fr', 'it', 'pt', 'nl', 'sv'];

/** Makes deliveries out of the lexicon's own words, with the slips and habits of hands in a hurry. */
export class MadeDeliveries {
  readonly #random: Random;
  readonly #words = new Map<string, Sense[]>();

  constructor(senses: readonly Sense[], random: Random) {
    this.#random = random;
    for (const s of senses) {
      const families =
        s.open === 'voice' ? ['lead-vocal', 'backing-vocal'] : s.family === null ? [s.kind] : [s.family];
      for (const f of families) {
        const key = `${f}/${s.family === null ? s.value : s.part}/${s.family === null ? '' : (s.position ?? '')}`;
        this.#words.set(key, [...(this.#words.get(key) ?? []), s]);
      }
    }
  }

  #pick<T>(list: readonly T[]): T | undefined {
    return list[Math.floor(this.#random() * list.length)];
  }

  #word(key: string, language: string): string | null {
    const all = this.#words.get(key) ?? [];
    const spoken = all.filter((s) => s.language === language);
    const usable =
      spoken.length > 0 && this.#random() < 0.8 ? spoken : all.filter((s) => s.language === 'xx');
    const clear = this.#random() < 0.85 ? usable.filter((s) => s.weight === 1) : usable;
    const list = clear.length > 0 ? clear : usable;
    // The first aliases of a line are the commonest.
    const at = Math.min(list.length - 1, Math.floor(-7 * Math.log(1 - this.#random())));
    return list[at]?.alias ?? null;
  }

  next(): Label[] {
    const language = this.#pick(LANGUAGES) ?? 'xx';
    const separator = this.#pick([' ', '_', '-', '.', ' ', '_', '']) ?? ' ';
    const style = this.#pick(['title', 'lower', 'upper', 'asis', 'title']);
    const prefix = this.#random() < 0.35 ? `${this.#pick(SONG_WORDS)} ${this.#pick(SONG_WORDS)} - ` : '';
    const isCounted = this.#random() < 0.3;
    const end = `${this.#pick(['', '', '', '_01', '_bip', '.1'])}${this.#pick(['', '.wav', '.wav', '.aif'])}`;
    const out: Label[] = [];
    for (const s of this.#pick(KINDS) ?? []) {
      if (this.#random() > s.chance) continue;
      for (const label of this.#variants(s, language)) {
        const { words } = label;
        const cased = words
          .flatMap((w) => w.split(' '))
          .map((w) =>
            style === 'lower'
              ? w.toLowerCase()
              : style === 'upper'
                ? w.toUpperCase()
                : style === 'title' || separator === ''
                  ? w.charAt(0).toUpperCase() + w.slice(1)
                  : w,
          );
        const number = isCounted ? `${String(out.length + 1).padStart(2, '0')}_` : '';
        const name = `${number}${prefix}${cased.join(separator)}${end}`;
        if (!out.some((l) => l.name === name)) out.push({ ...label, name });
      }
    }
    return out;
  }

  #variants(s: Source, language: string): (Label & { words: string[] })[] {
    const base = this.#word(`${s.family}/${s.part}/`, language);
    if (base === null) return [];
    const places: (string | null)[] =
      s.positions.length > 0 && this.#random() < 0.7 ? [...s.positions] : [null];
    const numbers: (number | null)[] =
      s.most > 0 && this.#random() < 0.6 ? Array.from({ length: s.most }, (_, i) => i + 1) : [null];
    const sides: (string | null)[] = s.stereo && this.#random() < 0.7 ? ['left', 'right'] : [null];
    return places.flatMap((position) =>
      numbers.flatMap((number) =>
        sides.map((side) => {
          const words = [base];
          const place = position && this.#word(`position/${position}/`, language);
          if (place) words.push(place);
          if (number !== null) words.push(String(number));
          if (side !== null)
            words.push(
              this.#random() < 0.6 ? side.charAt(0) : (this.#word(`side/${side}/`, language) ?? side),
            );
          return {
            name: '',
            words: this.#slip(words),
            families: [s.family],
            parts: [s.part],
            positions: place && position ? [position] : null,
            sides: side ? [side] : null,
            number,
          };
        }),
      ),
    );
  }

  #slip(words: string[]): string[] {
    const [first = ''] = words;
    if (this.#random() < 0.09) words.push(this.#pick(STRAY_WORDS) ?? '');
    if (this.#random() < 0.08) words[0] = this.#mistype(first);
    else if (this.#random() < 0.07 && first.length > 3 && first.length < 12)
      words[0] = first.charAt(0) + first.slice(1).replace(/[aeiouyäöüéèáíóú]/gi, '');
    return words;
  }

  #mistype(word: string): string {
    if (word.length < 3) return word;
    const at = 1 + Math.floor(this.#random() * (word.length - 1));
    const how = this.#random();
    if (how < 0.35 && at < word.length - 1)
      return word.slice(0, at) + word.charAt(at + 1) + word.charAt(at) + word.slice(at + 2);
    if (how < 0.65) return word.slice(0, at) + word.slice(at + 1);
    if (how < 0.85) return word.slice(0, at) + word.charAt(at) + word.slice(at);
    return word.slice(0, at) + (this.#pick(Array.from('aeionrst')) ?? '') + word.slice(at + 1);
  }
}
