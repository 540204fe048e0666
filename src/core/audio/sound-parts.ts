import { SAMPLE_ENCODINGS, sampleBytes, type SampleEncoding } from './format';
import { decodeInterleaved } from './samples';

/** A piece as it comes; without channels when there is no such sound. Fewer bytes than asked for where it ends. */
export interface SoundPart {
  readonly bytes: Uint8Array;
  readonly encoding: SampleEncoding;
  readonly channels: number;
}

const HEAD_BYTES = 8;

/** What goes before a part's bytes: u32 byte count, u8 encoding, u8 channels, two bytes of nothing; little-endian. */
export function soundHead(part: SoundPart): Uint8Array {
  const head = new Uint8Array(HEAD_BYTES);
  new DataView(head.buffer).setUint32(0, part.bytes.length, true);
  head[4] = SAMPLE_ENCODINGS.indexOf(part.encoding);
  head[5] = part.channels;
  return head;
}

/** The parts of an answer, in the order asked for. Throws RangeError when it was cut off. */
export function soundParts(answer: Uint8Array): SoundPart[] {
  const parts: SoundPart[] = [];
  const view = new DataView(answer.buffer, answer.byteOffset, answer.length);
  for (let at = 0; at < answer.length;) {
    const length = at + HEAD_BYTES <= answer.length ? view.getUint32(at, true) : Infinity;
    const begin = at + HEAD_BYTES;
    const encoding = SAMPLE_ENCODINGS[answer[at + 4] as number];
    if (begin + length > answer.length || !encoding) throw new RangeError('the answer was cut off');
    parts.push({
      bytes: answer.subarray(begin, begin + length),
      encoding,
      channels: answer[at + 5] as number,
    });
    at = begin + length;
  }
  return parts;
}

/** Samples of a part, a channel each; none when there was no such sound. */
export const decodePart = ({ bytes, encoding, channels }: SoundPart): Float32Array[] =>
  channels === 0
    ? []
    : decodeInterleaved(
        bytes,
        encoding,
        channels,
        Math.floor(bytes.length / (sampleBytes(encoding) * channels)),
      );
