import { type Control, type FieldPath, type FieldValues, useController } from 'react-hook-form';
import type { ComponentPropsWithoutRef } from 'react';
import { Field } from './field';

/** A {@link Field} of a form: its value and what is wrong with it come from there. */
export function FormField<Values extends FieldValues>({
  control,
  name,
  ...rest
}: Omit<ComponentPropsWithoutRef<typeof Field>, 'value' | 'error' | 'onChange' | 'name'> & {
  readonly control: Control<Values>;
  readonly name: FieldPath<Values>;
}) {
  const { field, fieldState } = useController({ control, name });
  return (
    <Field
      {...rest}
      name={name}
      value={field.value}
      error={fieldState.error?.message ?? null}
      onBlur={field.onBlur}
      onChange={field.onChange}
    />
  );
}
