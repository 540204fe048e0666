import { faultText } from '@/contracts';
import { roundTo } from '@/core/units';
import { type Arguments, CallFault, print } from './arguments';
import { type DeliveredFile, describeDelivery } from './delivery';
import { type FileFinding, findingsOf } from './findings';
import { inspectAll, type InspectOutcome } from './sound-files';

/** `inspect`: facts and findings of each file. */
export async function commandInspect(args: Arguments): Promise<number> {
  if (args.words.length === 0) throw new CallFault('inspect needs at least one file');
  const out: Record<string, unknown>[] = [];
  let problems = false;
  const outcomes = await inspectAll(args.words, { truePeak: true, onsets: false });
  for (const [i, file] of args.words.entries()) {
    const row = describe(file, outcomes[i] as InspectOutcome);
    problems ||= row.findings.length > 0;
    out.push(row);
  }
  if (args.has('session')) out.push(await describeDelivery(out.filter((r) => typeof r.sha256 === 'string') as unknown as DeliveredFile[]));
  print(args.json, out, [['file', 'rate', 'bits', 'ch', 'frames', 'peak dBFS', 'LUFS', 'findings'], ...out.filter((r) => 'file' in r).map((r) => [r.file, r.sampleRateHz, r.bitDepth, r.channels, r.lengthFrames, r.peakDbfs, r.integratedLufs, (r.findings as { code: string }[]).map((f) => f.code).join(' ')])]);
  return problems ? 1 : 0;
}

const maybe = (x: number | null, decimals: number): number | null => (x === null || !Number.isFinite(x) ? null : roundTo(x, decimals));

function describe(file: string, result: InspectOutcome): Record<string, unknown> & { findings: FileFinding[] } {
  const blank = { file, container: null, codec: null, sampleRateHz: null, bitDepth: null, channels: null, lengthFrames: null, sha256: null, peakDbfs: null, truePeakDbtp: null, integratedLufs: null, dcOffset: null, clippedRuns: null, firstSoundSeconds: null, lastSoundSeconds: null, embedded: { timeReferenceFrames: null, tempoClaims: [], markers: [], trackNames: [] } };
  if (!result.ok) return { ...blank, findings: [{ ...result.error, code: result.error.code.replace(/[._]/g, '-'), severity: 'problem', text: faultText(result.error) }] };
  const { header, metadata, facts, sha256, truePeakDbtp } = result.value;
  return {
    ...blank, container: 'wav', codec: header.encoding, sampleRateHz: header.sampleRateHz, bitDepth: header.bitDepth, channels: header.channels, lengthFrames: header.lengthFrames, sha256,
    peakDbfs: maybe(facts.peakDbfs, 2), truePeakDbtp: maybe(truePeakDbtp, 2), integratedLufs: maybe(facts.integratedLufs, 2), dcOffset: roundTo(facts.dcOffset, 6), clippedRuns: facts.clippedRuns, firstSoundSeconds: maybe(facts.firstSoundSeconds, 4), lastSoundSeconds: maybe(facts.lastSoundSeconds, 4),
    embedded: metadata,
    findings: findingsOf(header, facts),
  };
}
