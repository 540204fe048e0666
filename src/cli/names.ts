import { readFileSync } from 'node:fs';
import { tryNames } from '@/core/style';
import { type Arguments, print } from './arguments';

/** `names`: what the words of file names say, delivery by delivery. */
export async function commandNames(args: Arguments): Promise<number> {
  const text = readFileSync(args.words[0] ?? 0, 'utf8');
  const deliveries = text
    .replace(/\r\n/g, '\n')
    .split(/\n[ \t]*\n/)
    .map((d) => d.split('\n').filter((l) => l.trim() !== ''))
    .filter((d) => d.length > 0);
  const rows = deliveries.flatMap((inputs) => tryNames(inputs, args.style));
  print(args.json, rows, [
    ['input', 'name', 'file name', 'family', 'part', 'sure'],
    ...rows.map((r) => [r.input, r.name, r.fileName, r.family, r.part, r.confidence.toFixed(2)]),
  ]);
  return rows.some((r) => r.confidence < 0.7) ? 1 : 0;
}
