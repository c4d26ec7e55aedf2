import type { ComponentProps } from 'react';
import { useController } from 'react-hook-form';
import type { Control, FieldPathByValue, FieldValues } from 'react-hook-form';
import { CheckField } from './fields';
import { SelectField } from './Select';

/** Which field of which form. A form's text fields need none of these: they are registered. */
interface Bound<Values extends FieldValues, Type> {
  readonly control: Control<Values>;
  readonly name: FieldPathByValue<Values, Type>;
}

/** A {@link SelectField} that holds a field of a form; what the form says is wrong with the field stands below it. */
export function FormSelect<Values extends FieldValues>({
  control,
  name,
  refused,
  ...rest
}: Bound<Values, string> & {
  /** What the server says is wrong with the field, where the form itself does not know. */
  readonly refused?: string | undefined;
} & Omit<ComponentProps<typeof SelectField>, 'value' | 'onChange' | 'onBlur' | 'error'>) {
  const { field, fieldState } = useController({ control, name });
  return (
    <SelectField
      {...rest}
      value={field.value}
      onChange={field.onChange}
      onBlur={field.onBlur}
      error={fieldState.error?.message ?? refused}
    />
  );
}

/** A {@link CheckField} that holds a yes or no of a form. */
export function FormCheck<Values extends FieldValues>({
  control,
  name,
  ...rest
}: Bound<Values, boolean> & Omit<ComponentProps<typeof CheckField>, 'checked' | 'onChange' | 'onBlur'>) {
  const { field } = useController({ control, name });
  return <CheckField {...rest} checked={field.value} onChange={field.onChange} onBlur={field.onBlur} />;
}
