import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createRandom, type Random } from '../../src/core/units';
import { playOnFont } from '../fluidsynth';
import { room } from '../heard/synth';
import { type MidiEvent, midiOf, TICKS_PER_SECOND } from '../midi';
import type { MadeNote, MadeSession, MadeTrack } from './compose';

export const RATE = 48_000;
/** Fonts of Debian's packages, taken in turn. */
export const FONTS = [
  '/usr/share/sounds/sf2/FluidR3_GM.sf2',
  '/usr/share/sounds/sf3/MuseScore_General_Full.sf3',
];

/** A recording of a made session, mono. */
export interface MadeRecording {
  readonly file: string;
  readonly samples: Float32Array;
}

/** Notes on a sound font, mono, from second 0. */
function play(
  font: string,
  track: Pick<MadeTrack, 'program' | 'isDrums'>,
  notes: readonly MadeNote[],
  seconds: number,
): Float32Array {
  const channel = track.isDrums ? 9 : 0;
  const tick = (s: number): number => Math.max(0, Math.round(s * TICKS_PER_SECOND));
  const events: MidiEvent[] = [{ tick: 0, order: 0, bytes: [0xc0 | channel, track.program] }];
  for (const n of notes) {
    events.push({
      tick: tick(n.at),
      order: 2,
      bytes: [0x90 | channel, n.key, Math.max(1, Math.min(127, Math.round(n.velocity)))],
    });
    events.push({ tick: tick(n.at + n.length), order: 1, bytes: [0x80 | channel, n.key, 64] });
  }
  const folder = mkdtempSync(join(tmpdir(), 'fernmoss-tempo-'));
  try {
    writeFileSync(join(folder, 'p.mid'), midiOf(events, 2 * TICKS_PER_SECOND));
    playOnFont(font, join(folder, 'p.mid'), join(folder, 'p.wav'), RATE);
    const bytes = readFileSync(join(folder, 'p.wav'));
    const out = new Float32Array(Math.round(seconds * RATE));
    const frames = Math.min(out.length, Math.floor((bytes.length - 44) / 4));
    for (let i = 0; i < frames; i++)
      out[i] = (bytes.readInt16LE(44 + 4 * i) + bytes.readInt16LE(46 + 4 * i)) / 65_536;
    return out;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Seconds from a note's message to a quarter of its attack's peak, by key: what is taken off, so that truth is what sounds. */
function lags(font: string, track: MadeTrack): Map<number, number> {
  const keys = [...new Set(track.notes.map((n) => n.key))];
  const x = play(
    font,
    track,
    keys.map((key, i) => ({ at: 0.5 + 2 * i, length: 0.4, key, velocity: 100 })),
    keys.length * 2 + 1,
  );
  return new Map(
    keys.map((key, i) => {
      const part = x.subarray(Math.round((0.49 + 2 * i) * RATE), Math.round((0.62 + 2 * i) * RATE));
      const top = part.reduce((m, v) => Math.max(m, Math.abs(v)), 0);
      const at = part.findIndex((v) => Math.abs(v) >= 0.25 * top);
      return [key, top < 1e-4 ? 0 : Math.max(0, Math.min(0.03, at / RATE - 0.01))];
    }),
  );
}

function sound(font: string, track: MadeTrack, seconds: number): Float32Array {
  const late = lags(font, track);
  return peakTo(
    play(
      font,
      track,
      track.notes.map((n) => ({ ...n, at: n.at - (late.get(n.key) ?? 0) })),
      seconds,
    ),
    0.7,
  );
}

function peakTo(x: Float32Array, level: number): Float32Array {
  let top = 1e-9;
  for (let i = 0; i < x.length; i++) top = Math.max(top, Math.abs(x[i] as number));
  const out = new Float32Array(x.length);
  for (let i = 0; i < x.length; i++) out[i] = ((x[i] as number) * level) / top;
  return out;
}

/** Sums of parts, each with its gain and its way to the microphone. */
function mixed(
  seconds: number,
  parts: readonly (readonly [Float32Array | undefined, number, number])[],
): Float32Array {
  const out = new Float32Array(Math.round(seconds * RATE));
  for (const [x, gain, delayMs] of parts) {
    if (!x) continue;
    const by = Math.round((delayMs * RATE) / 1000);
    for (let i = by; i < out.length; i++) out[i] = (out[i] as number) + gain * (x[i - by] as number);
  }
  return out;
}

/** What is rendered of a session. */
export type PlayedSession = Pick<MadeSession, 'kit' | 'tracks' | 'click' | 'seconds'> & {
  readonly genre: Pick<MadeSession['genre'], 'mics'>;
};

/** Every file of the session as it would be recorded. */
export function render(session: PlayedSession, font: string, seed: number): MadeRecording[] {
  const random = createRandom(seed);
  const { seconds, genre } = session;
  const pieces = new Map(
    session.kit.filter((k) => k.notes.length > 0).map((k) => [k.file, sound(font, k, seconds)]),
  );
  const made = pieces.size > 0 ? microphones(genre.mics, pieces, seconds) : [];
  for (const track of session.tracks)
    if (track.notes.length > 0) made.push({ file: track.file, samples: sound(font, track, seconds) });
  if (session.click) made.push({ file: 'Click', samples: clickSound(session.click, seconds) });
  return made.map(({ file, samples }) => ({
    file: `${file}.wav`,
    samples: withFloor(peakTo(samples, 0.2 + 0.5 * random()), random),
  }));
}

function microphones(
  kind: MadeSession['genre']['mics'],
  pieces: ReadonlyMap<string, Float32Array>,
  seconds: number,
): MadeRecording[] {
  const p = (name: string): Float32Array | undefined => pieces.get(name);
  if (kind === 'machine')
    return [...pieces].map(([piece, samples]) => ({
      file: piece[0]?.toUpperCase() + piece.slice(1),
      samples,
    }));
  const metal = [
    [p('hat'), 0.4, 3],
    [p('ride'), 0.7, 3],
    [p('crash'), 0.7, 3],
    [p('tambourine'), 0.5, 3],
  ] as const;
  const skins = [
    [p('snare'), 0.6, 3.2],
    [p('rim'), 0.5, 3.2],
    [p('clap'), 0.5, 3],
    [p('tom'), 0.5, 3],
  ] as const;
  const overhead = mixed(seconds, [...metal, ...skins, [p('kick'), 0.3, 3.5]]);
  if (kind === 'one') return [{ file: 'Drums', samples: overhead }];
  const kick: MadeRecording = {
    file: 'Kick',
    samples: mixed(seconds, [
      [p('kick'), 1, 0],
      [p('snare'), 0.05, 1],
      [p('tom'), 0.05, 1],
      [p('hat'), 0.02, 1],
    ]),
  };
  if (kind === 'pair') return [kick, { file: 'Overheads', samples: overhead }];
  const space = overhead.slice();
  room(space, 0.5, 0.8);
  const made: MadeRecording[] = [
    kick,
    { file: 'Overheads', samples: overhead },
    { file: 'Room', samples: space },
  ];
  if (p('snare') ?? p('rim'))
    made.push({
      file: 'Snare Top',
      samples: mixed(seconds, [
        [p('snare'), 1, 0],
        [p('rim'), 0.8, 0],
        [p('kick'), 0.04, 1],
        [p('hat'), 0.06, 0.7],
        [p('ride'), 0.03, 1],
      ]),
    });
  if (p('hat'))
    made.push({
      file: 'HiHat',
      samples: mixed(seconds, [
        [p('hat'), 1, 0],
        [p('snare'), 0.2, 0.7],
        [p('ride'), 0.15, 1],
      ]),
    });
  if (p('tom'))
    made.push({
      file: 'Tom',
      samples: mixed(seconds, [
        [p('tom'), 1, 0],
        [p('snare'), 0.06, 1],
        [p('kick'), 0.06, 1],
      ]),
    });
  return made;
}

function clickSound(click: NonNullable<MadeSession['click']>, seconds: number): Float32Array {
  const out = new Float32Array(Math.round(seconds * RATE));
  for (const { at, accent } of click)
    for (let i = 0; i < 0.025 * RATE; i++) {
      const k = Math.round(at * RATE) + i;
      if (k < out.length)
        out[k] =
          (out[k] as number) +
          (accent ? 0.7 : 0.45) *
            Math.sin((2 * Math.PI * (accent ? 1650 : 1100) * i) / RATE) *
            Math.exp(-i / (0.006 * RATE));
    }
  return out;
}

function withFloor(x: Float32Array, random: Random): Float32Array {
  const floor = 10 ** (-(60 + 20 * random()) / 20);
  const out = new Float32Array(x.length);
  for (let i = 0; i < x.length; i++) out[i] = (x[i] as number) + floor * (2 * random() - 1);
  return out;
}
