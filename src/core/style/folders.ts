import type { Family } from '../naming';
import { meets, type RowKind, type Subject } from './conditions';
import type { FolderRule, HouseStyle } from './house-style';
import { runRules } from './rules';

/** Id of the folder a rule makes in a session. */
export const folderId = (key: string): string => `folder-${key}`;
/** Id of its sum bus. */
export const busId = (key: string): string => `bus-${key}`;
/** Made by a style, whichever; those made by hand are called `folder-own-…`. */
export const isStyleFolder = (id: string): boolean =>
  id.startsWith('folder-') && !id.startsWith('folder-own-');

/** The folders of a style as a tree. */
export class FolderTree {
  readonly #byKey: ReadonlyMap<string, FolderRule>;
  readonly #under: ReadonlyMap<string | null, readonly FolderRule[]>;
  /** What stands in a folder stands before its loose tracks. */
  readonly #rank: ReadonlyMap<string, number>;
  readonly #byFamily: ReadonlyMap<Family, FolderRule>;
  readonly #conditional: readonly (FolderRule & { readonly when: NonNullable<FolderRule['when']> })[];

  constructor({ folders }: Pick<HouseStyle, 'folders'>) {
    this.#byKey = new Map(folders.map((f) => [f.key, f]));
    const under = new Map<string | null, FolderRule[]>();
    for (const f of folders) {
      const parent = this.parentOf(f)?.key ?? null;
      under.set(parent, [...(under.get(parent) ?? []), f]);
    }
    this.#under = under;
    const rank = new Map<string, number>();
    const walk = (parent: string | null): void => {
      for (const f of under.get(parent) ?? []) {
        walk(f.key);
        rank.set(f.key, rank.size);
      }
    };
    walk(null);
    this.#rank = rank;
    this.#byFamily = new Map(
      [...folders].reverse().flatMap((f) => f.families.map((family) => [family, f] as const)),
    );
    this.#conditional = folders.flatMap((f) => (f.when === null ? [] : [{ ...f, when: f.when }]));
  }

  get(key: string | null): FolderRule | null {
    return key === null ? null : (this.#byKey.get(key) ?? null);
  }

  /** The folder a folder stands in; a parent that is not there, or a ring, counts as none. */
  parentOf(f: FolderRule): FolderRule | null {
    const parent = f.parent === null ? undefined : this.#byKey.get(f.parent);
    if (!parent) return null;
    const seen = new Set([f.key]);
    for (
      let at: FolderRule | undefined = parent;
      at;
      at = at.parent === null ? undefined : this.#byKey.get(at.parent)
    ) {
      if (seen.has(at.key)) return null;
      seen.add(at.key);
    }
    return parent;
  }

  /** Folders directly in a folder, in order; null = at the top level. */
  under(key: string | null): readonly FolderRule[] {
    return this.#under.get(key) ?? [];
  }

  /** A folder and all it stands in, outermost first. */
  pathOf(f: FolderRule): FolderRule[] {
    const parent = this.parentOf(f);
    return [...(parent ? this.pathOf(parent) : []), f];
  }

  /** Where a track goes: the first folder whose condition it meets, else that of its family. */
  folderOf(subject: Subject): string | null {
    const found =
      this.#conditional.find((f) => meets(f.when, subject)) ??
      (subject.family === null ? undefined : this.#byFamily.get(subject.family));
    return found?.key ?? null;
  }

  /** Folders that are made for tracks wanted in these: one with too few tracks gives them to the folder it stands in. */
  settle(wanted: readonly (string | null)[]): (FolderRule | null)[] {
    const at = wanted.map((key) => this.get(key));
    const inside = (f: FolderRule): number =>
      at.reduce((n, x) => n + (x && this.pathOf(x).includes(f) ? 1 : 0), 0);
    // Innermost first: what leaves a folder counts for the one around it.
    for (const key of this.#rank.keys()) {
      const f = this.#byKey.get(key) as FolderRule;
      if (f.atLeast > 1 && inside(f) < f.atLeast)
        at.forEach((x, i) => {
          if (x === f) at[i] = this.parentOf(f);
        });
    }
    return at;
  }

  /** The sum a folder's tracks feed; null = the mix bus. */
  busOf(f: FolderRule | null): string | null {
    for (let at = f; at; at = this.parentOf(at)) if (at.bus !== null) return at.key;
    return null;
  }

  /** Order of tracks by their folder. Loose ones stand before the last folders that are not summed, where references wait. */
  rankOf(f: FolderRule | null): number {
    return f
      ? (this.#rank.get(f.key) as number)
      : this.trailing()[0]
        ? Math.min(...this.trailing().map((t) => this.#firstRank(t))) - 0.5
        : this.#rank.size;
  }

  /** The folders at the end of the top level that are not summed. */
  trailing(): readonly FolderRule[] {
    const top = this.under(null);
    return top.slice(top.findLastIndex((f) => f.bus !== null) + 1);
  }

  #firstRank(f: FolderRule): number {
    const [first] = this.under(f.key);
    return first ? this.#firstRank(first) : (this.#rank.get(f.key) as number);
  }
}

const trees = new WeakMap<HouseStyle, FolderTree>();

/** The tree of a style; built once. */
export function treeOf(style: HouseStyle): FolderTree {
  const known = trees.get(style) ?? new FolderTree(style);
  trees.set(style, known);
  return known;
}

/** Colour of a folder, and of its sum: a rule's, its own, that of its first family. */
export function folderColor(style: HouseStyle, rule: FolderRule, row: 'folder' | 'bus'): string {
  const color =
    rule.color ?? (rule.families[0] === undefined ? style.colors.unknown : style.colors[rule.families[0]]);
  if (style.rules.length === 0) return color;
  const subject = {
    name: row === 'bus' ? (rule.bus ?? rule.name) : rule.name,
    rows: [row, ...(rule.parent === null ? [] : (['child'] as const))] as RowKind[],
    family: rule.families[0] ?? null,
    part: null,
    role: null,
    position: null,
    channels: null,
    color: color.toLowerCase(),
    findings: [],
    heard: null,
  };
  const aboutRows = style.rules.filter((r) => r.then.color !== undefined);
  return runRules(aboutRows, subject, () => rule.key).result.color ?? color;
}
