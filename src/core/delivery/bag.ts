import { utf8Bytes } from '../units';

/** `bagit.txt` (RFC 8493 §2.1.1). */
export const BAG_DECLARATION = 'BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n';

/** `bag-info.txt`; `day` as yyyy-mm-dd, given from outside. */
export const bagInfo = (facts: {
  readonly day: string;
  readonly octets: number;
  readonly files: number;
  readonly description: string;
}): string =>
  `Bagging-Date: ${facts.day}\nPayload-Oxum: ${facts.octets}.${facts.files}\nExternal-Description: ${facts.description.replace(/\s+/g, ' ')}\nBag-Software-Agent: Fernmoss\n`;

/** Lines of a manifest, sorted by path (by bytes); CR, LF and % in paths are percent-encoded (RFC 8493 §2.1.3). */
export function manifestText(entries: readonly { readonly path: string; readonly sha256: string }[]): string {
  const encode = (path: string): string =>
    path.replace(/%/g, '%25').replace(/\r/g, '%0D').replace(/\n/g, '%0A');
  return [...entries]
    .sort((a, b) => compareBytes(a.path, b.path))
    .map((e) => `${e.sha256}  ${encode(e.path)}\n`)
    .join('');
}

/** Entries of a manifest; lines that are none are returned apart. */
export function parseManifest(text: string): {
  readonly entries: { readonly path: string; readonly sha256: string }[];
  readonly broken: string[];
} {
  const entries: { path: string; sha256: string }[] = [];
  const broken: string[] = [];
  for (const line of text.split(/\r?\n/)) {
    if (line === '') continue;
    const found = /^([0-9a-fA-F]{64})\s+\*?(.+)$/.exec(line);
    if (found)
      entries.push({
        sha256: (found[1] as string).toLowerCase(),
        path: (found[2] as string).replace(/%0D/gi, '\r').replace(/%0A/gi, '\n').replace(/%25/g, '%'),
      });
    else broken.push(line);
  }
  return { entries, broken };
}

function compareBytes(a: string, b: string): number {
  const x = utf8Bytes(a);
  const y = utf8Bytes(b);
  for (let i = 0; i < Math.min(x.length, y.length); i++)
    if (x[i] !== y[i]) return (x[i] as number) - (y[i] as number);
  return x.length - y.length;
}
