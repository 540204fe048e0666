/** Why files are takes of one part, are not, or may be. */
export type TakeReason =
  | { readonly kind: 'names'; readonly words: readonly string[] }
  | { readonly kind: 'punch-names'; readonly words: readonly string[] }
  | { readonly kind: 'stamps' }
  | { readonly kind: 'copies'; readonly comp: string; readonly sources: readonly string[] }
  | { readonly kind: 'mix-one'; readonly wanted: string }
  | { readonly kind: 'mix-in-turn'; readonly files: readonly string[] };

/** Why files that look alike are meant to sound together. */
export type TogetherReason =
  | { readonly kind: 'names'; readonly words: readonly string[] }
  | { readonly kind: 'mix'; readonly files: readonly string[] }
  | { readonly kind: 'harmony' | 'octave'; readonly share: number }
  | { readonly kind: 'microphones'; readonly correlation: number }
  | { readonly kind: 'microphone-names'; readonly words: readonly string[] }
  | { readonly kind: 'same-recording' };

/** What has to be asked, and why it cannot be told. */
export type TakeQuestion =
  | { readonly kind: 'same-line'; readonly because: 'no-mix' | 'mix-unfit' | 'mix-has-none' | 'mix-unclear' }
  | { readonly kind: 'one-after-another' }
  | {
      readonly kind: 'names-against';
      readonly sound: 'harmony' | 'octave' | 'microphones' | 'mix';
    };

const quoted = (words: readonly string[]): string => words.map((w) => `“${w}”`).join(', ');
const percent = (share: number): string => `${Math.round(100 * share)} %`;

/** Why they become one track, in plain words. */
export function takeReasonText(reason: TakeReason): string {
  switch (reason.kind) {
    case 'names':
      return `their names say that they are takes: ${quoted(reason.words)}`;
    case 'punch-names':
      return `one part, begun again in places: ${quoted(reason.words)}`;
    case 'stamps':
      return 'one after another on one source: each begins elsewhere, and where one sounds the others rest';
    case 'copies':
      return `${reason.comp} is put together from ${reason.sources.join(', ')}: the same samples`;
    case 'mix-one':
      return `one line, and the rough mix has only ${reason.wanted}`;
    case 'mix-in-turn':
      return `one line, and the rough mix has one at a time: ${reason.files.join(', ')}`;
  }
}

/** Why they stay apart, in plain words. */
export function togetherReasonText(reason: TogetherReason): string {
  switch (reason.kind) {
    case 'names':
      return `meant to sound together, by their names: ${quoted(reason.words)}`;
    case 'mix':
      return `one line, and the rough mix has them together: ${reason.files.join(', ')}`;
    case 'harmony':
      return `in harmony: ${percent(reason.share)} of the time an interval apart`;
    case 'octave':
      return `an octave apart for ${percent(reason.share)} of the time`;
    case 'microphones':
      return `two microphones of one performance: ${reason.correlation.toFixed(2)} alike`;
    case 'microphone-names':
      return `microphones, or two sides, by their names: ${quoted(reason.words)}`;
    case 'same-recording':
      return 'the same recording, delivered more than once';
  }
}

/** What is asked, in plain words. */
export function takeQuestionText(question: TakeQuestion, count: number): string {
  switch (question.kind) {
    case 'same-line':
      return `One line, ${count} versions: takes, or meant to sound together? ${SAME_LINE[question.because]}`;
    case 'one-after-another':
      return 'They follow one another: one part begun again, or two that answer each other?';
    case 'names-against':
      return `The names say takes, but ${AGAINST[question.sound]}: takes, or meant to sound together?`;
  }
}

const SAME_LINE = {
  'no-mix': 'By ear alone they cannot be told apart, and there is no rough mix.',
  'mix-unfit': 'The rough mix has too little in common with the recordings, or they are too many, to ask it.',
  'mix-has-none': 'The rough mix has none of them.',
  'mix-unclear': 'The rough mix does not say clearly.',
} as const;

const AGAINST = {
  harmony: 'they sing in harmony',
  octave: 'they lie an octave apart',
  microphones: 'they sound like one performance by two microphones',
  mix: 'the rough mix has them together',
} as const;
