/** A channel message at its tick; of several at one tick the lower `order` goes first. */
export interface MidiEvent {
  readonly tick: number;
  readonly order: number;
  readonly bytes: readonly number[];
}

/** Ticks a second of the files made here: 120 a minute, 15,360 a quarter. */
export const TICKS_PER_SECOND = 30_720;

const varint = (n: number): number[] =>
  n < 0x80 ? [n] : [...varint(Math.floor(n / 128)).map((b) => b | 0x80), n & 0x7f];

/** A Standard MIDI File of one track; sorts `events`. `tail` = ticks after the last. */
export function midiOf(events: MidiEvent[], tail: number): Uint8Array {
  events.sort((a, b) => a.tick - b.tick || a.order - b.order);
  const body: number[] = [];
  let last = 0;
  for (const e of events) {
    for (const b of varint(e.tick - last)) body.push(b);
    for (const b of e.bytes) body.push(b);
    last = e.tick;
  }
  body.push(...varint(tail), 0xff, 0x2f, 0);
  const u32 = (n: number): number[] => [(n >>> 24) & 255, (n >>> 16) & 255, (n >>> 8) & 255, n & 255];
  const ppq = TICKS_PER_SECOND / 2;
  return Uint8Array.from([
    ...Buffer.from('MThd'),
    ...u32(6),
    0,
    0,
    0,
    1,
    ppq >> 8,
    ppq & 255,
    ...Buffer.from('MTrk'),
    ...u32(body.length),
    ...body,
  ]);
}
