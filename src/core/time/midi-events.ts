import { asciiText } from '../units';

/** One event of a track. */
export interface MidiEvent {
  readonly tick: number;
  /** First byte; running status is resolved. 0xff = a meta event. */
  readonly status: number;
  /** Type of a meta event; null for all others. */
  readonly meta: number | null;
  /** What follows: data bytes, or the text or values of a meta or exclusive event. */
  readonly body: Uint8Array;
}

/** The parts of a Standard MIDI File; begins with `MThd`, at least 14 bytes. Unknown chunks are skipped, a last one cut short is given as far as it goes. */
export function midiChunks(bytes: Uint8Array): {
  readonly format: number;
  readonly division: number;
  readonly tracks: readonly Uint8Array[];
  /** The file ends within its last track, or before all tracks that its head counts. */
  readonly cutOff: boolean;
} {
  const v = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const tracks: Uint8Array[] = [];
  let at = 8 + v.getUint32(4);
  while (at + 8 <= bytes.length) {
    const length = v.getUint32(at + 4);
    if (asciiText(bytes.subarray(at, at + 4)) === 'MTrk')
      tracks.push(bytes.subarray(at + 8, at + 8 + length));
    at += 8 + length;
  }
  const cutOff = at > bytes.length || tracks.length < v.getUint16(10);
  return { format: v.getUint16(8), division: v.getUint16(12), tracks, cutOff };
}

/** A Standard MIDI File out of its RIFF wrapping (form `RMID`, its bytes in the chunk `data`; from memory); what is not wrapped stays as it is. */
export function unwrapMidi(bytes: Uint8Array): Uint8Array {
  const isWrapped = asciiText(bytes.subarray(0, 4)) === 'RIFF' && asciiText(bytes.subarray(8, 12)) === 'RMID';
  if (!isWrapped) return bytes;
  const v = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let at = 12; at + 8 <= bytes.length;) {
    const length = v.getUint32(at + 4, true);
    if (asciiText(bytes.subarray(at, at + 4)) === 'data') return bytes.subarray(at + 8, at + 8 + length);
    at += 8 + length + (length & 1);
  }
  return bytes;
}

/**
 * Tells all events of a track in order; false where it breaks off or is no MIDI. Source: MMA RP-001 v1.0. By it a meta or
 * exclusive event ends running status; many writers go on with that of the last channel event, so that is what is read.
 */
export function walkMidiTrack(b: Uint8Array, tell: (event: MidiEvent) => void): boolean {
  let at = 0;
  let tick = 0;
  let running = 0;
  const variable = (): number => {
    let value = 0;
    for (let n = 0; n < 4; n++) {
      const byte = b[at++];
      if (byte === undefined) return NaN;
      value = value * 128 + (byte & 127);
      if (byte < 128) return value;
    }
    return NaN;
  };
  /** The next bytes; null where the track ends before. */
  const take = (length: number): Uint8Array | null => {
    if (Number.isNaN(length) || at + length > b.length) return null;
    at += length;
    return b.subarray(at - length, at);
  };
  while (at < b.length) {
    tick += variable();
    if (Number.isNaN(tick)) return false;
    const status = (b[at] ?? 0) >= 128 ? (b[at++] as number) : running;
    if (status < 0xf0) running = status;
    let meta: number | null = null;
    let body: Uint8Array | null;
    if (status === 0xff) {
      meta = b[at++] ?? 0;
      body = take(variable());
      if (body && meta === 0x2f) return true;
    } else if (status === 0xf0 || status === 0xf7) body = take(variable());
    else if (status >= 0x80) body = take(status >= 0xc0 && status < 0xe0 ? 1 : 2);
    else return false;
    if (!body) return false;
    tell({ tick, status, meta, body });
  }
  return true;
}
