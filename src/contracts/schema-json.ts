import type * as yup from 'yup';

/** JSON Schema of a Yup schema, as far as this file uses Yup. */
export function schemaJson(schema: yup.Schema): Record<string, unknown> {
  return describedJson(schema.describe());
}

type Described = yup.SchemaFieldDescription & {
  readonly meta?: { readonly jsonSchema?: Record<string, unknown> };
  readonly nullable?: boolean;
  readonly optional?: boolean;
  readonly oneOf?: readonly unknown[];
  readonly tests?: readonly { readonly name?: string; readonly params?: Record<string, unknown> }[];
  readonly fields?: Record<string, yup.SchemaFieldDescription>;
  readonly innerType?: yup.SchemaFieldDescription;
};

const LIMITS: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  string: { min: 'minLength', max: 'maxLength' },
  number: { min: 'minimum', max: 'maximum' },
  array: { min: 'minItems', max: 'maxItems' },
};

function describedJson(given: yup.SchemaFieldDescription): Record<string, unknown> {
  const d = given as Described;
  if (d.meta?.jsonSchema) return d.meta.jsonSchema;
  const tests = d.tests ?? [];
  const type = d.type === 'number' && tests.some((t) => t.name === 'integer') ? 'integer' : d.type;
  const out: Record<string, unknown> = { type: d.nullable ? [type, 'null'] : type };
  for (const t of tests) {
    const limit = t.name === undefined ? undefined : LIMITS[d.type]?.[t.name];
    if (limit) out[limit] = t.params?.[t.name as string];
    if (t.name === 'matches' && t.params?.regex instanceof RegExp)
      out.pattern = t.params.regex.flags.includes('i')
        ? t.params.regex.source.replaceAll('a-f', 'A-Fa-f')
        : t.params.regex.source;
  }
  if (d.oneOf && d.oneOf.length > 0) out.enum = d.nullable ? [...d.oneOf, null] : d.oneOf;
  if (d.fields) {
    out.properties = Object.fromEntries(Object.entries(d.fields).map(([k, f]) => [k, describedJson(f)]));
    const needed = Object.entries(d.fields)
      .filter(([, f]) => (f as Described).optional === false)
      .map(([k]) => k);
    if (needed.length > 0) out.required = needed;
  }
  if (d.innerType) out.items = describedJson(d.innerType);
  return out;
}
