/** A received name as the folders that tell it from the others, and the file itself. */
export interface DifferingPath {
  /** With a slash at its end; empty when there are none. */
  readonly folder: string;
  readonly file: string;
}

/** Leaves out the folders that all names share: what differs is what one looks for. Reference: the longest common run of whole folders. */
export function differingPath(names: readonly string[]): (name: string) => DifferingPath {
  const foldersOf = (name: string): string[] => name.split('/').slice(0, -1);
  const [first = [], ...others] = names.map(foldersOf);
  let shared = first.length;
  for (const folders of others) {
    let same = 0;
    while (same < shared && folders[same] === first[same]) same++;
    shared = same;
  }
  return (name) => {
    const parts = name.split('/');
    const folder = parts.slice(shared, -1).join('/');
    return { folder: folder === '' ? '' : `${folder}/`, file: parts.at(-1) ?? name };
  };
}
