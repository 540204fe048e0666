'use client';
import type { SnapGrid } from '@/core/time';
import { keptChoice, Line, Select } from '@/ui/kit';

const NAMES = [
  'pulse',
  'bar',
  '1/8',
  '1/16',
  '1/8 dotted',
  '1/8 triplets',
  '1/16 triplets',
  '1/8 swung',
  '1/16 swung',
  'none',
] as const;
type Snap = (typeof NAMES)[number];
const TEXTS: Readonly<Partial<Record<Snap, string>>> = { pulse: 'pulses', bar: 'bars', none: 'nothing' };
const FEELS = { dotted: 'dotted', triplets: 'triplet', swung: 'swing' } as const;
const RATIOS = ['2', '1.2', '1.4', '1.5', '1.6', '1.8', '2.5', '3'] as const;

const chosen = keptChoice<Snap>('fernmoss.snap', [...NAMES]);
const swing = keptChoice<(typeof RATIOS)[number]>('fernmoss.snap-swing', [...RATIOS]);

/** What points are set to: places of the music. Kept in this browser. */
export function useSnap(): SnapGrid {
  const name = chosen.use();
  const ratio = Number(swing.use());
  if (name === 'pulse' || name === 'bar' || name === 'none') return { to: name };
  const [note = '', feel] = name.split(' ') as [string, keyof typeof FEELS | undefined];
  return {
    to: 'notes',
    value: Number(note.slice(2)) as 8 | 16,
    feel: feel ? FEELS[feel] : 'straight',
    ratio,
  };
}

/** The choice of {@link useSnap}. */
export function SnapChoice() {
  const name = chosen.use();
  const ratio = swing.use();
  return (
    <Line as="label" className="fm-below-1">
      <span className="fm-nowrap">Points go to</span>
      <Select
        isNarrow
        aria-label="Points go to"
        value={name}
        onChange={(e) => chosen.set(e.target.value as Snap)}
      >
        {NAMES.map((n) => (
          <option key={n} value={n}>
            {TEXTS[n] ?? n}
          </option>
        ))}
      </Select>
      {name.endsWith('swung') && (
        <Select
          isNarrow
          aria-label="Long to short"
          title="How much longer the first of two is"
          value={ratio}
          onChange={(e) => swing.set(e.target.value as typeof ratio)}
        >
          {[...RATIOS].sort().map((r) => (
            <option key={r} value={r}>
              {r} : 1
            </option>
          ))}
        </Select>
      )}
    </Line>
  );
}
