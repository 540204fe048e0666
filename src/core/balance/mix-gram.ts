import { heldDown, type MixModel, steadyGains } from './common-gain';
import { MixLayout, MixSpectra, type MixWindow } from './mix-spectra';
import { mirrored, ProductSums } from './product-sums';

/**
 * What tracks and a mix have in common, second by second and band by band, for each side of the mix: enough to fit gains over any
 * stretch and any of the tracks without their sound. A mono track stands on both sides, a stereo track with its own channel.
 */
export interface MixGram {
  readonly tracks: number;
  readonly seconds: number;
  /** 2, or 1 for a mono mix. */
  readonly sides: number;
  /** Re(X Xᴴ) of tracks i, j in a band and second, for each side. */
  products(side: number, second: number, band: number): Float32Array;
  /** Re(X yᴴ) of each track with the mix. */
  withMix(side: number, second: number, band: number): Float32Array;
  /** Energy of the mix. */
  mixEnergy(side: number, second: number, band: number): number;
}

/** What was gathered: of the tracks as they are, and as they are held down with the mix. */
export interface GatheredMix extends MixGram {
  /** With the tracks turned down wherever the mix is, by a limiter or saturation; null without a model. */
  readonly held: MixGram | null;
  /** How far the mix is held down where it is most: dB, 0 or less. */
  readonly heldDownDb: number;
}

/** Gathers a {@link MixGram} from blocks of all tracks and the mix; memory grows by the second only: 4 bytes for each pair of tracks and band. */
export class MixGramBuilder {
  private readonly layout: MixLayout;
  private readonly spectra: MixSpectra;
  /** Of the present second: tracks as they are, and held down. */
  private plain: ProductSums;
  private held: ProductSums;
  private readonly cells: Float32Array[][];
  private readonly heldCells: Float32Array[][];
  private readonly gains: number[][] = [[]];
  private second = 0;
  private last = 1;

  /** `channels`: 1 or 2 for each track; `mixChannels`: 1 or 2; `model`: what the mix is about made of, by which it is told where it is held down as a whole. */
  constructor(
    rateHz: number,
    channels: readonly number[],
    mixChannels: number,
    private readonly model: MixModel | null = null,
  ) {
    this.layout = new MixLayout(rateHz, channels, mixChannels);
    this.spectra = new MixSpectra(this.layout, (window, at) => this.take(window, Math.floor(at / rateHz)));
    [this.plain, this.held] = [new ProductSums(this.layout), new ProductSums(this.layout)];
    [this.cells, this.heldCells] = [this.layout.bySide.map(() => []), this.layout.bySide.map(() => [])];
  }

  /** Takes the next frames of everything, equally many of each: the channels of the tracks in order, then those of the mix. */
  push(blocks: readonly Float32Array[]): void {
    this.spectra.push(blocks);
  }

  private take(window: MixWindow, second: number): void {
    if (second !== this.second) this.flush(second);
    if (!this.model) return this.plain.add(window, 1);
    this.last = heldDown(this.layout, this.model, window, this.last);
    this.gains.at(-1)?.push(this.last);
    this.held.add(window, this.last, this.plain);
  }

  private flush(next: number): void {
    const { layout, plain, held } = this;
    plain.sums.forEach((sums, s) => this.cells[s]?.push(Float32Array.from(sums)));
    if (this.model) held.sums.forEach((sums, s) => this.heldCells[s]?.push(Float32Array.from(sums)));
    [this.plain, this.held] = [new ProductSums(layout), new ProductSums(layout)];
    this.gains.push([]);
    this.second = next;
  }

  /** What was gathered, after the last block. */
  finish(): GatheredMix {
    this.flush(0);
    const { bySecond, lowestDb } = steadyGains(this.gains);
    for (const side of this.heldCells)
      side.forEach((cell, second) =>
        scaleTracks(cell, this.layout.channels.length, 1 / (bySecond[second] ?? 1)),
      );
    return {
      ...this.gramOf(this.cells),
      held: this.model ? this.gramOf(this.heldCells) : null,
      heldDownDb: lowestDb,
    };
  }

  private gramOf(cells: readonly (readonly Float32Array[])[]): MixGram {
    const n = this.layout.channels.length;
    const { size, isShared } = this.plain;
    for (const side of isShared ? cells.slice(0, 1) : cells) for (const cell of side) mirrored(cell, n);
    const cellOf = (side: number, second: number): Float32Array => cells[side]?.[second] as Float32Array;
    return {
      tracks: n,
      seconds: cells[0]?.length ?? 0,
      sides: this.layout.mixChannels,
      products: (side, second, band) =>
        cellOf(isShared ? 0 : side, second).subarray(band * size, band * size + n * n),
      withMix: (side, second, band) =>
        cellOf(side, second).subarray(band * size + n * n, band * size + n * n + n),
      mixEnergy: (side, second, band) => cellOf(side, second)[band * size + n * n + n] as number,
    };
  }
}

/** As if all tracks had been so many times as loud. */
function scaleTracks(cell: Float32Array, n: number, gain: number): void {
  if (gain === 1) return;
  const size = n * n + n + 1;
  for (let base = 0; base < cell.length; base += size) {
    for (let k = base; k < base + n * n; k++) cell[k] = gain * gain * (cell[k] as number);
    for (let k = base + n * n; k < base + n * n + n; k++) cell[k] = gain * (cell[k] as number);
  }
}
