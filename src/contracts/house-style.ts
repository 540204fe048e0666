import * as yup from 'yup';
import { FAMILIES, type Family } from '@/core/naming';
import { DEFAULT_STYLE, type HouseStyle } from '@/core/style';
import { err, ok, type Result } from '@/core/units';

const color = yup.string().matches(/^#[0-9a-f]{6}$/i, '${path} must be a colour like #3f7d4e');
const perFamily = (value: yup.StringSchema<string | undefined>) => yup.object(Object.fromEntries(FAMILIES.map((f) => [f, value]))).noUnknown();
const families = yup.array(yup.mixed<Family>().oneOf([...FAMILIES]).required());

/** A word of a house or a delivery: lower case, without marks, as names are compared. */
export const ownWordSchema = yup.object({ text: yup.string().matches(/^[\p{L}\p{N}#&]+( [\p{L}\p{N}#&]+){0,3}$/u, '${path} must be one to four words without punctuation').lowercase().max(60).required(), family: yup.mixed<Family>().oneOf([...FAMILIES]).required(), part: yup.string().matches(/^[a-z0-9][a-z0-9-]{0,39}$/, '${path} must be a noun like hand-drum').nullable().default(null) }).noUnknown();

/** A house style as it may come from a file; whatever is left out is as in the default style. */
export const houseStyleSchema = yup.object({
  name: yup.string().trim().min(1).max(80),
  version: yup.number().integer().min(1),
  words: yup.array(ownWordSchema).max(2000),
  colors: perFamily(color),
  folders: yup.array(yup.object({
    key: yup.string().matches(/^[a-z][a-z-]{0,39}$/).required(),
    name: yup.string().trim().min(1).max(60).required(),
    families: families.min(1).required(),
    bus: yup.string().trim().min(1).max(60).nullable().default(null),
    atLeast: yup.number().integer().min(1).max(99).default(1),
  }).noUnknown()).max(60),
  partOrder: yup.array(yup.string().max(60).required()).max(500),
  fileWords: perFamily(yup.string().matches(/^[A-Za-z0-9_-]{1,16}$/)),
  maxFileNameLength: yup.number().integer().min(8).max(64),
  muted: families,
  leadInBars: yup.number().integer().min(1).max(8),
}).noUnknown();

/** A style from parsed YAML or JSON: merged with the default, or all that is wrong with it. */
export function parseHouseStyle(value: unknown): Result<HouseStyle, { readonly code: 'request.invalid'; readonly issues: readonly string[] }> {
  try {
    const given = houseStyleSchema.validateSync(value, { abortEarly: false, strict: true });
    const cast = houseStyleSchema.cast(given) as Partial<HouseStyle>;
    return ok({ ...DEFAULT_STYLE, ...cast, colors: { ...DEFAULT_STYLE.colors, ...cast.colors }, fileWords: { ...DEFAULT_STYLE.fileWords, ...cast.fileWords } });
  } catch (cause) {
    if (cause instanceof yup.ValidationError) return err({ code: 'request.invalid', issues: cause.errors });
    throw cause;
  }
}
