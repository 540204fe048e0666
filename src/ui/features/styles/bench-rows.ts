import type { SessionView } from '@/contracts';
import type { Family } from '@/core/naming';
import { isTrack } from '@/core/session';
import { type HouseStyle, nameOfReturn, treeOf, triedBy } from '@/core/style';
import { knownNames, proposalWith } from '@/ui/client';

/** What a style makes of one name or track. */
export interface BenchRow {
  readonly input: string;
  readonly name: string;
  readonly family: Family;
  readonly part: string | null;
  readonly color: string;
  /** Folders from the outermost, as one text. */
  readonly folder: string;
  readonly rules: readonly string[];
  /** Returns it sends to from the start. */
  readonly sends: readonly string[];
  readonly isDoubtful: boolean;
}

/** What a style is tried on: the tracks of a session, or names. */
export type BenchMaterial = { readonly view: SessionView } | { readonly names: readonly string[] };

const DOUBTFUL_BELOW = 0.7;

/** What a style makes of the material, in its order, and which rules met what. */
export function benchRows(
  style: HouseStyle,
  material: BenchMaterial,
): { readonly rows: readonly BenchRow[]; readonly hits: ReadonlyMap<string, readonly string[]> } {
  const hits = new Map<string, string[]>();
  if ('names' in material) {
    const rows = triedBy(knownNames().read(material.names, style.words, style.junk), style).map(
      (t): BenchRow => ({
        input: t.input,
        name: t.name,
        family: t.family,
        part: t.part,
        color: t.color,
        folder: t.folders.join(' / '),
        rules: t.rules,
        sends: t.sends,
        isDoubtful: t.confidence < DOUBTFUL_BELOW,
      }),
    );
    rows.forEach((r, i) => {
      for (const rule of r.rules) hits.set(rule, [...(hits.get(rule) ?? []), String(i)]);
    });
    return { rows, hits };
  }
  const { view } = material;
  const proposal = proposalWith(view, style);
  const tree = treeOf(style);
  const rulesOf = new Map<string, string[]>();
  for (const [rule, ids] of proposal.hits)
    for (const id of ids) rulesOf.set(id, [...(rulesOf.get(id) ?? []), rule]);
  const rows = proposal.rows.flatMap((r): BenchRow[] => {
    const track = view.session.nodes[r.trackId];
    const folder = tree.get(r.folderKey);
    return isTrack(track)
      ? [
          {
            input: track.receivedName,
            name: r.name,
            family: r.family,
            part: r.fields.part === undefined ? track.part : r.fields.part,
            color: r.fields.color ?? track.color ?? style.colors.unknown,
            folder: folder
              ? tree
                  .pathOf(folder)
                  .map((f) => f.name)
                  .join(' / ')
              : '',
            rules: rulesOf.get(r.trackId) ?? [],
            sends: (r.fields.sends ?? track.sends).flatMap(
              (s) => nameOfReturn(style, s.busId) ?? view.session.buses[s.busId]?.name ?? [],
            ),
            isDoubtful: r.group !== 'certain',
          },
        ]
      : [];
  });
  return { rows, hits: proposal.hits };
}

/** What differs between two rows of one name, in words; empty = nothing. */
export function rowChanges(before: BenchRow | undefined, after: BenchRow): string[] {
  if (!before) return [];
  return [
    before.name === after.name ? '' : `was ${before.name}`,
    before.family === after.family && before.part === after.part
      ? ''
      : `was ${before.family.replaceAll('-', ' ')}${before.part ? ` · ${before.part.replaceAll('-', ' ')}` : ''}`,
    before.folder === after.folder ? '' : `was in ${before.folder || 'no folder'}`,
    before.color === after.color ? '' : 'another colour',
    before.sends.join() === after.sends.join()
      ? ''
      : after.sends.length === 0
        ? 'sends nothing more'
        : `sends to ${after.sends.join(', ')}`,
  ].filter((x) => x !== '');
}
