import {
  BandLevelAnalysis,
  type BandLevels,
  type HeardFacts,
  heardFacts,
  type RhythmCurves,
  OnsetAnalysis,
  type SoundSketch,
  TruePeakMeter,
} from '@/core/analysis';
import { readSoundBlocks, readSoundHeader, type SoundFault } from '@/core/audio';
import { err, ok, type ProgressSink, type Result } from '@/core/units';
import { fileSource } from './files';

/** What the listening pass gives. */
export interface Listening {
  readonly onsets: RhythmCurves;
  readonly sketch: SoundSketch;
  readonly heard: HeardFacts;
  readonly levels: BandLevels;
  /** dBTP; null unless asked for. */
  readonly truePeakDbtp: number | null;
}

/** The listening pass alone, over a file whose arrival pass is done; bounded memory. */
export async function listenToFile(
  path: string,
  options: { readonly truePeak: boolean },
  progress?: ProgressSink,
): Promise<Result<Listening, SoundFault>> {
  const file = await fileSource(path);
  try {
    const parsed = await readSoundHeader(file.bytes);
    if (!parsed.ok) return err(parsed.error);
    const { sampleRateHz, channels, lengthFrames } = parsed.value;
    const onsets = new OnsetAnalysis(sampleRateHz);
    const levels = new BandLevelAnalysis(sampleRateHz, channels);
    const truePeak = options.truePeak ? new TruePeakMeter(sampleRateHz, channels) : null;
    for await (const block of readSoundBlocks(file.bytes, parsed.value, { reuse: true })) {
      onsets.push(block.channels);
      levels.push(block.channels);
      truePeak?.push(block.channels);
      progress?.(block.startFrames / lengthFrames);
    }
    return ok({
      ...listened(onsets),
      levels: levels.finish(),
      truePeakDbtp: truePeak ? truePeak.truePeakDbtp() : null,
    });
  } finally {
    await file.close();
  }
}

/** What a finished pass heard. */
export function listened(analysis: OnsetAnalysis): Omit<Listening, 'levels' | 'truePeakDbtp'> {
  const onsets = analysis.finish();
  const sketch = analysis.sketch();
  return { onsets, sketch, heard: heardFacts(onsets, sketch, analysis.pitchWidth()) };
}
