'use client';
import { FADE_SHAPES, type FadeShape, lanesOf } from '@/core/session';
import { useSession } from '@/ui/client';
import { Button, Kbd, Labelled, Line, NumberField, Select } from '@/ui/kit';
import type { TidyRow } from './tidy-rows';
import { type EdgeSnap, edgeSnap, SNAPS } from './use-edge-snap';
import type { HandTools } from './use-hand-tools';

const SNAP_WORDS: Readonly<Record<EdgeSnap, string>> = {
  nothing: 'where they are put',
  pulse: 'to the nearest pulse',
  hit: 'to the nearest hit',
  crossing: 'to where the wave crosses zero',
};
const SHAPE_WORDS: Readonly<Record<FadeShape, string>> = {
  'equal-gain': 'even (equal gain)',
  'equal-power': 'round (equal power)',
};
/** Longest fade, farthest slip, ms; range of the level of a piece, dB. */
const [LONGEST_FADE_MS, FARTHEST_SLIP_MS] = [60_000, 600_000];
const LEVEL_RANGE = { min: -60, max: 24 };

/** Working on the pieces of a track by hand. */
export function HandPanel({ row, tools }: { readonly row: TidyRow; readonly tools: HandTools }) {
  const snap = edgeSnap.use();
  const others = lanesOf(row.track).slice(1);
  return (
    <>
      <h3>By hand</h3>
      <Line as="p" align="start" wraps className="fm-below-1">
        <Button onClick={tools.split}>
          Split here <Kbd>T</Kbd>
        </Button>
        <Button onClick={tools.join} disabled={!tools.clip}>
          Join with the next <Kbd>J</Kbd>
        </Button>
        <Button onClick={tools.silence} disabled={!tools.clip}>
          {tools.clip?.off ? 'Let it sound' : 'Silence it'} <Kbd>V</Kbd>
        </Button>
        <Button onClick={tools.copy} disabled={!tools.clip}>
          Copy to here <Kbd>U</Kbd>
        </Button>
        <Button onClick={() => tools.cross()} disabled={!tools.clip}>
          Cross over <Kbd>W</Kbd>
        </Button>
        <Button onClick={() => tools.repair()}>
          Repair from here <Kbd>R</Kbd>
        </Button>
        {others.map((lane) => (
          <Button key={lane.id} onClick={() => tools.repair(lane.id)}>
            Repair from take {lane.takeNumber}
          </Button>
        ))}
      </Line>
      <p className="fm-faint fm-below-1">
        Here is the play position; <Kbd>Alt</Kbd> and a click set it and keep the piece in hand.
      </p>
      {tools.refused !== null && (
        <p className="fm-attention" role="status">
          {tools.refused}
        </p>
      )}
      <Labelled id="edge-snap" label="Edges and splits go" className="fm-below-2">
        <Select isNarrow value={snap} onChange={(e) => edgeSnap.set(e.target.value as EdgeSnap)}>
          {SNAPS.map((s) => (
            <option key={s} value={s}>
              {SNAP_WORDS[s]}
            </option>
          ))}
        </Select>
      </Labelled>
      <PieceFields tools={tools} />
    </>
  );
}

/** What the piece in hand is set to. */
function PieceFields({ tools }: { readonly tools: HandTools }) {
  const rateHz = useSession((s) => s.view.session.sampleRateHz) ?? 48_000;
  const { clip } = tools;
  if (!clip) return null;
  const inMs = (frames: number): number => Math.round((10_000 * frames) / rateHz) / 10;
  const inFrames = (ms: number): number => Math.round((ms / 1000) * rateHz);
  return (
    <>
      <div className="fm-tidy-times">
        <NumberField
          label="Slipped by, ms"
          value={inMs(clip.slipFrames)}
          step={1}
          min={-FARTHEST_SLIP_MS}
          max={FARTHEST_SLIP_MS}
          onKeep={(ms) => tools.slip(ms / 1000 - clip.slipFrames / rateHz)}
        />
        <NumberField label="Level, dB" value={clip.gainDb} step={0.5} {...LEVEL_RANGE} onKeep={tools.level} />
        <NumberField
          label="Fade in, ms"
          value={inMs(clip.fadeInFrames)}
          step={5}
          min={0}
          max={LONGEST_FADE_MS}
          onKeep={(ms) => tools.fade({ inFrames: inFrames(ms) })}
        />
        <NumberField
          label="Fade out, ms"
          value={inMs(clip.fadeOutFrames)}
          step={5}
          min={0}
          max={LONGEST_FADE_MS}
          onKeep={(ms) => tools.fade({ outFrames: inFrames(ms) })}
        />
      </div>
      <Labelled id="fade-shape" label="Shape of its fades" className="fm-below-2">
        <Select
          isNarrow
          value={clip.fadeOutShape}
          onChange={(e) => tools.fade({ shape: e.target.value as FadeShape })}
        >
          {FADE_SHAPES.map((s) => (
            <option key={s} value={s}>
              {SHAPE_WORDS[s]}
            </option>
          ))}
        </Select>
      </Labelled>
    </>
  );
}
