import { mkdir, mkdtemp, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { createWavWriter } from '@/core/audio';
import { createResampler } from '@/core/dsp';
import { fileSink } from '@/engine';
import { ampHum, breaths, hear, room, roomNoise, talk, type Pickup } from './microphones';
import { type Note, type Part, writeScore } from './score';
import { playNotes } from './synth';

const RATE = 48_000;
/** General MIDI programs, counted from 0. */
const PROGRAMS: Readonly<Record<Part, number | 'kit'>> = {
  kick: 'kit',
  snare: 'kit',
  hat: 'kit',
  tomHigh: 'kit',
  tomFloor: 'kit',
  cymbal: 'kit',
  handDrum: 'kit',
  bass: 32,
  banjo: 105,
  guitar: 25,
  concertina: 21,
  fiddle: 110,
  hornHigh: 60,
  hornLow: 60,
  lead: 53,
  backingHigh: 52,
  backingLow: 52,
};

/** Writes the 25 recordings into a folder; `progress` 0–1. Same version, same bytes. */
export async function generateDemo(folder: string, progress: (share: number) => void): Promise<void> {
  const score = writeScore();
  const frames = Math.ceil(score.lengthSeconds * RATE);
  await mkdir(folder, { recursive: true });
  // Inside the folder being made: what a killed run leaves is swept with it.
  const work = await mkdtemp(join(folder, '.work-'));
  try {
    const heard = {} as Record<Part, Float32Array>;
    const names = Object.keys(PROGRAMS) as Part[];
    for (const [i, part] of names.entries()) {
      heard[part] = await playNotes(score.parts[part], PROGRAMS[part], RATE, frames, work);
      progress((0.6 * (i + 1)) / names.length);
    }
    const files = placeMicrophones(heard, score.parts, frames);
    for (const [i, file] of files.entries()) {
      await writeRecording(join(folder, file.name), file);
      progress(0.6 + (0.4 * (i + 1)) / files.length);
    }
  } finally {
    await rm(work, { recursive: true, force: true });
  }
}

interface Recording {
  readonly name: string;
  readonly channels: readonly Float32Array[];
  readonly bitDepth: 16 | 24;
  readonly rateHz?: number;
}

function placeMicrophones(
  h: Record<Part, Float32Array>,
  played: Readonly<Record<Part, readonly Note[]>>,
  frames: number,
): Recording[] {
  const mic = (pickups: readonly Pickup[], noiseSeed: number): Float32Array =>
    hear([...pickups, { from: roomNoise(frames, RATE, noiseSeed, 0.0006), gain: 1 }], frames, RATE);
  const p = (from: Float32Array, gain: number, delayMs = 0): Pickup => ({ from, gain, delayMs });
  const kit = hear(
    [p(h.kick, 0.9), p(h.snare, 0.9), p(h.hat, 0.6), p(h.tomHigh, 0.9), p(h.tomFloor, 0.9), p(h.cymbal, 0.8)],
    frames,
    RATE,
  );
  const band = hear(
    [
      p(h.bass, 0.5),
      p(h.banjo, 0.4),
      p(h.guitar, 0.4),
      p(h.concertina, 0.4),
      p(h.fiddle, 0.35),
      p(h.hornHigh, 0.5),
      p(h.hornLow, 0.5),
      p(h.lead, 0.4),
    ],
    frames,
    RATE,
  );
  const said = talk(frames, RATE, 7, 0.6, 3.9);
  const shedLeft = room(hear([p(kit, 1), p(band, 0.6)], frames, RATE), RATE, 11);
  const shedRight = room(hear([p(kit, 1, 1.1), p(band, 0.6, 0.7)], frames, RATE), RATE, 12);
  const bleed = (seed: number): Pickup[] => [p(seed % 2 ? shedLeft : shedRight, 0.05, 9), p(said, 0.08, 6)];
  const kitMic = (own: readonly Pickup[], seed: number): Float32Array =>
    mic([...own, p(kit, 0.06, 2.5), p(shedLeft, 0.04, 8), p(said, 0.12, 7)], seed);
  const voice = (from: Float32Array, seed: number): Float32Array => mic([p(from, 1.3), ...bleed(seed)], seed);
  const tune = voice(h.fiddle, 41);
  const recordings: Recording[] = [
    // The first engineer numbers takes, the second describes, the third abbreviates.
    { name: 'KICK in_03.wav', channels: [kitMic([p(h.kick, 1.8), p(h.snare, 0.1, 1.5)], 21)], bitDepth: 24 },
    {
      name: 'kck OUT_03.wav',
      channels: [kitMic([p(h.kick, 1.3, 1.2), p(h.snare, 0.15, 2)], 22)],
      bitDepth: 24,
    },
    {
      name: 'Sn top (57)_03.wav',
      channels: [kitMic([p(h.snare, 1.7), p(h.hat, 0.22, 1.1), p(h.kick, 0.12, 1.6)], 23)],
      bitDepth: 24,
    },
    {
      name: 'SN btm_03.wav',
      channels: [kitMic([p(h.snare, -1.2, 0.4), p(h.kick, 0.16, 1.6)], 24)],
      bitDepth: 24,
    },
    { name: 'HH_tk3.wav', channels: [kitMic([p(h.hat, 1.8), p(h.snare, 0.25, 1.2)], 25)], bitDepth: 24 },
    { name: 'Tom 1_03.wav', channels: [kitMic([p(h.tomHigh, 1.6), p(h.snare, 0.2, 1.3)], 26)], bitDepth: 24 },
    {
      name: 'Floor tom_03.wav',
      channels: [kitMic([p(h.tomFloor, 1.6), p(h.kick, 0.2, 1.5)], 27)],
      bitDepth: 24,
    },
    {
      name: 'OH_L_03.wav',
      channels: [mic([p(kit, 0.8, 3), p(h.hat, 0.4, 2.6), p(shedLeft, 0.2, 4), p(said, 0.15, 8)], 28)],
      bitDepth: 24,
    },
    {
      name: 'OH_R_03.wav',
      channels: [
        mic([p(kit, 0.8, 3.1), p(h.tomFloor, 0.3, 2.8), p(shedRight, 0.2, 4), p(said, 0.15, 9)], 29),
      ],
      bitDepth: 24,
    },
    {
      name: 'room pair shed_03.wav',
      channels: [
        mic([p(shedLeft, 0.8, 9), p(kit, 0.25, 9), p(said, 0.3, 4)], 30),
        mic([p(shedRight, 0.8, 10), p(kit, 0.25, 10), p(said, 0.25, 5)], 31),
      ],
      bitDepth: 24,
    },
    { name: 'hand drum dub2.wav', channels: [mic([p(h.handDrum, 1.5), ...bleed(32)], 32)], bitDepth: 24 },
    { name: 'DB di bright.wav', channels: [hear([p(h.bass, 1.6)], frames, RATE)], bitDepth: 24 },
    {
      name: 'upright_47.wav',
      channels: [mic([p(h.bass, 1.2, 1.4), p(ampHum(frames, RATE, 51, 0.003), 1), ...bleed(33)], 33)],
      bitDepth: 24,
    },
    { name: 'rec0011 t2.wav', channels: [mic([p(h.banjo, 1.4), ...bleed(34)], 34)], bitDepth: 24 },
    {
      name: 'AcGtr strum.wav',
      channels: [mic([p(h.guitar, 1.3), ...bleed(35)], 35)],
      bitDepth: 24,
      rateHz: 44_100,
    },
    { name: 'cncrtna l.wav', channels: [mic([p(h.concertina, 1.2), ...bleed(36)], 36)], bitDepth: 24 },
    { name: 'cncrtna r.wav', channels: [mic([p(h.concertina, 0.9, 0.6), ...bleed(37)], 37)], bitDepth: 24 },
    { name: 'fiddle tune B.wav', channels: [tune, tune], bitDepth: 24 },
    { name: 'hn1 slip.take4.wav', channels: [voice(h.hornHigh, 42)], bitDepth: 16 },
    { name: 'hn2 slip.take4.wav', channels: [voice(h.hornLow, 43)], bitDepth: 16 },
    {
      name: 'LV_main_comp.wav',
      channels: [mic([p(h.lead, 1.3), p(breaths(played.lead, frames, RATE, 52), 1), ...bleed(44)], 44)],
      bitDepth: 24,
    },
    { name: 'bv hi 1.wav', channels: [voice(h.backingHigh, 45)], bitDepth: 24 },
    { name: 'bv lo 2.wav', channels: [voice(h.backingLow, 46)], bitDepth: 24 },
  ];
  return [
    ...recordings,
    { name: 'ROUGH MIX lanterns.wav', channels: roughMix(recordings, frames), bitDepth: 16 },
    { name: 'room noise.wav', channels: [roomNoise(frames, RATE, 50, 0.003)], bitDepth: 24 },
  ];
}

/** How loud the band's own mix has each recording, left and right. */
const IN_THE_MIX: Readonly<Record<string, readonly [left: number, right: number]>> = {
  'KICK in_03.wav': [0.3, 0.3],
  'kck OUT_03.wav': [0.1, 0.1],
  'Sn top (57)_03.wav': [0.3, 0.3],
  'SN btm_03.wav': [0.1, 0.1],
  'HH_tk3.wav': [0.1, 0.05],
  'Tom 1_03.wav': [0.25, 0.35],
  'Floor tom_03.wav': [0.4, 0.2],
  'OH_L_03.wav': [0.4, 0],
  'OH_R_03.wav': [0, 0.4],
  'room pair shed_03.wav': [0.2, 0.2],
  'hand drum dub2.wav': [0.2, 0.35],
  'DB di bright.wav': [0.3, 0.3],
  'upright_47.wav': [0.3, 0.3],
  'rec0011 t2.wav': [0.35, 0.18],
  'AcGtr strum.wav': [0.25, 0.42],
  'cncrtna l.wav': [0.35, 0.2],
  'cncrtna r.wav': [0.1, 0.25],
  'fiddle tune B.wav': [0.3, 0.4],
  'hn1 slip.take4.wav': [0.22, 0.38],
  'hn2 slip.take4.wav': [0.38, 0.22],
  'LV_main_comp.wav': [0.6, 0.6],
  'bv hi 1.wav': [0.3, 0.15],
  'bv lo 2.wav': [0.15, 0.3],
};

/** The mix the band made of its own recordings. */
function roughMix(recordings: readonly Recording[], frames: number): Float32Array[] {
  return [0, 1].map((side) => {
    const out = new Float32Array(frames);
    for (const { name, channels } of recordings) {
      const gain = IN_THE_MIX[name]?.[side] ?? 0;
      const own = channels[Math.min(side, channels.length - 1)] as Float32Array;
      for (let i = 0; i < frames; i++) out[i] = (out[i] as number) + gain * (own[i] as number);
    }
    return out;
  });
}

async function writeRecording(path: string, recording: Recording): Promise<void> {
  const peak = Math.max(...recording.channels.map((c) => c.reduce((a, x) => Math.max(a, Math.abs(x)), 0)));
  const gain = Math.min(1, 0.89 / Math.max(1e-6, peak));
  const level = recording.channels.map((c) => c.map((x) => x * gain));
  const rate = recording.rateHz ?? RATE;
  await rm(path, { force: true });
  const file = await fileSink(path);
  try {
    const writer = await createWavWriter(file.bytes, {
      sampleRateHz: rate,
      channels: level.length,
      bitDepth: recording.bitDepth,
    });
    if (rate === RATE) await writer.write(level);
    else {
      const resampler = createResampler(RATE, rate, level.length);
      await writer.write(resampler.push(level));
      await writer.write(resampler.finish());
    }
    await writer.finish();
  } finally {
    await file.close();
  }
}
