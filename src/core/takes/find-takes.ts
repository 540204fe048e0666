import { type Likeness, likeness, risesAlike, SKETCH_PER_SECOND, type SoundSketch } from '../analysis';
import type { Family } from '../naming';
import type { ProgressSink } from '../units';
import { type Activity, activityOf, overlapOf } from './activity';
import { groupsByName, type NamedFile, type NameGroups } from './groups-by-name';
import { askMix, type MixSays, type MixWindows } from './in-mix';
import { type TurnPiece, turnPieces } from './in-turn';
import { lineRelation } from './line-relation';
import { AFTER, type PairRelation, pairRelation } from './pair-relation';
import { PITCHES_PER_SECOND, type PitchLine } from './pitch-line';
import type { TakeQuestion, TakeReason, TogetherReason } from './reasons';
import { type Timbre, timbreDistance, timbreOf } from './timbre';
import type { WaveRelation } from './wave-relation';

/** A file of a delivery as it is looked at for takes. */
export interface TakeFile extends NamedFile {
  /** Where it begins behind the common start, s; other than 0 only where time stamps say so. */
  readonly startSeconds: number;
  /** What was heard of it; null = nothing can be said by its sound. */
  readonly sketch: SoundSketch | null;
}

/** What is looked up in the sound where it is needed; files by their places in what was given. */
export interface TakeSounds {
  readonly line: (file: number) => Promise<PitchLine>;
  readonly waves: (a: number, b: number) => Promise<WaveRelation>;
  readonly hasMix: boolean;
  /** What a mix of the song says; null without one that can be asked. */
  readonly mix: () => Promise<MixWindows | null>;
  /** Hears how far it is, 0–1. */
  readonly progress: ProgressSink;
}

/** Files that become one track, its lanes in order. */
export interface FoundTakes {
  readonly lanes: readonly { readonly file: number; readonly number: number; readonly confidence: number }[];
  /** The lane that is wanted, where something says so. */
  readonly wanted: number | null;
  /** Where each sounds, of what follows one another; null = one of them sounds throughout. */
  readonly pieces: readonly TurnPiece[] | null;
  readonly reason: TakeReason;
}

/** Takes of a delivery, what looks alike but sounds together, and what has to be asked. */
export interface TakesOfDelivery {
  readonly takes: readonly FoundTakes[];
  readonly together: readonly { readonly files: readonly number[]; readonly reason: TogetherReason }[];
  readonly questions: readonly { readonly files: readonly number[]; readonly question: TakeQuestion }[];
}

/** Recordings whose rises have less in common are not looked at nearer where no name ties them; nor those whose timbres are farther apart (dB), unless they have much in common: an octave sounds otherwise. */
const [LEAST_RISES, FAR_TIMBRE_DB, MUCH_RISES] = [0.08, 9, 0.15];
/** One source in one place: takes reached 4 dB, other instruments began at 6.4 (measured on made ones). */
const SAME_SOURCE_DB = 5.5;
/** Those that follow one another sing other words: they may be farther apart, as it is only asked. */
const SAME_VOICE_DB = 7;
/** What has a pitch for so much of its time is a single voice. */
const SINGLE_VOICE = 0.4;
/** At most so many pairs are looked at nearer in one delivery: those whose rises have most in common. */
const MOST_PAIRS = 200;
/** So much of the way is what names tell. */
const NAMED_SHARE = 0.4;
/** How sure takes are by what says so. */
const SURE = { names: 0.97, copies: 0.98, stamps: 0.92 } as const;

/** Finds which files of a delivery are takes of one part: by their names, else by their sound and a mix; never by a guess. */
export async function findTakes(files: readonly TakeFile[], sounds: TakeSounds): Promise<TakesOfDelivery> {
  return new TakeFinder(files, sounds).find();
}

class TakeFinder {
  private readonly groups: NameGroups;
  private readonly activity: readonly (Activity | null)[];
  private readonly timbres: readonly Timbre[];
  /** Put together of takes, though they are called otherwise. */
  private readonly comps = new Set<number>();
  private readonly risesOf: (a: number, b: number) => number;
  private readonly lines = new Map<number, Promise<PitchLine>>();
  private readonly relations = new Map<string, Promise<PairRelation>>();
  private readonly takes: FoundTakes[] = [];
  private readonly together: { files: readonly number[]; reason: TogetherReason }[] = [];
  private readonly questions: { files: readonly number[]; question: TakeQuestion }[] = [];

  constructor(
    private readonly files: readonly TakeFile[],
    private readonly sounds: TakeSounds,
  ) {
    this.groups = groupsByName(files);
    this.activity = files.map((f) => f.sketch && activityOf(f.sketch, f.startSeconds));
    this.timbres = files.map((f) => f.sketch && timbreOf(f.sketch));
    this.risesOf = risesAlike(files.map((f) => f.sketch ?? { frames: 0, levels: new Uint8Array(0) }));
  }

  async find(): Promise<TakesOfDelivery> {
    for (const { files, words, isPlaces } of this.groups.together)
      this.together.push({ files, reason: { kind: isPlaces ? 'microphone-names' : 'names', words } });
    const { progress } = this.sounds;
    for (const [i, group] of this.groups.takes.entries()) {
      await this.tellNamed([...group, ...(await this.compsOf(group))]);
      progress((NAMED_SHARE * (i + 1)) / this.groups.takes.length);
    }
    for (const members of await this.openComponents()) await this.tellOpen(members);
    return { takes: this.takes, together: this.together, questions: this.questions };
  }

  /** What was put together of takes may be called otherwise: it has their samples. */
  private async compsOf(group: readonly number[]): Promise<number[]> {
    const found: number[] = [];
    for (const k of this.undecided()) {
      if (!group.some((g) => this.mayBeOnePart(g, k))) continue;
      for (const g of group) {
        if (this.risesOf(g, k) < LEAST_RISES || (await this.relation(g, k)).kind !== 'copies') continue;
        found.push(k);
        this.comps.add(k);
        break;
      }
    }
    return found;
  }

  /** What names say are takes: unless the sound says otherwise. */
  private async tellNamed(group: readonly number[]): Promise<void> {
    const [first] = group as readonly [number];
    const against = new Set<'harmony' | 'octave' | 'microphones'>();
    for (const k of group.slice(1)) {
      const { kind } = await this.relation(first, k);
      if (kind === 'harmony' || kind === 'octave' || kind === 'microphones') against.add(kind);
    }
    // A comp has the samples of its sources: a mix cannot tell them apart.
    const comps = group.filter((k) => this.comps.has(k) || this.groups.names[k]?.says?.as === 'comp');
    const says = await this.mixSays(group.filter((k) => !comps.includes(k)));
    const [sound] = against;
    if (sound !== undefined || says.kind === 'together') {
      this.questions.push({ files: group, question: { kind: 'names-against', sound: sound ?? 'mix' } });
      return;
    }
    const names = group.filter((k) => !this.comps.has(k)).map((k) => this.groups.names[k]);
    const words = names.flatMap((n) => n?.says?.text ?? []);
    const isPunch = names.every((n) => n?.says === null || n?.says.as === 'punch');
    this.pack(
      group,
      { kind: isPunch ? 'punch-names' : 'names', words },
      SURE.names,
      comps.at(-1) ?? wantedBy(says),
    );
  }

  private pack(
    group: readonly number[],
    reason: TakeReason,
    confidence: number,
    wanted: number | null,
  ): void {
    const used = new Set<number>();
    const free = (from: number): number => {
      let n = from;
      while (used.has(n)) n++;
      return n;
    };
    const told = group.map(
      (file) => this.groups.names[file]?.take ?? this.groups.names[file]?.number ?? null,
    );
    for (const n of told) if (n !== null) used.add(n);
    const seen = new Set<number>();
    const lanes = group.map((file, i) => {
      const own = told[i] ?? null;
      const number = own !== null && !seen.has(own) ? own : free(1);
      used.add(number);
      seen.add(number);
      return { file, number, confidence };
    });
    const isInTurn = reason.kind === 'punch-names' || reason.kind === 'stamps';
    this.takes.push({ lanes, wanted, pieces: isInTurn ? turnPieces(group, this.activity) : null, reason });
  }

  /** Files that no name settles, in groups that their sound ties together. */
  private async openComponents(): Promise<number[][]> {
    const pairs = this.openPairs();
    const tied = new Map<number, number>();
    const headOf = (k: number): number => {
      const up = tied.get(k) ?? k;
      return up === k ? k : headOf(up);
    };
    for (const [i, [a, b]] of pairs.entries()) {
      const { kind } = await this.relation(a, b);
      this.sounds.progress(NAMED_SHARE + ((1 - NAMED_SHARE) * (i + 1)) / pairs.length);
      if (kind === 'other' || (kind === 'one-after-another' && !(await this.mayFollow(a, b)))) continue;
      tied.set(headOf(a), headOf(b));
    }
    const components = new Map<number, number[]>();
    for (const k of new Set(pairs.flat()))
      components.set(headOf(k), [...(components.get(headOf(k)) ?? []), k]);
    return [...components.values()].filter((c) => c.length > 1).map((c) => c.sort((a, b) => a - b));
  }

  /** Both are called the same but for a number. */
  private isOneName(a: number, b: number): boolean {
    return this.groups.open.some((g) => g.includes(a) && g.includes(b)) && !this.isSilent(a);
  }

  /** Whether two that follow one another may be one part: called the same, or single voices of one sound whose names say nothing. */
  private async mayFollow(a: number, b: number): Promise<boolean> {
    if (this.isOneName(a, b)) return true;
    if (!this.isSilent(a) || !this.isSilent(b) || this.apart(a, b) > SAME_VOICE_DB) return false;
    return (await this.isSingleVoice(a)) && (await this.isSingleVoice(b));
  }

  private async isSingleVoice(k: number): Promise<boolean> {
    const line = await this.lineOf(k);
    const voiced = line.reduce((n, p) => n + (Number.isNaN(p) ? 0 : 1), 0) / PITCHES_PER_SECOND;
    return voiced > (SINGLE_VOICE * (this.activity[k]?.count ?? 0)) / SKETCH_PER_SECOND;
  }

  /** How far two are apart in timbre, dB. */
  private apart(a: number, b: number): number {
    return timbreDistance(this.timbres[a] ?? null, this.timbres[b] ?? null);
  }

  private isSilent(k: number): boolean {
    return this.files[k]?.isSilent === true;
  }

  /** What names settle nothing of, and that can have takes. */
  private undecided(): number[] {
    const settled = new Set([
      ...this.groups.takes.flat(),
      ...this.groups.together.flatMap((t) => t.files),
      ...this.comps,
    ]);
    return this.files.flatMap((f, k) =>
      settled.has(k) || f.sketch === null || APART.has(f.family) ? [] : [k],
    );
  }

  /** Pairs that are looked at: of one name, and of one kind where the rises go together. */
  private openPairs(): (readonly [number, number])[] {
    const single = this.undecided();
    const alike = this.risesOf;
    const found = single.flatMap((a, i) =>
      single.slice(i + 1).flatMap((b) => {
        if (this.isOneName(a, b)) return [{ a, b, score: 1 + alike(a, b) }];
        if (!this.mayBeOnePart(a, b)) return [];
        const score = alike(a, b);
        const least = this.apart(a, b) > FAR_TIMBRE_DB ? MUCH_RISES : LEAST_RISES;
        return score > least || this.isInTurn(a, b) ? [{ a, b, score }] : [];
      }),
    );
    return found
      .sort((p, q) => q.score - p.score)
      .slice(0, MOST_PAIRS)
      .map(({ a, b }) => [a, b] as const);
  }

  /** Whether two could be one part by what is known of them. */
  private mayBeOnePart(a: number, b: number): boolean {
    const [x, y] = [this.files[a] as TakeFile, this.files[b] as TakeFile];
    // Of two whose names say nothing the ear may say two things.
    if ((x.isSilent && y.isSilent) || x.family === 'unknown' || y.family === 'unknown') return true;
    return x.family === y.family && x.part === y.part;
  }

  /** Names that say nothing, and one rests where the other sounds. */
  private isInTurn(a: number, b: number): boolean {
    const [x, y] = [this.activity[a], this.activity[b]];
    const overlap = this.isSilent(a) && this.isSilent(b) && x && y ? overlapOf(x, y) : null;
    return overlap !== null && overlap < AFTER;
  }

  private relation(a: number, b: number): Promise<PairRelation> {
    const key = `${a} ${b}`;
    const known = this.relations.get(key) ?? this.look(a, b);
    this.relations.set(key, known);
    return known;
  }

  private async look(a: number, b: number): Promise<PairRelation> {
    const [x, y] = [this.files[a], this.files[b]];
    const [activeA, activeB] = [this.activity[a], this.activity[b]];
    if (!x?.sketch || !y?.sketch || !activeA || !activeB) return { kind: 'other' };
    const overlap = overlapOf(activeA, activeB);
    if (overlap === null || overlap < AFTER)
      return pairRelation({ overlap, lines: null, waves: null, likeness: null });
    const near: Likeness | null = x.startSeconds === y.startSeconds ? likeness(x.sketch, y.sketch, 0) : null;
    return pairRelation({
      overlap,
      waves: await this.sounds.waves(a, b),
      lines: lineRelation(await this.lineOf(a), await this.lineOf(b)),
      likeness: this.apart(a, b) < SAME_SOURCE_DB ? (near?.correlation ?? null) : null,
    });
  }

  private async lineOf(k: number): Promise<PitchLine> {
    const known = this.lines.get(k) ?? this.sounds.line(k);
    this.lines.set(k, known);
    const line = await known;
    const start = Math.round((this.files[k]?.startSeconds ?? 0) * PITCHES_PER_SECOND);
    if (start === 0) return line;
    const placed = new Float32Array(start + line.length).fill(NaN);
    placed.set(line, start);
    return placed;
  }

  private async mixSays(group: readonly number[]): Promise<MixSays | NotAsked> {
    const windows = await this.sounds.mix();
    return windows ? askMix(group, windows, this.activity) : { kind: 'not-asked' };
  }

  /** Tells what a group is that only the sound ties together. */
  private async tellOpen(members: readonly number[]): Promise<void> {
    const ties = await this.tiesIn(members);
    const of = (kind: PairRelation['kind']) => ties.filter((t) => t.relation.kind === kind);
    for (const { a, b, relation } of ties) {
      const reason = togetherOf(relation);
      if (reason) this.together.push({ files: [a, b], reason });
    }
    for (const line of componentsOf(of('copies'))) this.tellCopies(line, ties);
    const packed = new Set(this.takes.flatMap((t) => t.lanes.map((l) => l.file)));
    for (const line of componentsOf(of('same-line').filter(({ a, b }) => !packed.has(a) && !packed.has(b))))
      await this.tellLine(line);
    const rest = of('one-after-another').filter(
      ({ a, b }) =>
        !ties.some(
          (t) => t.relation.kind !== 'one-after-another' && [a, b].some((k) => k === t.a || k === t.b),
        ),
    );
    for (const line of componentsOf(rest)) this.tellInTurn(line);
  }

  private async tiesIn(members: readonly number[]): Promise<Tie[]> {
    const ties: Tie[] = [];
    for (const [i, a] of members.entries())
      for (const b of members.slice(i + 1)) {
        if (!this.relations.has(`${a} ${b}`)) continue;
        const relation = await this.relation(a, b);
        if (relation.kind !== 'other') ties.push({ a, b, relation });
      }
    return ties;
  }

  /** The one that is tied to most by copies is put together from the others. */
  private tellCopies(line: readonly number[], ties: readonly Tie[]): void {
    const weight = (k: number): number =>
      ties.reduce(
        (sum, t) => sum + (t.relation.kind === 'copies' && (t.a === k || t.b === k) ? t.relation.share : 0),
        0,
      );
    const comp = [...line].sort((a, b) => weight(b) - weight(a))[0] as number;
    const sources = line.filter((k) => k !== comp);
    // Takes of the same line that gave nothing to it.
    const more = ties.flatMap(({ a, b, relation }) =>
      relation.kind === 'same-line' ? (line.includes(a) ? [b] : line.includes(b) ? [a] : []) : [],
    );
    const unused = [...new Set(more)].filter((k) => !line.includes(k));
    const name = (k: number): string => this.files[k]?.name ?? '';
    this.pack(
      [...sources, ...unused, comp],
      { kind: 'copies', comp: name(comp), sources: sources.map(name) },
      SURE.copies,
      comp,
    );
  }

  private async tellLine(line: readonly number[]): Promise<void> {
    const says = await this.mixSays(line);
    const name = (k: number): string => this.files[k]?.name ?? '';
    if (says.kind === 'one')
      this.pack(line, { kind: 'mix-one', wanted: name(says.file) }, 0.9 * says.sure + 0.05, says.file);
    else if (says.kind === 'in-turn')
      this.pack(line, { kind: 'mix-in-turn', files: says.files.map(name) }, 0.9 * says.sure, null);
    else if (says.kind === 'together' && says.files.length === line.length)
      this.together.push({ files: line, reason: { kind: 'mix', files: says.files.map(name) } });
    else
      this.questions.push({
        files: line,
        question: {
          kind: 'same-line',
          because: this.becauseOf(says),
        },
      });
  }

  private becauseOf({ kind }: MixSays | NotAsked): SameLine['because'] {
    if (kind === 'not-asked') return this.sounds.hasMix ? 'mix-unfit' : 'no-mix';
    return kind === 'none' ? 'mix-has-none' : 'mix-unclear';
  }

  private tellInTurn(line: readonly number[]): void {
    const starts = new Set(line.map((k) => this.files[k]?.startSeconds));
    const isOneSource = line.every((k) => k === line[0] || this.isOneName(line[0] as number, k));
    if (isOneSource && starts.size === line.length) this.pack(line, { kind: 'stamps' }, SURE.stamps, null);
    else this.questions.push({ files: line, question: { kind: 'one-after-another' } });
  }
}

/** Families whose parts are many sounds of one player, or none. */
const APART: ReadonlySet<Family> = new Set<Family>([
  'drums',
  'percussion',
  'mains',
  'effects',
  'reference',
  'click',
]);

interface Tie {
  readonly a: number;
  readonly b: number;
  readonly relation: PairRelation;
}

/** There is no mix that could be asked. */
type NotAsked = { readonly kind: 'not-asked' };
type SameLine = Extract<TakeQuestion, { readonly kind: 'same-line' }>;

const wantedBy = (says: MixSays | NotAsked): number | null => (says.kind === 'one' ? says.file : null);

function togetherOf(relation: PairRelation): TogetherReason | null {
  switch (relation.kind) {
    case 'harmony':
    case 'octave':
      return { kind: relation.kind, share: relation.share };
    case 'microphones':
      return { kind: 'microphones', correlation: relation.correlation };
    case 'same-recording':
      return { kind: 'same-recording' };
    default:
      return null;
  }
}

/** Groups that ties hold together. */
function componentsOf(ties: readonly Tie[]): number[][] {
  const groups: Set<number>[] = [];
  for (const { a, b } of ties) {
    const own = groups.filter((g) => g.has(a) || g.has(b));
    const joined = new Set([a, b, ...own.flatMap((g) => [...g])]);
    for (const g of own) groups.splice(groups.indexOf(g), 1);
    groups.push(joined);
  }
  return groups.map((g) => [...g].sort((a, b) => a - b));
}
