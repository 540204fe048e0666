import { isSoundFileName } from '@/core/naming';

/** The files of one song in a delivery of several. */
export interface SongFiles {
  /** Its folder. */
  readonly name: string;
  readonly files: readonly File[];
}

/** Fewer files make no song of their own. */
const LEAST = 3;
const pathOf = (file: File): string[] => (file.webkitRelativePath || file.name).split('/');

/**
 * The songs of a delivery with a folder a song: where two folders or more, side by side, each hold three recordings or more and none lie beside them.
 * Deeper folders (Drums, Vocals) belong to their song. Null when it is one song. `project` is the folder around them, empty when there is none.
 */
export function songsOf(
  files: readonly File[],
): { readonly project: string; readonly songs: readonly SongFiles[] } | null {
  const sounds = files.filter((f) => isSoundFileName(f.name));
  for (let depth = 0; depth < 4; depth++) {
    const folders = new Map<string, File[]>();
    for (const f of files) {
      const path = pathOf(f);
      if (path.length > depth + 1)
        folders.set(path.slice(0, depth + 1).join('/'), [
          ...(folders.get(path.slice(0, depth + 1).join('/')) ?? []),
          f,
        ]);
    }
    const inside = [...folders.values()].reduce(
      (n, list) => n + list.filter((f) => isSoundFileName(f.name)).length,
      0,
    );
    // Recordings beside the folders: these are parts of one song.
    if (inside < sounds.length) return null;
    if (folders.size === 1) continue;
    const songs = [...folders]
      .map(([path, list]) => ({ name: path.split('/').at(-1) ?? path, files: list }))
      .sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));
    const parents = new Set([...folders.keys()].map((p) => p.split('/').slice(0, -1).join('/')));
    const whole = songs.every((s) => s.files.filter((f) => isSoundFileName(f.name)).length >= LEAST);
    return songs.length > 1 && whole && parents.size === 1 && !songs.some((s) => PARTS.test(s.name))
      ? { project: [...parents][0]?.split('/').at(-1) ?? '', songs }
      : null;
  }
  return null;
}

/** Folders named after instruments or kinds of file are parts of one song. */
const PARTS =
  /^(\d+[ _.-]*)?(drums?|perc(ussion)?|bass|guitars?|gtrs?|keys?|synths?|strings?|brass|winds?|horns?|vocals?|vox|backing vocals?|bvs?|lead vocals?|fx|effects?|audio( files)?|stems?|wavs?|multitracks?|tracks?|ref(erence)?s?|mixes|rough mix(es)?|midi)$/i;
