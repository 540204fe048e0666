import { formatClock } from '../time';
import type { Finding, FindingCode, FindingFile, RemedyKind } from './finding';

/** What a finding is called, what it means, and what the sender is asked; null = nothing to ask. */
interface Words {
  readonly title: string;
  readonly means: string;
  readonly ask: string | null;
}

const WORDS: Readonly<Record<FindingCode, Words>> = {
  truncated: {
    title: 'Ends before its header says',
    means: 'The upload or the recording broke off. What is there was taken.',
    ask: 'These end before their header says. Could you send them again?',
  },
  'size-missing': {
    title: 'Header without a length',
    means: 'A recording that was interrupted. Everything to the end was taken.',
    ask: 'These were not closed properly by the recorder. Are they complete?',
  },
  'second-data-ignored': {
    title: 'Second block of sound left out',
    means: 'The file holds two blocks of sound; the first was taken.',
    ask: 'These hold two blocks of sound. Which is meant?',
  },
  damaged: {
    title: 'Damaged inside',
    means: 'Parts could not be decoded.',
    ask: 'These are damaged. Could you send them again?',
  },
  dropouts: {
    title: 'Dropouts',
    means: 'The sound breaks off to nothing and comes back: samples are missing.',
    ask: 'These have gaps where samples are missing. Is there a clean copy?',
  },
  clipped: {
    title: 'Clipped',
    means: 'Samples in a row at full scale: the tops are gone.',
    ask: 'These are clipped. Is there a version that is not?',
  },
  'above-full-scale': {
    title: 'Above full scale, in floats',
    means:
      'Floating-point samples go above full scale; their tops are there. In the package such a file is 32-bit float, so nothing is cut off.',
    ask: null,
  },
  'flat-tops': {
    title: 'Clipped, then turned down',
    means: 'The tops are flat below full scale: clipped before the level was lowered.',
    ask: 'These were clipped before they were turned down. Is there a version that is not?',
  },
  silent: {
    title: 'Silent',
    means: 'Nothing but digital silence.',
    ask: 'These hold nothing but silence. Did something go wrong at the export?',
  },
  'nearly-silent': {
    title: 'Nearly silent',
    means: 'Never above −50 dBFS.',
    ask: 'These are nearly silent. Are they meant to be used?',
  },
  'dead-channel': {
    title: 'One channel dead',
    means: 'Stereo, but one side carries nothing.',
    ask: 'One side of these is silent. Is the other all there is?',
  },
  'dual-mono': { title: 'Stereo files that are mono', means: 'Left and right are the same.', ask: null },
  'dc-offset': {
    title: 'DC offset',
    means: 'The waveform does not swing around zero: cuts will click and level is wasted.',
    ask: null,
  },
  'inter-sample-overs': {
    title: 'Inter-sample peaks',
    means: 'The curve through the samples goes above full scale: converters may distort.',
    ask: null,
  },
  'sixteen-in-more': {
    title: '16 bit inside',
    means: 'The extra bits are empty: it was 16 bit once.',
    ask: 'These are 16 bit inside. Are there originals of more depth?',
  },
  'abrupt-start': {
    title: 'Begins in the middle of a sound',
    means: 'Loud from the first sample: the beginning may be cut off.',
    ask: 'These begin in the middle of a sound. Is the beginning missing?',
  },
  'abrupt-end': {
    title: 'Ends in the middle of a sound',
    means: 'Loud to the last sample: the end may be cut off.',
    ask: 'These end in the middle of a sound. Is the end missing?',
  },
  limited: {
    title: 'Limited already',
    means:
      'Peaks press against one ceiling although the playing varies: a limiter or heavy compression is printed.',
    ask: 'These sound limited or heavily compressed. Are there versions without?',
  },
  reverb: {
    title: 'Reverb in the sound',
    means:
      'What follows each phrase dies away straight and slowly, as a room or an effect does: it is printed and cannot be taken out.',
    ask: 'These seem to have reverb printed. Are there dry versions?',
  },
  lossy: {
    title: 'Lossy files',
    means: 'The codec dropped sound and the length is approximate.',
    ask: 'These came in a lossy format. Could you send WAV, AIFF or FLAC?',
  },
  'rate-differs': {
    title: 'Another sample rate',
    means: 'Unlike most files of the delivery.',
    ask: 'These have another sample rate than the rest. Is that how they were recorded?',
  },
  'depth-differs': { title: 'Another bit depth', means: 'Unlike most files of the delivery.', ask: null },
  'length-differs': {
    title: 'Another length',
    means: 'Most files are equally long; these may not begin at the common zero, or are cut.',
    ask: 'These are not as long as the rest. Do they begin at the same zero?',
  },
  'starts-later': {
    title: 'Time stamps that differ',
    means: 'By their stamps these belong elsewhere than at the common zero, where they lie now.',
    ask: 'By their time stamps these do not begin with the rest. Is that where they belong?',
  },
  'tempo-claim': {
    title: 'A tempo stands in the files',
    means: 'Often a default of the recorder. Nothing was applied; compare it with what is heard at Tempo.',
    ask: null,
  },
  replaces: {
    title: 'Meant for a track that is there',
    means:
      'It can take over name, place, routing and levels of that track. The tempo map stays, only what hangs on this track is made again, and the former recording is kept.',
    ask: null,
  },
  'same-bytes': {
    title: 'The same file twice',
    means: 'Equal to the last byte; stored once.',
    ask: 'These came twice. Was something else meant?',
  },
  'same-audio': {
    title: 'The same sound in two files',
    means: 'Every sample is equal; only what stands around it differs.',
    ask: 'These hold the same sound. Was something else meant?',
  },
  'same-take': {
    title: 'The same take at another level',
    means: 'Nothing is left when one is taken from the other at the right level.',
    ask: 'These are one take at different levels. Was something else meant?',
  },
  pair: { title: 'Left and right of one source', means: 'Two mono files that belong together.', ask: null },
  'pair-unrelated': {
    title: 'Left and right, but two takes',
    means: 'Named as sides of one source, played twice: doubles, not one stereo source.',
    ask: null,
  },
  'mic-polarity': {
    title: 'Polarity against the leading microphone',
    means: 'The waveform is upside down beside the leader; together they lose low end.',
    ask: null,
  },
  'mic-delay': {
    title: 'Later or earlier than the leading microphone',
    means: 'Distance, or the way of one of them. Aligning is a choice, not a repair.',
    ask: null,
  },
  'far-mic-polarity': {
    title: 'Polarity against the snare',
    means: 'The waveform is upside down beside the snare’s own microphone; together they lose body.',
    ask: null,
  },
  'heard-mix': {
    title: 'Sounds like a mix of the others',
    means: 'The name does not say so, but the other tracks together, each at its own level, give just this.',
    ask: null,
  },
  'heard-click': {
    title: 'Sounds like a click',
    means: 'The name says nothing, but the same few short sounds pulse through it on silence.',
    ask: null,
  },
  reference: {
    title: 'Mixes and guides for reference',
    means: 'Kept apart from the music and muted by the house style.',
    ask: null,
  },
  click: {
    title: 'A click came with it',
    means: 'Kept apart from the music; it can settle the tempo.',
    ask: null,
  },
  'missing-side': {
    title: 'Only one side of a pair',
    means: 'A name says left or right and the other is not there.',
    ask: 'Only one side of these came. Could you send the other?',
  },
  'missing-number': {
    title: 'A number left out',
    means: 'A row of numbered names has a gap.',
    ask: 'A number is missing in this row. Is there one more?',
  },
  'notes-cut-off': {
    title: 'Notes that break off',
    means:
      'The MIDI file ends before its end: notes or whole tracks of it are missing. What is there was taken.',
    ask: 'These MIDI files end before their end. Could you send them again?',
  },
};

const REMEDIES: Readonly<Record<RemedyKind, string>> = {
  'make-mono': 'Make mono',
  'use-live-channel': 'Use the live channel as mono',
  pair: 'Pan them left and right',
  'flip-polarity': 'Invert polarity',
  shift: 'Align with the leader',
  'take-out': 'Take out of the session',
  'place-by-stamp': 'Place by time stamp',
  'take-place': 'Take its place',
  'as-mix': 'Call it a mix',
  'as-click': 'Call it a click',
};

/** What a finding is called. */
export const findingTitle = (code: FindingCode): string => WORDS[code].title;
/** What it means and what follows. */
export const findingMeans = (code: FindingCode): string => WORDS[code].means;
/** What its remedy is called. */
export const remedyLabel = (kind: RemedyKind): string => REMEDIES[kind];

const sign = (x: number, decimals: number): string => `${x < 0 ? '−' : '+'}${Math.abs(x).toFixed(decimals)}`;
const minus = (x: number | string | undefined, decimals: number): string =>
  typeof x === 'number' ? x.toFixed(decimals).replace('-', '−') : String(x);
const count = (n: number | string | undefined, one: string, many: string): string =>
  `${n} ${n === 1 ? one : many}`;

const DETAILS: Partial<Record<FindingCode, (f: FindingFile['figures']) => string>> = {
  truncated: (f) =>
    `${Number(f.foundFrames).toLocaleString('en')} of ${Number(f.expectedFrames).toLocaleString('en')} frames`,
  damaged: (f) => String(f.reason),
  dropouts: (f) => count(f.gaps, 'gap', 'gaps'),
  clipped: (f) => `${count(f.runs, 'place', 'places')}, longest ${f.longestMs} ms`,
  'above-full-scale': (f) => `peak ${sign(Number(f.peakDbfs), 2)} dBFS`,
  'flat-tops': (f) => `${count(f.runs, 'place', 'places')} at ${minus(f.levelDbfs, 1)} dBFS`,
  'nearly-silent': (f) => `peak ${minus(f.peakDbfs, 1)} dBFS`,
  'dead-channel': (f) =>
    `${f.side} ${typeof f.peakDbfs === 'number' ? `peak ${minus(f.peakDbfs, 1)} dBFS` : 'silent'}`,
  'dc-offset': (f) => `${(100 * Number(f.offset)).toFixed(1)} % of full scale`,
  'inter-sample-overs': (f) => `${sign(Number(f.truePeakDbtp), 1)} dBTP`,
  'sixteen-in-more': (f) => `${f.bits}-bit file`,
  'abrupt-start': (f) => `${minus(f.levelDbfs, 0)} dBFS at the first sample`,
  'abrupt-end': (f) => `${minus(f.levelDbfs, 0)} dBFS at the last sample`,
  limited: (f) => `crest ${f.crestDb} dB, at its ceiling ${Math.round(100 * Number(f.share))} % of the time`,
  reverb: (f) => `${Number(f.seconds).toFixed(1)} s to −60 dB, at ${count(f.ends, 'end', 'ends')} of phrases`,
  'heard-mix': (f) =>
    `within ${Number(f.errorDb).toFixed(1)} dB of the sum of ${f.groups} groups${f.laterSeconds === undefined ? '' : `, ${sign(Number(f.laterSeconds), 2)} s`}`,
  'heard-click': (f) => `${f.hits} hits, ${Number(f.perMinute).toFixed(1)} a minute`,
  'rate-differs': (f) => `${Number(f.rateHz) / 1000} kHz, most ${Number(f.usualHz) / 1000}`,
  'depth-differs': (f) => `${f.bits} bit, most ${f.usualBits}`,
  'length-differs': (f) =>
    `${sign(Number(f.seconds) - Number(f.usualSeconds), 2)} s beside the usual ${f.usualSeconds}`,
  'starts-later': (f) =>
    `${Math.abs(Number(f.seconds))} s ${Number(f.seconds) < 0 ? 'before' : 'after'} the common zero`,
  'tempo-claim': (f) => `${f.bpm} BPM (${f.source})`,
  replaces: (f) =>
    [
      String(f.how),
      f.lengthSeconds === undefined ? '' : `${sign(Number(f.lengthSeconds), 2)} s long`,
      f.laterSeconds === undefined ? '' : `${sign(Number(f.laterSeconds), 2)} s later`,
      f.firstSoundSeconds === undefined ? '' : `first sound ${sign(Number(f.firstSoundSeconds), 3)} s`,
      f.loudnessLu === undefined ? '' : `${sign(Number(f.loudnessLu), 1)} LU`,
      f.rateHz === undefined ? '' : `${Number(f.rateHz) / 1000} kHz`,
    ]
      .filter((t) => t !== '')
      .join(', '),
  'same-take': (f) =>
    `${sign(Number(f.gainDb), 1)} dB, ${f.polarity === 'same' ? 'same polarity' : 'polarity inverted'}, residual ${typeof f.residualDb === 'number' ? `${minus(f.residualDb, 0)} dB` : 'none'}`,
  pair: (f) =>
    f.correlation === undefined ? 'by name and length' : `correlation ${minus(f.correlation, 2)}`,
  'pair-unrelated': (f) => `correlation ${minus(f.correlation, 2)}`,
  'mic-polarity': (f) =>
    `correlation ${minus(f.correlation, 2)}, confidence ${Number(f.confidence).toFixed(2)}`,
  'far-mic-polarity': (f) =>
    `${sign(Number(f.delayMs), 2)} ms later, confidence ${Number(f.confidence).toFixed(2)}`,
  'mic-delay': (f) =>
    `${sign(Number(f.delaySamples), 1)} samples, ${sign(Number(f.delayMs), 2)} ms, ${sign(Number(f.delayCm), 0)} cm, confidence ${Number(f.confidence).toFixed(2)}`,
  reference: (f) => String(f.part),
  'missing-side': (f) => String(f.missing),
  'missing-number': (f) => String(f.missing),
};

/** The figures of one file in words; empty where there are none. */
export const findingDetail = (code: FindingCode, file: FindingFile): string =>
  DETAILS[code]?.(file.figures) ?? '';

/** Something of a mix that is in no track. */
interface MissingFromTracks {
  readonly fromSeconds: number;
  readonly toSeconds: number;
  /** In words. */
  readonly range: string;
}

/** What is asked about a mix of which some is in no track. */
export const askMissing = (mixName: string, parts: readonly MissingFromTracks[]): string =>
  `In the mix there is something that is in none of the files. Is a recording missing, or was the mix made of another take?\n${parts
    .map(
      (p) => `   ${mixName}, ${formatClock(p.fromSeconds, 0)} to ${formatClock(p.toSeconds, 0)} (${p.range})`,
    )
    .join('\n')}`;

/** A message to the sender in plain words: what was found that only they can answer, and `more` of that kind. Empty when there is nothing to ask. */
export function questionsToSender(
  findings: readonly Finding[],
  nameOf: (id: string) => string,
  song: string,
  more: readonly string[] = [],
): string {
  const asked = findings.flatMap((f) => {
    const { ask } = WORDS[f.code];
    if (!ask) return [];
    const lines = f.files.map((p) => {
      const detail = findingDetail(f.code, p);
      return `   ${nameOf(p.id)}${p.other === null ? '' : ` and ${nameOf(p.other)}`}${detail ? ` (${detail})` : ''}`;
    });
    return [`${ask}\n${lines.join('\n')}`];
  });
  const questions = [...asked, ...more];
  if (questions.length === 0) return '';
  return `Hello,\n\nthank you for the recordings of “${song}”. Before we go on, ${questions.length === 1 ? 'a question' : 'a few questions'}:\n\n${questions.map((q, i) => `${i + 1}. ${q}`).join('\n\n')}\n\nThank you.\n`;
}
