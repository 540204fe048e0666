import { faultText } from '@/contracts';
import type { SoundLikeness } from '@/core/analysis';
import { roundTo } from '@/core/units';
import { type Arguments, CallFault, print } from './arguments';
import { describeDelivery } from './delivery';
import { heardFiles, type PrintedFinding, printFileFindings } from './findings';
import { type InspectedSound, withSounds } from './sound-files';

/** `inspect`: facts and findings of each file. */
export async function commandInspect(args: Arguments): Promise<number> {
  if (args.words.length === 0) throw new CallFault('inspect needs at least one file');
  const out: Record<string, unknown>[] = [];
  let problems = false;
  await withSounds(
    args.words,
    { truePeak: true, listen: args.has('session'), split: false },
    async (sounds) => {
      const heard = heardFiles(sounds);
      for (const sound of sounds) {
        const file = heard.find((h) => h.id === sound.file);
        const row = describe(sound, file ? printFileFindings(file) : []);
        problems ||= row.findings.some((f) => f.severity !== 'note');
        out.push(row);
      }
      if (args.has('session'))
        out.push(
          await describeDelivery(
            heard,
            new Map(sounds.map((s) => [s.file, s.path])),
            new Map(
              sounds.flatMap(({ file, outcome }) =>
                outcome.ok && outcome.value.listening
                  ? [[file, outcome.value.listening.sketch] as const]
                  : [],
              ),
            ),
          ),
        );
    },
  );
  print(args.json, out, [
    ['file', 'rate', 'bits', 'ch', 'frames', 'peak dBFS', 'LUFS', 'findings'],
    ...out
      .filter((r) => 'file' in r)
      .map((r) => [
        r.file,
        r.sampleRateHz,
        r.bitDepth,
        r.channels,
        r.lengthFrames,
        r.peakDbfs,
        r.integratedLufs,
        (r.findings as { code: string }[]).map((f) => f.code).join(' '),
      ]),
  ]);
  return problems ? 1 : 0;
}

const maybe = (x: number | null, decimals: number): number | null =>
  x === null || !Number.isFinite(x) ? null : roundTo(x, decimals);

/** What a file sounds like, as it is printed. */
const heardAsOf = (as: SoundLikeness | null): SoundLikeness | null =>
  as && {
    kind: as.kind,
    confidence: roundTo(as.confidence, 3),
    sounds: (as.sounds ?? []).map((s) => ({ ...s, confidence: roundTo(s.confidence, 3) })),
  };

function describe(
  { file, about, sha256, outcome: result }: InspectedSound,
  findings: PrintedFinding[],
): Record<string, unknown> & { findings: PrintedFinding[] } {
  const blank = {
    file,
    container: null,
    codec: null,
    sampleRateHz: null,
    bitDepth: null,
    channels: null,
    lengthFrames: null,
    sha256: null,
    peakDbfs: null,
    truePeakDbtp: null,
    integratedLufs: null,
    dcOffset: null,
    clippedRuns: null,
    firstSoundSeconds: null,
    lastSoundSeconds: null,
    embedded: { timeReferenceFrames: null, tempoClaims: [], markers: [], trackNames: [], texts: [] },
  };
  if (!result.ok)
    return {
      ...blank,
      findings: [
        {
          ...result.error,
          code: result.error.code.replace(/[._]/g, '-'),
          severity: 'problem',
          text: faultText(result.error),
        },
      ],
    };
  const { header, facts, truePeakDbtp, listening } = result.value;
  const metadata = about?.metadata ?? result.value.metadata;
  return {
    ...blank,
    container: about?.container ?? header.container,
    codec: about?.codec ?? header.encoding,
    lossy: about?.lossy ?? false,
    sampleRateHz: header.sampleRateHz,
    bitDepth: header.bitDepth,
    channels: header.channels,
    lengthFrames: header.lengthFrames,
    sha256,
    peakDbfs: maybe(facts.peakDbfs, 2),
    truePeakDbtp: maybe(truePeakDbtp, 2),
    integratedLufs: maybe(facts.integratedLufs, 2),
    dcOffset: roundTo(facts.dcOffset, 6),
    clippedRuns: facts.clippedRuns,
    firstSoundSeconds: maybe(facts.firstSoundSeconds, 4),
    lastSoundSeconds: maybe(facts.lastSoundSeconds, 4),
    embedded: metadata,
    ...(listening ? { heardAs: heardAsOf(listening.heard.as ?? null) } : {}),
    findings,
  };
}
