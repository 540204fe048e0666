/** A stretch of frames, half-open. */
export interface Span {
  readonly from: number;
  readonly to: number;
}

/** Runs of frames for which something holds. */
export function spansWhere(frames: number, holds: (frame: number) => boolean): Span[] {
  const out: Span[] = [];
  for (let n = 0; n < frames; n++) {
    if (!holds(n)) continue;
    const from = n;
    while (n < frames && holds(n)) n++;
    out.push({ from, to: n });
  }
  return out;
}

/** Joins spans (in order, they may overlap) that stand less than `gap` frames apart. */
export function joined(spans: readonly Span[], gap: number): Span[] {
  const out: Span[] = [];
  for (const span of spans) {
    const last = out.at(-1);
    if (last && span.from - last.to < Math.max(1, gap))
      out[out.length - 1] = { from: last.from, to: Math.max(last.to, span.to) };
    else out.push(span);
  }
  return out;
}

/** What of `frames` frames the spans (in order, apart) leave free. */
export function between(spans: readonly Span[], frames: number): Span[] {
  const out: Span[] = [];
  let from = 0;
  for (const span of spans) {
    if (span.from > from) out.push({ from, to: span.from });
    from = Math.max(from, span.to);
  }
  if (from < frames) out.push({ from, to: frames });
  return out;
}

/** Spans without what lies in others. */
export function without(spans: readonly Span[], others: readonly Span[]): Span[] {
  return spans.flatMap((span) => {
    const inside = others
      .filter((o) => o.to > span.from && o.from < span.to)
      .map((o) => ({
        from: Math.max(o.from, span.from) - span.from,
        to: Math.min(o.to, span.to) - span.from,
      }));
    return between(inside, span.to - span.from).map((s) => ({
      from: s.from + span.from,
      to: s.to + span.from,
    }));
  });
}
