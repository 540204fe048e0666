import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Vocoder } from '@/core/conform';

/**
 * The WebAssembly inside signalsmith-stretch 1.3.2 (MIT), driven directly: its own wrapper needs an audio page.
 * Its export names are letters of that exact build, so the shape is asserted.
 */
interface Exports {
  readonly e: WebAssembly.Memory;
  readonly f: () => void; // constructors, once
  readonly y: (argc: number, argv: number) => number; // main, once
  readonly h: (channels: number, frames: number) => number; // buffers: inputs, then outputs
  readonly k: () => number; // input latency
  readonly l: () => number; // output latency
  readonly m: () => void; // reset
  readonly p: (channels: number, blockFrames: number, hopFrames: number, splitComputation: number) => void; // configure
  readonly v: (frames: number, rate: number) => void; // seek
  readonly w: (inputFrames: number, outputFrames: number) => void; // process
}

const PACKAGE = 'signalsmith-stretch';
const LETTERS = 'efghijklmnopqrstuvwxy';

let compiled: WebAssembly.Module | null = null;

function compile(): WebAssembly.Module {
  if (compiled) return compiled;
  const text = readFileSync(createRequire(import.meta.url).resolve(PACKAGE), 'utf8');
  const base64 = /data:application\/octet-stream;base64,([A-Za-z0-9+/=]+)/.exec(text)?.[1];
  if (!base64) throw new Error(`${PACKAGE}: no WebAssembly inside; another version than 1.3.2?`);
  const made = new WebAssembly.Module(Buffer.from(base64, 'base64'));
  const letters = WebAssembly.Module.exports(made)
    .map((e) => e.name)
    .join('');
  if (letters !== LETTERS)
    throw new Error(`${PACKAGE}: exports ${letters} instead of ${LETTERS}; another version than 1.3.2?`);
  compiled = made;
  return made;
}

/**
 * Hops in a block. A long block needs six to keep an impulse in its place within 0.5 ms on a map that wanders by 5 % (four: 1.1 ms);
 * shorter ones stay below 0.8 ms with four, at two thirds of the time. Eight break tones. Measured by `npm run bench -- conform`.
 */
const hopsFor = (blockSeconds: number): number => (blockSeconds > 0.2 ? 6 : 4);

/** Frames of the largest single step, in or out: a step of the map at a ratio of 1 : 8, and the filling before it. */
const MAX_FRAMES = 1 << 16;

/** A phase vocoder for `channels` channels; `blockSeconds` ≥ 8 periods of the lowest tone keep it clean (docs/architecture.md). */
export function createVocoder(options: {
  readonly channels: number;
  readonly sampleRateHz: number;
  readonly blockSeconds: number;
}): Vocoder {
  const { channels, sampleRateHz, blockSeconds } = options;
  let memory: WebAssembly.Memory | null = null;
  let state = 0x2545f491;
  const instance = new WebAssembly.Instance(compile(), {
    a: {
      // It seeds its noise from here: fixed numbers, so that the same input gives the same bytes.
      a: (pointer: number, length: number) => {
        const bytes = new Uint8Array((memory as WebAssembly.Memory).buffer, pointer, length);
        for (let i = 0; i < length; i++) {
          state = (Math.imul(state, 1_664_525) + 1_013_904_223) | 0;
          bytes[i] = state >>> 24;
        }
        return 0;
      },
      b: (size: number) => {
        const now = (memory as WebAssembly.Memory).buffer.byteLength;
        if (size > now) (memory as WebAssembly.Memory).grow(Math.ceil((size - now) / 65_536));
        return 1;
      },
      c: (target: number, source: number, length: number) =>
        new Uint8Array((memory as WebAssembly.Memory).buffer).copyWithin(target, source, source + length),
      d: () => {
        throw new Error(`${PACKAGE} gave up`);
      },
    },
  });
  const wasm = instance.exports as unknown as Exports;
  memory = wasm.e;
  wasm.f();
  wasm.y(0, 0);
  const block = Math.round(blockSeconds * sampleRateHz);
  wasm.p(channels, block, Math.round(block / hopsFor(blockSeconds)), 0);
  const pointer = wasm.h(channels, MAX_FRAMES);
  const view = (slot: number, frames: number): Float32Array =>
    new Float32Array(wasm.e.buffer, pointer + MAX_FRAMES * 4 * slot, frames);
  const give = (inputs: readonly Float32Array[]): number => {
    const frames = inputs[0]?.length ?? 0;
    if (frames > MAX_FRAMES) throw new RangeError(`a step of ${frames} frames is too long`);
    inputs.forEach((samples, c) => view(c, frames).set(samples));
    return frames;
  };
  return {
    maxFrames: MAX_FRAMES,
    inputLatency: wasm.k(),
    outputLatency: wasm.l(),
    seek(before, rate) {
      wasm.m();
      wasm.v(give(before), rate);
    },
    process(inputs, frames) {
      if (frames > MAX_FRAMES) throw new RangeError(`a step of ${frames} frames is too long`);
      wasm.w(give(inputs), frames);
      return Array.from({ length: channels }, (_, c) => view(channels + c, frames).slice());
    },
  };
}
