import type { SoundName, SoundPiece } from '@/contracts';
import { decodePart, soundParts } from '@/core/audio';

/** Stretches of sound at the session's rate, channels apart; empty where there is no such sound. */
export async function fetchSound(
  pieces: readonly (SoundPiece & { readonly sound: SoundName })[],
): Promise<Float32Array[][]> {
  const response = await fetch('/api/sound', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ pieces }),
  });
  if (!response.ok) return pieces.map(() => []);
  return soundParts(new Uint8Array(await response.arrayBuffer())).map(decodePart);
}
