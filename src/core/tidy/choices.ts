import type { TidyPiece } from './reasons';
import type { Span } from './spans';

/** What a person decided of a stretch, in frames of 20 ms: it stays, or goes. */
export interface TidyChoice extends Span {
  readonly keeps: boolean;
}

/** Pieces with what was decided by hand laid over them: in order, without a gap, later decisions over earlier ones; neighbours that both stay or both go are one. */
export function withChoices(
  pieces: readonly TidyPiece[],
  choices: readonly TidyChoice[],
): readonly TidyPiece[] {
  if (choices.length === 0) return pieces;
  let all = [...pieces];
  for (const choice of choices)
    all = all.flatMap((p): TidyPiece[] => {
      const [from, to] = [Math.max(p.from, choice.from), Math.min(p.to, choice.to)];
      if (to <= from) return [p];
      return [
        { ...p, to: from },
        { ...p, from, to, keeps: choice.keeps, confidence: 1 },
        { ...p, from: to },
      ].filter((x) => x.to > x.from);
    });
  const out: TidyPiece[] = [];
  for (const p of all) {
    const last = out.at(-1);
    if (last?.keeps === p.keeps)
      out[out.length - 1] = {
        ...(last.to - last.from >= p.to - p.from ? last : p),
        from: last.from,
        to: p.to,
        confidence: Math.min(last.confidence, p.confidence),
      };
    else out.push(p);
  }
  return out;
}
