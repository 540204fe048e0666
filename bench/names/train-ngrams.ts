import { Lexicon } from '../../src/core/naming/lexicon/lexicon';
import type { Sense } from '../../src/core/naming/lexicon/sense';
import { atomsOf } from '../../src/core/naming/reader/atoms';
import { middleOf, type NgramWeights, softmaxOf, WIDTH } from '../../src/core/naming/reader/ngram-model';
import { ROWS, rowsOf, withoutCommon } from '../../src/core/naming/reader/ngrams';
import { DeliveryReader, type ReadDelivery, type ReadName } from '../../src/core/naming/reader/read-delivery';
import { familiesAround } from '../../src/core/naming/reader/second-opinion';
import { createRandom } from '../../src/core/units';
import type { Label } from '../../tests/support/labelled-names';

/** A name as the model sees it, with what it is; several classes can be right. */
export interface NgramExample {
  readonly rows: readonly number[];
  /** `family/part`. */
  readonly classes: readonly string[];
  readonly weight: number;
}

const ALIAS_WEIGHT = 0.3;
const SILENT_WEIGHT = 0.1;
/** Kinds of words that say nothing of the source. */
const SILENT = new Set<Sense['kind']>([
  'junk',
  'unit',
  'fact',
  'take',
  'treatment',
  'section',
  'link',
  'number',
]);
const NOTHING = 'unknown/';
/** What songs and people are called: beside any source it says nothing, and alone neither. Invented, or common words. */
const TITLES =
  'low high water tide night day light dark heart home road river sea sky rain sun moon star winter summer autumn spring morning evening midnight city town harbour bridge street window door garden field mountain valley island ocean shore storm fire smoke ash snow ice stone glass gold silver blue red green black white yellow grey love hate hope fear joy sorrow dream sleep wake run walk fall rise fly stay leave come go hold break burn turn call wait lost found gone alone together forever never always again tomorrow yesterday today time hour year life death world heaven angel devil ghost king queen boy girl man woman mother father brother sister friend stranger letter paper picture mirror shadow echo wild young old new last first slow long little big sweet bitter broken empty heavy quiet silent mia noor lars petra joel hanna milo tessa bram ines otto lena rui vera'.split(
    ' ',
  );
const TITLE_WEIGHT = 0.15;

/** Every alias of the lexicon, alone. */
const aliasExamples = (senses: readonly Sense[]): NgramExample[] =>
  senses.flatMap((s): NgramExample[] => {
    const rows = rowsOf(atomsOf(s.alias), []);
    if (SILENT.has(s.kind)) return [{ rows, classes: [NOTHING], weight: SILENT_WEIGHT }];
    if (s.kind !== 'part' || s.family === null) return [];
    const families = s.family === 'voice' ? ['lead-vocal', 'backing-vocal'] : [s.family];
    return [{ rows, classes: families.map((f) => `${f}/${s.part ?? ''}`), weight: ALIAS_WEIGHT * s.weight }];
  });

/** The names of a delivery as read by the lexicon alone; those of which no part is labelled teach nothing. */
function nameExamples(labels: readonly Label[], names: readonly ReadName[], weight: number): NgramExample[] {
  const around = familiesAround(names.map((n) => n.ways));
  const telling = withoutCommon(names.map((n) => n.atoms));
  return labels.flatMap((label, i): NgramExample[] => {
    const rows = rowsOf(telling[i] ?? [], around[i] ?? []);
    if (label.families.every((f) => f === 'unknown')) return [{ rows, classes: [NOTHING], weight }];
    const { families, parts } = label;
    if (parts === null) return [];
    const classes = Array.from({ length: Math.max(families.length, parts.length) }, (_, k) => {
      const [family, part] = [families[k] ?? families.at(-1), parts[k] ?? parts.at(-1)];
      return family === 'unknown' ? NOTHING : `${family ?? ''}/${part ?? ''}`;
    });
    return [{ rows, classes: [...new Set(classes)], weight }];
  });
}

const LIST_WEIGHT = 0.6;

/** A delivery as a reader reads it, in the order of its labels. */
export const readBy = (reader: DeliveryReader, delivery: readonly Label[]): ReadDelivery =>
  reader.read(
    delivery.map((l) => l.name),
    (atoms) => atoms,
  );

/** All that teaches the letters: aliases, deliveries by hand, and lists of words by meaning. */
export function ngramExamples(
  senses: readonly Sense[],
  hand: readonly (readonly Label[])[],
  lists: readonly (readonly Label[])[],
): NgramExample[] {
  const reader = new DeliveryReader(new Lexicon(senses), null);
  const from = (all: readonly (readonly Label[])[], weight: number): NgramExample[] =>
    all.flatMap((delivery) => nameExamples(delivery, readBy(reader, delivery).names, weight));
  return [...aliasExamples(senses), ...titleExamples(), ...from(hand, 1), ...from(lists, LIST_WEIGHT)];
}

/** Invented titles of one to three words. */
function titleExamples(): NgramExample[] {
  const random = createRandom(SEED);
  const pick = (): string => TITLES[Math.floor(random() * TITLES.length)] as string;
  return Array.from({ length: 3 * TITLES.length }, (_, i) => ({
    rows: rowsOf(atomsOf(Array.from({ length: 1 + (i % 3) }, pick).join(' ')), []),
    classes: [NOTHING],
    weight: TITLE_WEIGHT,
  }));
}

const ROUNDS = 10;
const RATE = 0.3;
/** So many of the rows of a name are covered while it teaches: the rest must do. */
const COVERED = 0.3;
const SEED = 11;
/** A class this little wrong is left as it is: most of them at most names. */
const LEAST_ERROR = 2e-4;

/** Trains a model. Source: AdaGrad (Duchi, Hazan, Singer 2011) with dropout of inputs, from memory. */
export function trainNgrams(examples: readonly NgramExample[], rounds = ROUNDS): NgramWeights {
  const random = createRandom(SEED);
  const classes = [...new Set(examples.flatMap((e) => e.classes))].sort();
  const placeOf = new Map(classes.map((c, i) => [c, i]));
  const weights: NgramWeights = {
    classes,
    rows: Float32Array.from({ length: ROWS * WIDTH }, () => 0.35 * (random() - 0.5)),
    outputs: new Float32Array(classes.length * WIDTH),
  };
  const training = new Training(weights);
  const order = examples.map((_, i) => i);
  for (let round = 0; round < rounds; round++) {
    shuffle(order, random);
    const rate = RATE * (1 - round / rounds + 0.02);
    for (const i of order) {
      const { rows, classes: right, weight } = examples[i] as NgramExample;
      const seen = rows.filter(() => random() >= COVERED);
      if (seen.length > 0)
        training.learn(
          seen,
          right.map((c) => placeOf.get(c) as number),
          weight,
          rate,
        );
    }
  }
  return weights;
}

function shuffle(list: number[], random: () => number): void {
  for (let i = list.length - 1; i > 0; i--) {
    const k = Math.floor(random() * (i + 1));
    [list[i], list[k]] = [list[k] as number, list[i] as number];
  }
}

class Training {
  readonly #weights: NgramWeights;
  readonly #rowPower = new Float32Array(ROWS).fill(0.01);
  readonly #outputPower: Float32Array;
  readonly #middle = new Float32Array(WIDTH);
  readonly #back = new Float32Array(WIDTH);

  constructor(weights: NgramWeights) {
    this.#weights = weights;
    this.#outputPower = new Float32Array(weights.outputs.length).fill(0.01);
  }

  learn(rows: readonly number[], right: readonly number[], weight: number, rate: number): void {
    middleOf(this.#weights, rows, this.#middle);
    const errors = softmaxOf(this.#weights, this.#middle);
    for (const c of right) errors[c] = (errors[c] as number) - 1 / right.length;
    this.#learnOutputs(errors, weight, rate);
    this.#learnRows(rows, rate);
  }

  #learnOutputs(errors: Float32Array, weight: number, rate: number): void {
    const { outputs } = this.#weights;
    const back = this.#back.fill(0);
    for (let c = 0; c < errors.length; c++) {
      const error = (errors[c] as number) * weight;
      if (Math.abs(error) < LEAST_ERROR) continue;
      for (let k = 0; k < WIDTH; k++) {
        const at = c * WIDTH + k;
        back[k] = (back[k] as number) + error * (outputs[at] as number);
        const slope = error * (this.#middle[k] as number);
        const power = (this.#outputPower[at] as number) + slope * slope;
        this.#outputPower[at] = power;
        outputs[at] = (outputs[at] as number) - (rate * slope) / Math.sqrt(power);
      }
    }
  }

  #learnRows(rows: readonly number[], rate: number): void {
    const even = 1 / Math.sqrt(rows.length);
    let sum = 0;
    for (let k = 0; k < WIDTH; k++) {
      const slope = (this.#back[k] as number) * even;
      this.#back[k] = slope;
      sum += slope * slope;
    }
    for (const row of rows) {
      const power = (this.#rowPower[row] as number) + sum / WIDTH;
      this.#rowPower[row] = power;
      const step = rate / Math.sqrt(power);
      for (let k = 0; k < WIDTH; k++) {
        const at = row * WIDTH + k;
        this.#weights.rows[at] = (this.#weights.rows[at] as number) - step * (this.#back[k] as number);
      }
    }
  }
}
