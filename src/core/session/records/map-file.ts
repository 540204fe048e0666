import * as yup from 'yup';
import type { SongMapFile } from '../../time';
import { numbers, rows } from './plain-rows';

/** Our JSON map as it may come from outside. */
export const mapFileSchema = yup
  .object({
    schemaVersion: yup.number().oneOf([1]).required(),
    points: rows<SongMapFile['points'][number]>({
      quarters: numbers(-Infinity, Infinity),
      seconds: numbers(-Infinity, Infinity),
      ramp: numbers(0.05, 20, { optional: true }),
    })
      .min(2)
      .required(),
    meters: yup
      .array(
        yup
          .object({
            bar: yup.number().integer().required(),
            numerator: yup.number().integer().required(),
            denominator: yup.number().integer().required(),
            groups: yup.array(yup.number().integer().min(1).max(64).required()).max(64),
            number: yup.number().integer().min(-999).max(9999),
          })
          .noUnknown(),
      )
      .min(1)
      .max(10_000)
      .required(),
  })
  .noUnknown();
