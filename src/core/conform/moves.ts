import type { CopySegment, EditList } from './edit-list';
import type { Warp } from './warp';

/** A stretch of the source with sound in it, frames. */
export interface SoundRegion {
  readonly from: number;
  readonly to: number;
}

const FADE_SECONDS = 0.004;

/** Moves every region of sound to where its beginning goes, as it is: nothing is stretched. A region that would run into the next is faded out there. */
export function planMoves(input: {
  readonly regions: readonly SoundRegion[];
  readonly warp: Warp;
  readonly sampleRateHz: number;
  readonly outputFrames: number;
}): EditList {
  const { warp, sampleRateHz, outputFrames } = input;
  const segments: CopySegment[] = [{ at: 0, source: null, fade: 0 }];
  const fade = Math.round(FADE_SECONDS * sampleRateHz);
  for (const { from, to } of input.regions) {
    const at = Math.round(warp.toConformed(from / sampleRateHz) * sampleRateHz);
    const lost = Math.max(0, -at);
    const last = segments.at(-1) as CopySegment;
    if (at >= outputFrames || lost >= to - from) continue;
    if (last.at > at && last.source === null) segments.pop();
    segments.push({
      at: at + lost,
      source: from + lost,
      fade: Math.min(fade, at + lost - (segments.at(-1)?.at ?? 0)),
    });
    segments.push({ at: Math.min(outputFrames, at + to - from), source: null, fade: 0 });
  }
  return {
    segments: segments[0]?.at === 0 ? segments : [{ at: 0, source: null, fade: 0 }, ...segments],
    frames: outputFrames,
  };
}

/** Regions of sound from levels in steps of `stepFrames`: louder than `floor`, gaps shorter than `gapSteps` closed, one step kept before each. */
export function soundRegions(
  levels: readonly number[],
  options: {
    readonly stepFrames: number;
    readonly floor: number;
    readonly gapSteps: number;
    readonly totalFrames: number;
  },
): SoundRegion[] {
  const out: { from: number; to: number }[] = [];
  levels.forEach((level, k) => {
    if (level <= options.floor) return;
    const last = out.at(-1);
    if (last && k - last.to <= options.gapSteps) last.to = k + 1;
    else out.push({ from: Math.max(0, k - 1), to: k + 1 });
  });
  return out.map((r) => ({
    from: r.from * options.stepFrames,
    to: Math.min(options.totalFrames, (r.to + 1) * options.stepFrames),
  }));
}
