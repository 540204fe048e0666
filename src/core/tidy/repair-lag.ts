/** How far a sound that takes over should begin earlier (negative) or later, frames: where it is most like what it takes over from. `other` reaches `reach` frames farther than `around` on both sides. 0 where one is silent. */
export function repairLag(around: Float32Array, other: Float32Array, reach: number): number {
  let best = { lag: 0, like: 0 };
  for (let lag = -reach; lag <= reach; lag++) {
    let [product, energy] = [0, 0];
    for (let i = 0; i < around.length; i++) {
      const x = other[i + reach + lag] ?? 0;
      product += (around[i] as number) * x;
      energy += x * x;
    }
    const like = energy > 0 ? product / Math.sqrt(energy) : 0;
    if (like > best.like) best = { lag, like };
  }
  return best.lag;
}
