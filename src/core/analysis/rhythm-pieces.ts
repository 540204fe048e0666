import { CHROMA_PER_SECOND, PITCH_CLASSES } from './harmony';
import { type RhythmCurves, ONSETS_PER_SECOND } from './onsets';

/** What was heard of a sound, moved to where it lies in the song, and the stretch of the song in which it sounds, s. */
export interface RhythmPiece {
  readonly rhythm: RhythmCurves;
  readonly fromSeconds: number;
  readonly toSeconds: number;
}

type Curve = 'low' | 'mid' | 'high';

/** What is heard of a track that is put together of pieces: nothing of what was cut away. Where two cross over the louder counts. */
export function rhythmOfPieces(pieces: readonly RhythmPiece[]): RhythmCurves {
  const curve = (name: Curve): Float32Array => joined(pieces, (h) => h[name], ONSETS_PER_SECOND, 1);
  const attacks = pieces
    .flatMap(({ rhythm: { attacks: a }, fromSeconds, toSeconds }) =>
      [...a.seconds.keys()]
        .filter((i) => (a.seconds[i] as number) >= fromSeconds && (a.seconds[i] as number) < toSeconds)
        .map((i) => ({ at: a.seconds[i] as number, of: a, i })),
    )
    .sort((x, y) => x.at - y.at);
  const level = (name: Curve): Float32Array =>
    Float32Array.from(attacks, ({ of, i }) => of[name][i] as number);
  return {
    low: curve('low'),
    mid: curve('mid'),
    high: curve('high'),
    attacks: {
      seconds: Float64Array.from(attacks, (a) => a.at),
      low: level('low'),
      mid: level('mid'),
      high: level('high'),
    },
    chroma: joined(pieces, (h) => h.chroma, CHROMA_PER_SECOND, PITCH_CLASSES),
  };
}

/** Rows of `width` values, `perSecond` of them a second, each piece where it sounds. */
function joined(
  pieces: readonly RhythmPiece[],
  rowsOf: (rhythm: RhythmCurves) => Float32Array,
  perSecond: number,
  width: number,
): Float32Array {
  const spans = pieces.map(({ rhythm, fromSeconds, toSeconds }) => {
    const values = rowsOf(rhythm);
    return {
      values,
      from: Math.max(0, Math.ceil(fromSeconds * perSecond)) * width,
      to: Math.min(values.length, Math.ceil(toSeconds * perSecond) * width),
    };
  });
  const out = new Float32Array(spans.reduce((n, s) => Math.max(n, s.to), 0));
  for (const { values, from, to } of spans)
    for (let i = from; i < to; i++) out[i] = Math.max(out[i] as number, values[i] as number);
  return out;
}
