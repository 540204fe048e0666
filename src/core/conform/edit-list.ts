/** A stretch of the source copied 1:1 to a place of the output. */
export interface CopySegment {
  /** First frame of the output. */
  readonly at: number;
  /** Frame of the source that sounds there; null = silence from here on. */
  readonly source: number | null;
  /** Frames before `at` over which this one fades in while the one before fades out. */
  readonly fade: number;
}

/** What to copy where: all channels of a group share one list, so nothing moves between them. */
export interface EditList {
  /** In order of `at`; the first begins at 0. */
  readonly segments: readonly CopySegment[];
  /** Length of the output. */
  readonly frames: number;
}

/** Frames of all channels of a group, from anywhere; what lies outside the source is silence. */
export type ReadFrames = (start: number, frames: number) => Promise<readonly Float32Array[]>;

const BLOCK = 65_536;

/** Carries out an edit list, or a part of it (`range`, output frames), in blocks, with bounded memory. Cross-fades are linear: what meets there is nearly alike. */
export async function* renderEditList(
  list: EditList,
  channels: number,
  read: ReadFrames,
  range: { readonly from: number; readonly to: number } = { from: 0, to: list.frames },
): AsyncGenerator<readonly Float32Array[]> {
  let first = 0;
  for (let begin = range.from; begin < range.to; begin += BLOCK) {
    const end = Math.min(range.to, begin + BLOCK);
    const out = Array.from({ length: channels }, () => new Float32Array(end - begin));
    while (first + 1 < list.segments.length && (list.segments[first + 1] as CopySegment).at <= begin) first++;
    const here: Piece[] = [];
    for (let i = first; i < list.segments.length; i++) {
      const piece = pieceOf(list, i, begin, end);
      if (piece) here.push(piece);
      if ((list.segments[i] as CopySegment).at - (list.segments[i] as CopySegment).fade >= end) break;
    }
    const sounding = here.filter((p) => p.source !== null);
    if (sounding.length > 0) {
      // One read serves the whole block: the pieces lie close together in the source. Far jumps are read one by one.
      const low = Math.min(...sounding.map((p) => p.source as number));
      const high = Math.max(...sounding.map((p) => (p.source as number) + p.to - p.from));
      const shared = high - low <= 2 * BLOCK ? { start: low, data: await read(low, high - low) } : null;
      for (const p of sounding) {
        const data = shared?.data ?? (await read(p.source as number, p.to - p.from));
        const offset = (p.source as number) - (shared?.start ?? (p.source as number));
        for (let c = 0; c < channels; c++)
          mixPiece(out[c] as Float32Array, data[c] as Float32Array, offset, p, begin);
      }
    }
    yield out;
  }
}

/** What one segment gives to one block: output frames [from, to), ramps in output frames. */
interface Piece {
  readonly from: number;
  readonly to: number;
  readonly source: number | null;
  readonly riseAt: number;
  readonly rise: number;
  readonly fallAt: number;
  readonly fall: number;
}

function pieceOf(list: EditList, i: number, begin: number, end: number): Piece | null {
  const s = list.segments[i] as CopySegment;
  const next = list.segments[i + 1];
  const start = s.at - s.fade;
  const stop = next ? next.at : list.frames;
  const from = Math.max(begin, start);
  const to = Math.min(end, stop);
  if (to <= from) return null;
  return {
    from,
    to,
    source: s.source === null ? null : s.source + (from - s.at),
    riseAt: start,
    rise: s.fade,
    fallAt: stop - (next?.fade ?? 0),
    fall: next?.fade ?? 0,
  };
}

function mixPiece(out: Float32Array, data: Float32Array, offset: number, p: Piece, begin: number): void {
  for (let t = p.from; t < p.to; t++) {
    let gain = 1;
    if (p.rise > 0 && t < p.riseAt + p.rise) gain = (t - p.riseAt + 0.5) / p.rise;
    if (p.fall > 0 && t >= p.fallAt) gain *= 1 - (t - p.fallAt + 0.5) / p.fall;
    const k = t - begin;
    out[k] = (out[k] as number) + gain * (data[offset + t - p.from] ?? 0);
  }
}
