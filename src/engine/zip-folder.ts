import { readdir } from 'node:fs/promises';
import { join, relative } from 'node:path';
import { ZipFile } from 'yazl';

/** Streams a folder as a ZIP with one top folder; sound is stored, ZIP64 where needed. Memory does not grow with the folder. */
export async function zipFolder(root: string, topName: string): Promise<NodeJS.ReadableStream> {
  const zip = new ZipFile();
  const entries = await readdir(root, { recursive: true, withFileTypes: true });
  const paths = entries
    .filter((e) => e.isFile())
    .map((e) => relative(root, join(e.parentPath, e.name)))
    .sort();
  for (const path of paths)
    zip.addFile(join(root, path), `${topName}/${path}`, {
      compress: !/\.(wav|dawproject)$/.test(path),
      mtime: new Date('2000-01-01T00:00:00Z'),
      mode: 0o100644,
    });
  zip.end();
  return zip.outputStream;
}
