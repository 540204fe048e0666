import type { Bus, Change } from '@/core/session';
import { formatPan, readNumber } from '@/ui/kit';
import { LEVEL_RANGE, levelText, PAN_RANGE, readPan } from './track-edits';

/** What of a bus is set by hand. */
export type BusFields = Partial<
  Pick<Bus, 'name' | 'color' | 'outputBusId' | 'sends' | 'gainDb' | 'pan' | 'muted'>
>;

/** A bus with fields as a person says. */
export const busEdit = (bus: Bus, fields: BusFields): Change => ({
  kind: 'bus.change',
  id: bus.id,
  fields: { ...fields, byHand: [...new Set([...bus.byHand, ...Object.keys(fields)])] },
});

/** A level or pan as it was typed for a bus, or why it cannot be. */
export function typedBusFields(
  field: 'level' | 'pan',
  text: string,
  bus: Bus,
): BusFields | { readonly error: string } {
  const read =
    field === 'level' ? readNumber(text, LEVEL_RANGE, bus.gainDb) : readPan(text, Math.round(bus.pan * 100));
  if ('error' in read) return read;
  return field === 'level' ? { gainDb: read.value } : { pan: read.value / 100 };
}

/** One step of a bus, by dB or by hundredths of the way to one side, as far as it can; null where it is at its end. */
export function steppedBusFields(field: 'level' | 'pan', by: number, bus: Bus): BusFields | null {
  const { min, max } = field === 'level' ? LEVEL_RANGE : PAN_RANGE;
  const now = field === 'level' ? bus.gainDb : Math.round(bus.pan * 100);
  // Beyond an end already, it is not moved further out.
  const next = Number(Math.max(Math.min(min, now), Math.min(Math.max(max, now), now + by)).toFixed(6));
  if (next === now) return null;
  return field === 'level' ? { gainDb: next } : { pan: next / 100 };
}

/** What a bus is set to, in words; empty where it leaves everything as it comes. */
export const busStripText = ({ gainDb, pan, muted }: Pick<Bus, 'gainDb' | 'pan' | 'muted'>): string =>
  [gainDb === 0 ? '' : `${levelText(gainDb)} dB`, pan === 0 ? '' : formatPan(pan), muted ? 'muted' : '']
    .filter(Boolean)
    .join(', ');
