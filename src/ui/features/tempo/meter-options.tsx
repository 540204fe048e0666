import type { Meter } from '@/core/time';

const METERS = ['2/4', '3/4', '4/4', '5/4', '6/4', '7/4', '5/8', '6/8', '7/8', '9/8', '12/8'];

/** A meter as people write it. */
export const meterText = (m: Meter | undefined): string => (m ? `${m.numerator}/${m.denominator}` : '4/4');

/** The usual meters, and the one there is. */
export function MeterOptions({ also }: { readonly also: Meter | undefined }) {
  return (
    <>
      {[...new Set([meterText(also), ...METERS])].map((m) => (
        <option key={m} value={m}>
          {m}
        </option>
      ))}
    </>
  );
}

/** The two numbers of a meter written so. */
export const meterOf = (text: string): { readonly numerator: number; readonly denominator: number } => {
  const [numerator = 4, denominator = 4] = text.split('/').map(Number);
  return { numerator, denominator };
};
