'use client';
import { useEffect, useState } from 'react';
import { loudestStretch } from '@/core/analysis';
import type { FindingFile } from '@/core/findings';
import { fetchSound, loadPeaks, useSession } from '@/ui/client';
import { Button } from '@/ui/kit';

const WIDTH = 268;
const HEIGHT = 84;
const SHOWN_SECONDS = 0.02;
const BEFORE_SECONDS = 0.004;
const SEARCH_SECONDS = 0.5;
const ENVELOPE_FRAMES = 1024;

interface Lines {
  readonly leader: Float32Array;
  readonly other: Float32Array;
}

/** Two microphones over each other at a loud hit, each at its own scale: what the figures say, to see. */
export function MicOverlay({
  leaderId,
  otherId,
  figures,
  nameOf,
}: {
  readonly leaderId: string;
  readonly otherId: string;
  readonly figures: FindingFile['figures'];
  readonly nameOf: (id: string) => string;
}) {
  const rate = useSession((s) => s.view.session.sampleRateHz) ?? 48_000;
  const recordingRate =
    useSession((s) => s.view.recordings.find((r) => r.id === leaderId)?.passingHz) ?? rate;
  const [lines, setLines] = useState<Lines | null>(null);
  const [aligned, setAligned] = useState(false);
  useEffect(() => {
    let live = true;
    void (async () => {
      const peaks = await loadPeaks(leaderId, ENVELOPE_FRAMES);
      if (!peaks) return;
      const from = Math.round(loudestStretch(peaks, recordingRate, SEARCH_SECONDS) * rate);
      const count = Math.round((SEARCH_SECONDS + 2 * SHOWN_SECONDS) * rate);
      const [leader, other] = await fetchSound(
        [leaderId, otherId].map((id) => ({ sound: `recordings/${id}`, from, count })),
      );
      if (live && leader?.[0] && other?.[0]) setLines(atHit(leader[0], other[0], rate));
    })();
    return () => {
      live = false;
    };
  }, [leaderId, otherId, rate, recordingRate]);
  const delay = (Number(figures.delayMs) / 1000) * rate;
  const turn = Number(figures.correlation) < 0 ? -1 : 1;
  return (
    <figure className="fm-overlay">
      <svg
        width={WIDTH}
        height={HEIGHT}
        role="img"
        aria-label={`${nameOf(leaderId)} and ${nameOf(otherId)} over each other, 20 milliseconds at a hit`}
      >
        <line x1={0} x2={WIDTH} y1={HEIGHT / 2} y2={HEIGHT / 2} className="fm-plot-line" />
        {lines && <path d={pathOf(lines.leader, 0, 1, rate)} className="fm-overlay-leader" />}
        {lines && (
          <path
            d={pathOf(lines.other, aligned ? delay : 0, aligned ? turn : 1, rate)}
            className="fm-overlay-other"
          />
        )}
      </svg>
      <figcaption className="fm-ends">
        <span>
          <span className="fm-overlay-key-leader">―</span> leader{' '}
          <span className="fm-overlay-key-other">┄</span> this, 20 ms
        </span>
        <Button tone="quiet" aria-pressed={aligned} onClick={() => setAligned(!aligned)}>
          {aligned ? 'As it is' : 'As aligned'}
        </Button>
      </figcaption>
    </figure>
  );
}

/** Both from just before the highest peak of the leader. */
function atHit(leader: Float32Array, other: Float32Array, rate: number): Lines {
  let top = 0;
  leader.forEach((x, i) => {
    if (Math.abs(x) > Math.abs(leader[top] as number)) top = i;
  });
  const from = Math.max(0, top - Math.round(BEFORE_SECONDS * rate));
  const to = from + Math.round(2 * SHOWN_SECONDS * rate);
  return { leader: leader.slice(from, to), other: other.slice(from, to) };
}

function pathOf(samples: Float32Array, shift: number, turn: 1 | -1, rate: number): string {
  const count = Math.round(SHOWN_SECONDS * rate);
  const top = samples.reduce((m, x) => Math.max(m, Math.abs(x)), 1e-6);
  const points: string[] = [];
  for (let x = 0; x <= WIDTH; x++) {
    const at = (x / WIDTH) * count + shift;
    const value = samples[Math.round(at)];
    if (value !== undefined)
      points.push(
        `${points.length === 0 ? 'M' : 'L'}${x} ${(HEIGHT / 2 - ((turn * value) / top) * (HEIGHT / 2 - 3)).toFixed(1)}`,
      );
  }
  return points.join('');
}
