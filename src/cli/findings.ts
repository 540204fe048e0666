import { basename } from 'node:path';
import {
  collectFindings,
  fileFindings,
  type Finding,
  findingDetail,
  findingMeans,
  findingTitle,
  type KnownFile,
  type Relations,
} from '@/core/findings';
import { readNames } from '@/core/naming';
import type { InspectedSound } from './sound-files';

/** Something noticed, as the command line says it. */
export interface PrintedFinding {
  readonly code: string;
  readonly severity: Finding['severity'];
  readonly text: string;
  readonly [fact: string]: unknown;
}

/** The usable sounds of a call with all that is known of them; their ids are the files as given. */
export function heardFiles(sounds: readonly InspectedSound[]): KnownFile[] {
  const names = readNames(sounds.map((s) => basename(s.file)));
  return sounds.flatMap(({ file, sha256, about, outcome }, i): KnownFile[] => {
    const source = names[i];
    if (!outcome.ok || !source || sha256 === null) return [];
    const { header, facts, metadata, truePeakDbtp } = outcome.value;
    const complaint = about?.complaint ? [{ code: 'sound.damaged', reason: about.complaint } as const] : [];
    return [
      {
        id: file,
        receivedName: basename(file),
        settled: false,
        sha256,
        sampleRateHz: header.sampleRateHz,
        channels: header.channels,
        bitDepth: header.bitDepth,
        encoding: header.encoding,
        lengthFrames: header.lengthFrames,
        lossy: about?.lossy ?? false,
        metadata: about?.metadata ?? metadata,
        warnings: [...header.warnings, ...complaint],
        facts,
        truePeakDbtp,
        heard: outcome.value.listening?.heard ?? null,
        source,
      },
    ];
  });
}

/** What is noticed about one file alone. */
export const printFileFindings = (file: KnownFile): PrintedFinding[] =>
  fileFindings(file).flatMap((f) =>
    f.files.map((p) => ({
      ...p.figures,
      ...(p.places.length > 0 ? { places: p.places } : {}),
      code: f.code,
      severity: f.severity,
      text: words(f, findingDetail(f.code, p)),
    })),
  );

/** What is noticed about a delivery, equal findings of many files as one. */
export const printDeliveryFindings = (files: readonly KnownFile[], relations: Relations): PrintedFinding[] =>
  collectFindings(files, relations).open.map((f) => ({
    code: f.code,
    severity: f.severity,
    text: words(f, ''),
    files: f.files.map((p) => ({ file: p.id, other: p.other, ...p.figures })),
  }));

const words = (f: Finding, detail: string): string =>
  `${findingTitle(f.code)}${detail ? ` (${detail})` : ''}. ${findingMeans(f.code)}`;
