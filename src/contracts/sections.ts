import * as yup from 'yup';
import { SECTION_KINDS, type SectionKind } from '@/core/sections';

const figure = () => yup.number().required();
const bar = () => yup.number().integer().nullable().defined();

const sectionsSchema = yup
  .object({
    /** Hash of the map on whose bar lines they lie; null = there was none, and they lie in time. */
    map: yup.string().nullable().defined(),
    sections: yup
      .array(
        yup
          .object({
            name: yup.string().required(),
            kind: yup.mixed<SectionKind>().oneOf(SECTION_KINDS).required(),
            kindConfidence: figure(),
            /** The same letter for alike sections. */
            like: yup.string().required(),
            fromSeconds: figure(),
            toSeconds: figure(),
            /** Inner number of the bar at whose line it begins; ends. */
            fromBar: bar(),
            toBar: bar(),
            /** How likely a section begins here, 0–1. */
            confidence: figure(),
          })
          .required(),
      )
      .required(),
    /** Where one might begin as well. */
    maybe: yup
      .array(yup.object({ seconds: figure(), bar: bar(), confidence: figure() }).required())
      .required(),
  })
  .required();

/** Sections that were found in a session. */
export type SectionsResult = yup.InferType<typeof sectionsSchema>;

/** What a job kept; null where it was kept in another way than today. */
export const readSections = (kept: unknown): SectionsResult | null =>
  sectionsSchema.isValidSync(kept, { strict: true }) ? kept : null;
