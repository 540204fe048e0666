import { useEffect, useRef, useState } from 'react';

/** How far a job was when. */
interface Sample {
  readonly atMs: number;
  readonly progress: number;
}

/** Over how long the speed of a job is taken; before the second it is too early to say. */
const [LONGEST_MS, SHORTEST_MS] = [60_000, 4_000];

/** Samples of a job with one more; those too old to say how fast it is now are dropped, all if it begins again. */
export function withSample(samples: readonly Sample[], sample: Sample): readonly Sample[] {
  const last = samples.at(-1);
  if (last && sample.progress < last.progress) return [sample];
  if (last?.progress === sample.progress) return samples;
  const recent = samples.filter((s) => sample.atMs - s.atMs <= LONGEST_MS);
  // One at least, so that a slow job still has a speed.
  return [...(recent.length > 0 ? recent : samples.slice(-1)), sample];
}

/** Seconds a job may still take, by its speed of late; null = too early to say. */
export function secondsLeft(samples: readonly Sample[], nowMs: number): number | null {
  const [first, last] = [samples[0], samples.at(-1)];
  if (!first || !last || nowMs - first.atMs < SHORTEST_MS || last.progress <= first.progress) return null;
  // A job that stands still gets slower while one looks.
  const perMs = (last.progress - first.progress) / (nowMs - first.atMs);
  return (1 - last.progress) / perMs / 1000;
}

/** A time left in words that do not pretend to know it to the second. */
export function leftText(seconds: number): string {
  if (seconds < 8) return 'a few seconds left';
  if (seconds < 55) return `about ${Math.ceil(seconds / 10) * 10} s left`;
  if (seconds < 5400) return `about ${Math.max(1, Math.round(seconds / 60))} min left`;
  return `about ${Math.round(seconds / 3600)} h left`;
}

const LOOK_MS = 1000;

/** Time left of the running jobs, by id, in words; looked at every second. */
export function useTimeLeft(
  running: readonly { readonly id: string; readonly progress: number }[],
): ReadonlyMap<string, string> {
  const [left, setLeft] = useState<ReadonlyMap<string, string>>(new Map());
  const latest = useRef(running);
  useEffect(() => {
    latest.current = running;
  });
  useEffect(() => {
    let samples = new Map<string, readonly Sample[]>();
    const look = (): void => {
      if (latest.current.length === 0 && samples.size === 0) return;
      const nowMs = performance.now();
      samples = new Map(
        latest.current.map((j) => [
          j.id,
          withSample(samples.get(j.id) ?? [], { atMs: nowMs, progress: j.progress }),
        ]),
      );
      setLeft(
        new Map(
          [...samples].flatMap(([id, s]) => {
            const seconds = secondsLeft(s, nowMs);
            return seconds === null ? [] : [[id, leftText(seconds)] as const];
          }),
        ),
      );
    };
    const timer = setInterval(look, LOOK_MS);
    return () => clearInterval(timer);
  }, []);
  return left;
}
