'use client';
import { useEffect, useMemo, useRef } from 'react';
import type { NotesView } from '@/contracts';
import type { Track } from '@/core/session';
import { createSongMap } from '@/core/time';
import { useSession } from '@/ui/client';
import { freshCanvas, useTheme } from '@/ui/kit';
import { useNotes } from './use-notes';

/** A stretch of the song in a box. */
export interface NotesPictureProps {
  readonly track: Track;
  readonly width: number;
  readonly height: number;
  readonly fromSeconds: number;
  readonly toSeconds: number;
  readonly color: string;
}

/** Draws notes where they lie in the song: a line each, high ones above. */
export function NotesPicture({ track, width, height, fromSeconds, toSeconds, color }: NotesPictureProps) {
  const ref = useRef<HTMLCanvasElement>(null);
  const { theme } = useTheme();
  const view = useNotes(track.recordingId);
  const map = useSession((s) => s.view.session.map);
  const startSeconds = useSession((s) => track.startFrames / (s.view.session.sampleRateHz ?? 48_000));
  const lines = useMemo(
    () =>
      view
        ? linesOf(
            view,
            track.tiedTo === 'bars' && map ? createSongMap(map.points, map.meters).tempo.toSeconds : null,
            startSeconds,
          )
        : [],
    [view, track.tiedTo, map, startSeconds],
  );
  useEffect(() => {
    const context = freshCanvas(ref.current, width, height);
    if (!context) return;
    context.fillStyle = color;
    const perSecond = width / (toSeconds - fromSeconds);
    const lowest = lines.reduce((m, l) => Math.min(m, l.pitch), 127);
    const range = Math.max(12, lines.reduce((m, l) => Math.max(m, l.pitch), 0) - lowest);
    for (const l of lines) {
      const x = (l.from - fromSeconds) * perSecond;
      const w = Math.max(1, (l.to - l.from) * perSecond);
      if (x + w < 0 || x > width) continue;
      context.fillRect(x, (height - 3) * (1 - (l.pitch - lowest) / range), w, 2);
    }
  }, [lines, width, height, fromSeconds, toSeconds, color, theme]);
  return <canvas ref={ref} style={{ width, height, display: 'block' }} aria-hidden="true" />;
}

/** Where each note sounds, seconds of the song. */
function linesOf(
  view: NotesView,
  barTime: ((quarters: number) => number) | null,
  startSeconds: number,
): { readonly from: number; readonly to: number; readonly pitch: number }[] {
  return view.notes.map((n) =>
    barTime && n.quarters !== null && n.lengthQuarters !== null
      ? { from: barTime(n.quarters), to: barTime(n.quarters + n.lengthQuarters), pitch: n.pitch }
      : { from: n.seconds + startSeconds, to: n.seconds + n.lengthSeconds + startSeconds, pitch: n.pitch },
  );
}
