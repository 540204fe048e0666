import { gainsByStretch, MixGramBuilder } from '@/core/balance';
import type { MixWindows } from '@/core/takes';
import { BLOCK, blocksOf, layoutOf } from './balance-files';
import { alignmentOf } from './mix-alignment';
import { endOfFile, type OpenPlaced } from './placed-files';

/** A mix is asked stretch by stretch of this length, s. */
const SECONDS = 2;
/** What is explained less is no mix of these tracks, or too much another one to be asked. */
const LEAST_SHARE = 0.3;

/** How strong each track stands in a mix, stretch after stretch; null where they have too little in common. All at one rate. */
export async function mixWindowsOf(
  tracks: readonly OpenPlaced[],
  mix: OpenPlaced,
): Promise<MixWindows | null> {
  const alignment = await alignmentOf(tracks, mix);
  if (!alignment) return null;
  const song = { tracks, mix, alignment, length: Math.max(...tracks.map(endOfFile)) };
  const builder = new MixGramBuilder(...layoutOf(song));
  for (let at = 0; at < song.length; at += BLOCK) {
    const { own, mixed } = await blocksOf(song, at, Math.min(BLOCK, song.length - at));
    builder.push([...own, ...mixed]);
  }
  const { share, gains } = gainsByStretch(builder.finish(), SECONDS);
  return share < LEAST_SHARE ? null : { seconds: SECONDS, gains };
}
