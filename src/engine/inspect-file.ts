import { createHash } from 'node:crypto';
import {
  ArrivalAnalysis,
  type ArrivalFacts,
  BandLevelAnalysis,
  type BandLevels,
  OnsetAnalysis,
  TruePeakMeter,
} from '@/core/analysis';
import {
  readSoundBlocks,
  readSoundHeader,
  readSoundMetadata,
  type SoundFault,
  type SoundHeader,
  type SoundMetadata,
} from '@/core/audio';
import { err, ok, type CancelSignal, type ProgressSink, type Result } from '@/core/units';
import { fileSource } from './files';
import { listened, type Listening } from './listen-file';

/** Everything the passes over one file found. */
export interface Inspection {
  readonly header: SoundHeader;
  readonly metadata: SoundMetadata;
  readonly sha256: string;
  readonly sizeBytes: number;
  readonly facts: ArrivalFacts;
  /** Waveform blob, see `core/analysis`. */
  readonly peaks: Uint8Array;
  /** dBTP; null unless asked for. */
  readonly truePeakDbtp: number | null;
  /** Null unless asked for. */
  readonly listening: Omit<Listening, 'levels' | 'truePeakDbtp'> | null;
  /** Null unless asked for. */
  readonly levels: BandLevels | null;
}

/** What to do beyond hash, facts and waveform. */
export interface InspectionOptions {
  readonly truePeak?: boolean;
  readonly listen?: boolean;
  readonly levels?: boolean;
  readonly cancel?: CancelSignal;
  readonly progress?: ProgressSink;
}

/** Reads a sound file once from end to end, with bounded memory, hashing every byte on the way. */
export async function inspectFile(
  path: string,
  options: InspectionOptions = {},
): Promise<Result<Inspection, SoundFault>> {
  const file = await fileSource(path);
  try {
    const source = file.bytes;
    const parsed = await readSoundHeader(source);
    if (!parsed.ok) return err(parsed.error);
    const header = parsed.value;
    const arrival = new ArrivalAnalysis(header.sampleRateHz, header.channels);
    const truePeak = options.truePeak ? new TruePeakMeter(header.sampleRateHz, header.channels) : null;
    const listening = options.listen ? new OnsetAnalysis(header.sampleRateHz) : null;
    const levels = options.levels ? new BandLevelAnalysis(header.sampleRateHz, header.channels) : null;
    const hash = createHash('sha256');
    let hashed = 0;
    // One read serves both: the blocks ask for bytes in order, and what lies between is read for the hash alone.
    const hashUpTo = async (end: number): Promise<void> => {
      while (hashed < end) {
        const bytes = await source.read(hashed, Math.min(1 << 20, end - hashed));
        if (bytes.length === 0) return;
        hash.update(bytes);
        hashed += bytes.length;
      }
    };
    const tapped = {
      sizeBytes: source.sizeBytes,
      async read(offset: number, length: number): Promise<Uint8Array> {
        await hashUpTo(offset);
        const bytes = await source.read(offset, length);
        if (offset === hashed) {
          hash.update(bytes);
          hashed += bytes.length;
        }
        return bytes;
      },
    };
    const passes = [arrival, truePeak, listening, levels].filter((pass) => pass !== null);
    for await (const block of readSoundBlocks(tapped, header, { cancel: options.cancel, reuse: true })) {
      for (const pass of passes) pass.push(block.channels);
      options.progress?.((block.startFrames + (block.channels[0]?.length ?? 0)) / header.lengthFrames);
    }
    await hashUpTo(source.sizeBytes);
    const { facts, peaks } = arrival.finish();
    return ok({
      header,
      metadata: await readSoundMetadata(source),
      sha256: hash.digest('hex'),
      sizeBytes: source.sizeBytes,
      facts,
      peaks,
      truePeakDbtp: truePeak ? truePeak.truePeakDbtp() : null,
      listening: listening ? listened(listening) : null,
      levels: levels ? levels.finish() : null,
    });
  } finally {
    await file.close();
  }
}
