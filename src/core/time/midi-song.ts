import { asciiText, err, ok, plainText, type Result } from '../units';
import { midiChunks, type MidiEvent, unwrapMidi, walkMidiTrack } from './midi-events';

/** What a Standard MIDI File says about time. */
export interface MidiRead {
  readonly ppq: number;
  readonly tempos: readonly { readonly tick: number; readonly microsecondsPerQuarter: number }[];
  readonly meters: readonly {
    readonly tick: number;
    readonly numerator: number;
    readonly denominator: number;
  }[];
  readonly markers: readonly { readonly tick: number; readonly text: string }[];
  /** Exact moment of a tick in seconds. */
  toSeconds(tick: number): number;
}

/** Why a MIDI file cannot be read. */
export type MidiFault = { readonly code: 'midi.not_midi' | 'midi.broken' | 'midi.no_quarters' };

/** A note. */
export interface MidiNote {
  readonly tick: number;
  readonly lengthTicks: number;
  /** 0–127; 60 = middle C. */
  readonly pitch: number;
  /** 1–127. */
  readonly velocity: number;
  /** 0–15. */
  readonly channel: number;
}

/** Notes that belong together: a track of the file, or one channel where all lie in one track. */
export interface MidiNoteTrack {
  /** As the file calls it, else by its sound; empty where nothing says. */
  readonly name: string;
  readonly notes: readonly MidiNote[];
  /** Everything about the notes, in order: channel and exclusive events, texts and lyrics. */
  readonly events: readonly MidiEvent[];
}

/** All of a Standard MIDI File that a session can use. */
export interface MidiSong extends Pick<MidiRead, 'tempos' | 'meters' | 'markers' | 'toSeconds'> {
  /** Ticks a quarter; null = the file counts in time, not in quarters. */
  readonly ppq: number | null;
  readonly tracks: readonly MidiNoteTrack[];
  /** The file breaks off; what was there is here. */
  readonly cutOff: boolean;
}

/** Hours of dense playing take less; the page's process reads a file as a whole. */
export const MOST_MIDI_BYTES = 4 * 2 ** 20;

/** Negative frames a second, as they stand in a division that counts in time. */
const FRAMES_PER_SECOND: Readonly<Record<number, number>> = { 24: 24, 25: 25, 29: 30_000 / 1001, 30: 30 };
const DRUM_CHANNEL = 9;
/** Groups of eight programs. Source: General MIDI Level 1 (MMA RP-003), from memory. */
const PROGRAM_GROUPS = [
  'Piano',
  'Mallets',
  'Organ',
  'Guitar',
  'Bass',
  'Strings',
  'Strings',
  'Brass',
  'Reed',
  'Flute',
  'Synth Lead',
  'Synth Pad',
  'Synth Effect',
  'Plucked',
  'Percussion',
  'Effect',
] as const;

/** Reads notes, tempo, meters and markers. A file of one track with many channels gives a track for each. */
export function readMidiSong(file: Uint8Array): Result<MidiSong, MidiFault> {
  const bytes = unwrapMidi(file);
  if (bytes.length < 14 || asciiText(bytes.subarray(0, 4)) !== 'MThd') return err({ code: 'midi.not_midi' });
  const { format, division, tracks, cutOff } = midiChunks(bytes);
  const perSecond =
    division & 0x8000 ? (FRAMES_PER_SECOND[256 - (division >> 8)] ?? 0) * (division & 255) : 0;
  if (division & 0x8000 ? perSecond === 0 : division === 0) return err({ code: 'midi.broken' });
  const tempos: { tick: number; microsecondsPerQuarter: number }[] = [];
  const meters: { tick: number; numerator: number; denominator: number }[] = [];
  const markers: { tick: number; text: string }[] = [];
  const found: MidiNoteTrack[] = [];
  for (const [at, chunk] of tracks.entries()) {
    const events: MidiEvent[] = [];
    let name = '';
    const whole = walkMidiTrack(chunk, (e) => {
      if (e.meta === null || e.meta === 0x01 || e.meta === 0x05) events.push(e);
      else if (e.meta === 0x03 && name === '') name = plainText(e.body).trim();
      else if (e.meta === 0x51 && e.body.length >= 3)
        tempos.push({
          tick: e.tick,
          microsecondsPerQuarter:
            ((e.body[0] as number) << 16) | ((e.body[1] as number) << 8) | (e.body[2] as number),
        });
      else if (e.meta === 0x58 && e.body.length >= 2)
        meters.push({
          tick: e.tick,
          numerator: e.body[0] as number,
          denominator: 2 ** (e.body[1] as number),
        });
      else if (e.meta === 0x06) markers.push({ tick: e.tick, text: plainText(e.body) });
    });
    // Only the last can be cut short by the end of the file; any other is no MIDI inside.
    if (!whole && !(cutOff && at === tracks.length - 1)) return err({ code: 'midi.broken' });
    found.push(...(format === 0 ? byChannel(events, name) : [noteTrack(events, name)]));
  }
  const withNotes = found.filter((t) => t.notes.length > 0);
  // Nothing is left of it that could be used, or said to be cut short.
  if (cutOff && withNotes.length === 0) return err({ code: 'midi.broken' });
  const byTick = (a: { tick: number }, b: { tick: number }): number => a.tick - b.tick;
  tempos.sort(byTick);
  const ppq = perSecond === 0 ? division : null;
  return ok({
    ppq,
    tempos,
    meters: meters.sort(byTick),
    markers: markers.sort(byTick),
    tracks: withNotes,
    cutOff,
    toSeconds: (tick) => (ppq === null ? tick / perSecond : secondsAt(tempos, ppq, tick)),
  });
}

/** Tempo, meters and markers of a file that counts in quarters. */
export function readMidi(bytes: Uint8Array): Result<MidiRead, MidiFault> {
  const song = readMidiSong(bytes);
  if (!song.ok) return song;
  const { ppq, tempos, meters, markers, toSeconds } = song.value;
  return ppq === null ? err({ code: 'midi.no_quarters' }) : ok({ ppq, tempos, meters, markers, toSeconds });
}

/** Exact moment of a tick under tempo events in order. */
function secondsAt(
  tempos: readonly { tick: number; microsecondsPerQuarter: number }[],
  ppq: number,
  tick: number,
): number {
  let sum = 0; // ticks × µs: whole numbers below 2^53 for ten hours at 960
  let from = 0;
  let tempo = 500_000; // the standard's default before the first tempo event
  for (const t of tempos) {
    if (t.tick >= tick) break;
    sum += (t.tick - from) * tempo;
    from = t.tick;
    tempo = t.microsecondsPerQuarter;
  }
  return (sum + (tick - from) * tempo) / ppq / 1e6;
}

const channelOf = (e: MidiEvent): number | null => (e.status < 0xf0 ? e.status & 15 : null);

function byChannel(events: readonly MidiEvent[], name: string): MidiNoteTrack[] {
  const channels = [...new Set(events.map(channelOf).filter((c) => c !== null))].sort((a, b) => a - b);
  if (channels.length <= 1) return [noteTrack(events, name)];
  // The name is that of the song then. What belongs to no channel goes with the first.
  return channels.map((c, i) =>
    noteTrack(
      events.filter((e) => (channelOf(e) ?? (i === 0 ? c : null)) === c),
      '',
    ),
  );
}

function noteTrack(events: readonly MidiEvent[], name: string): MidiNoteTrack {
  // Begun notes of a key in order, and how many of them have ended: thousands may hang in a damaged file.
  const open = new Map<number, { readonly begun: { tick: number; velocity: number }[]; ended: number }>();
  const notes: MidiNote[] = [];
  const close = (key: number, tick: number): void => {
    const of = open.get(key);
    const begun = of?.begun[of.ended];
    if (!of || !begun) return;
    of.ended++;
    notes.push({
      tick: begun.tick,
      lengthTicks: tick - begun.tick,
      pitch: key & 127,
      velocity: begun.velocity,
      channel: key >> 7,
    });
  };
  for (const { tick, status, body } of events) {
    const kind = status & 0xf0;
    if (kind !== 0x80 && kind !== 0x90) continue;
    const [pitch = 0, velocity = 0] = body;
    const key = ((status & 15) << 7) | (pitch & 127);
    if (kind !== 0x90 || velocity === 0) close(key, tick);
    else if (open.has(key)) open.get(key)?.begun.push({ tick, velocity });
    else open.set(key, { begun: [{ tick, velocity }], ended: 0 });
  }
  // A note nobody ended lasts to the end of its track.
  const last = events.at(-1)?.tick ?? 0;
  for (const [key, of] of open) while (of.ended < of.begun.length) close(key, last);
  notes.sort((a, b) => a.tick - b.tick || a.pitch - b.pitch || a.channel - b.channel);
  return { name: name === '' ? soundName(events, notes) : name, notes, events };
}

function soundName(events: readonly MidiEvent[], notes: readonly MidiNote[]): string {
  if (notes.length === 0) return '';
  if (notes.every((n) => n.channel === DRUM_CHANNEL)) return 'Drums';
  const program = events.find((e) => (e.status & 0xf0) === 0xc0)?.body[0];
  return program === undefined ? '' : (PROGRAM_GROUPS[program >> 3] ?? '');
}

/** What can be said of notes at a glance. */
export interface NoteFacts {
  readonly notes: number;
  readonly lowestPitch: number;
  readonly highestPitch: number;
  /** In the file's own time. */
  readonly firstSeconds: number;
  readonly lastSeconds: number;
  /** The file says no tempo: its bars are all it has. */
  readonly tempoSaid: boolean;
  /** The file breaks off: notes may be missing. */
  readonly cutOff: boolean;
}

/** Facts of one track of a file that has notes. */
export function noteFacts(song: MidiSong, track: MidiNoteTrack): NoteFacts {
  const facts = { lowest: 127, highest: 0, first: Infinity, last: 0 };
  for (const n of track.notes) {
    facts.lowest = Math.min(facts.lowest, n.pitch);
    facts.highest = Math.max(facts.highest, n.pitch);
    facts.first = Math.min(facts.first, n.tick);
    facts.last = Math.max(facts.last, n.tick + n.lengthTicks);
  }
  return {
    notes: track.notes.length,
    lowestPitch: facts.lowest,
    highestPitch: facts.highest,
    firstSeconds: song.toSeconds(facts.first),
    lastSeconds: song.toSeconds(facts.last),
    tempoSaid: song.ppq === null || song.tempos.length > 0,
    cutOff: song.cutOff,
  };
}

const PITCHES = ['C', 'C♯', 'D', 'E♭', 'E', 'F', 'F♯', 'G', 'A♭', 'A', 'B♭', 'B'] as const;

/** A pitch in letters, middle C = C4 (common practice, no source). */
export const pitchName = (pitch: number): string =>
  `${PITCHES[pitch % 12] ?? ''}${Math.floor(pitch / 12) - 1}`;
