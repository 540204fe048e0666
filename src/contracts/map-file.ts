import * as yup from 'yup';

/** Our JSON map as it may come from outside. */
export const mapFileSchema = yup
  .object({
    schemaVersion: yup.number().oneOf([1]).required(),
    points: yup
      .array(
        yup
          .object({
            quarters: yup.number().required(),
            seconds: yup.number().required(),
            ramp: yup.number().min(0.05).max(20),
          })
          .noUnknown(),
      )
      .min(2)
      .max(100_000)
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
