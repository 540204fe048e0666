/** All files of a drop, folders taken apart; the path inside the folder stays readable in `webkitRelativePath`. */
export async function filesOfDrop(transfer: DataTransfer): Promise<File[]> {
  const entries = [...transfer.items].map((i) => i.webkitGetAsEntry()).filter((e) => e !== null);
  if (entries.length === 0) return [...transfer.files];
  return (await Promise.all(entries.map((e) => walk(e, 0)))).flat();
}

const DEEPEST = 12;

async function walk(entry: FileSystemEntry, depth: number): Promise<File[]> {
  if (depth > DEEPEST) return [];
  if (entry.isFile) {
    const file = await new Promise<File | null>((resolve) =>
      (entry as FileSystemFileEntry).file(resolve, () => resolve(null)),
    );
    if (!file) return [];
    const path = entry.fullPath.replace(/^\//, '');
    if (path !== file.name) Object.defineProperty(file, 'webkitRelativePath', { value: path });
    return [file];
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const files: File[] = [];
  for (;;) {
    // Browsers hand out folders in portions of a hundred.
    const batch = await new Promise<FileSystemEntry[]>((resolve) =>
      reader.readEntries(resolve, () => resolve([])),
    );
    if (batch.length === 0) return files;
    for (const e of batch) files.push(...(await walk(e, depth + 1)));
  }
}
