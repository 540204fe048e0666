/** Weights of the figures by which a reading's confidence is told, learned from 15339 readings; made by `npm run train:names`. */
export const CALIBRATION: { readonly bias: number; readonly weights: readonly number[] } = {
  bias: 1.8201,
  weights: [
    0.787, 1.3226, -3.8437, -0.4993, -0.3928, -0.9929, 0.6977, 0.0481, -0.2533, -1.3511, -0.3004, 1.0486,
    -0.3953, 0.5698, 0.0103, -5.4964, 1.3407, -0.125, 0.2792, -0.2529, -1.5823, -0.5693, -0.1543,
  ],
};
