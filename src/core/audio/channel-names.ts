/** Speaker positions in the order of their bits (WAVEFORMATEXTENSIBLE, 2001). */
const POSITIONS = [
  'front left',
  'front right',
  'centre',
  'LFE',
  'back left',
  'back right',
  'left of centre',
  'right of centre',
  'back centre',
  'side left',
  'side right',
  'top',
  'top front left',
  'top front',
  'top front right',
  'top back left',
  'top back',
  'top back right',
] as const;

/** What a channel of a file with many is called: as the recorder named it, else its speaker, else its number from 1. */
export function channelName(
  channel: number,
  trackNames: readonly string[],
  channelMask: number,
  channels: number,
): string {
  const named = trackNames.length === channels ? trackNames[channel] : undefined;
  if (named) return named;
  const speakers = POSITIONS.filter((_, bit) => (channelMask & (1 << bit)) !== 0);
  return (speakers.length === channels ? speakers[channel] : undefined) ?? `channel ${channel + 1}`;
}
