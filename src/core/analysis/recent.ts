/** The last frames of a channel, and the block at hand behind them. */
export class Recent {
  private past: Float32Array<ArrayBufferLike> = new Float32Array(0);
  private block: Float32Array<ArrayBufferLike> = new Float32Array(0);
  /** Place of the first frame of `block` in the recording. */
  private blockStart = 0;

  /** `frames` are remembered before the block at hand. */
  constructor(private readonly frames: number) {}

  /** Looks at the next block; it is not copied until {@link keep}. */
  push(block: Float32Array): void {
    this.block = block;
  }

  /** The block at hand becomes past: its end is copied, and its memory may be used for another. */
  keep(): void {
    this.past =
      this.block.length >= this.frames
        ? this.block.slice(this.block.length - this.frames)
        : join(this.past, this.block, this.frames);
    this.blockStart += this.block.length;
    this.block = new Float32Array(0);
  }

  /** Frames taken so far. */
  get end(): number {
    return this.blockStart + this.block.length;
  }

  /** A copy of `[from, to)`, cut to what is remembered. */
  read(from: number, to: number): Float32Array {
    const first = this.blockStart - this.past.length;
    const out = new Float32Array(Math.max(0, Math.min(to, this.end) - Math.max(from, first)));
    let at = Math.max(from, first);
    for (let i = 0; i < out.length; i++, at++)
      out[i] = (at < this.blockStart ? this.past[at - first] : this.block[at - this.blockStart]) as number;
    return out;
  }
}

function join(past: Float32Array, block: Float32Array, most: number): Float32Array {
  const kept = Math.min(past.length, Math.max(0, most - block.length));
  const out = new Float32Array(kept + block.length);
  out.set(past.subarray(past.length - kept));
  out.set(block, kept);
  return out;
}
