import { readFileSync } from 'node:fs';
import { displayName, numberDoubles, readNames } from '@/core/naming';
import { fileNameFor } from '@/core/style';
import { type Arguments, print } from './arguments';

/** `names`: what the words of file names say, delivery by delivery. */
export async function commandNames(args: Arguments): Promise<number> {
  const text = readFileSync(args.words[0] ?? 0, 'utf8');
  const deliveries = text.replace(/\r\n/g, '\n').split(/\n[ \t]*\n/).map((d) => d.split('\n').filter((l) => l.trim() !== '')).filter((d) => d.length > 0);
  const rows = deliveries.flatMap((inputs) => {
    const readings = readNames(inputs, args.style.words);
    const names = numberDoubles(readings.map((r) => displayName(r) ?? r.input));
    return readings.map((r, i) => {
      const name = names[i] as string;
      return { input: r.input, name, fileName: fileNameFor(args.style, { name, family: r.family }), family: r.family, part: r.part, role: r.role, position: r.position, side: r.side, number: r.number, take: r.take, confidence: r.confidence, evidence: r.evidence };
    });
  });
  print(args.json, rows, [['input', 'name', 'file name', 'family', 'part', 'sure'], ...rows.map((r) => [r.input, r.name, r.fileName, r.family, r.part, r.confidence.toFixed(2)])]);
  return rows.some((r) => r.confidence < 0.7) ? 1 : 0;
}
