'use client';
import { memo, useEffect, useRef } from 'react';
import { drawSoon, freshCanvas, useLevelScale, useTheme } from '@/ui/kit';
import { drawTidy, type TidyPicture } from './draw-tidy';

interface Props extends TidyPicture {
  readonly width: number;
  readonly height: number;
  /** Of the song, seconds. */
  readonly length: number;
}

/** The picture of a row, drawn anew when something of it is another. */
export const TidyWave = memo(function TidyWave({ width, height, length, ...picture }: Props) {
  const ref = useRef<HTMLCanvasElement>(null);
  const { theme } = useTheme();
  const scale = useLevelScale();
  const { wave, pieces, fades, inHand, rateHz, color, thresholdDb } = picture;
  useEffect(
    () =>
      drawSoon(() => {
        const context = freshCanvas(ref.current, width, height);
        if (context)
          drawTidy(
            context,
            { wave, pieces, fades, inHand, rateHz, color, thresholdDb },
            { width, height, length, scale },
          );
      }),
    [wave, pieces, fades, inHand, rateHz, color, thresholdDb, width, height, length, scale, theme],
  );
  return <canvas ref={ref} className="fm-tidy-wave" style={{ width, height }} aria-hidden="true" />;
});
