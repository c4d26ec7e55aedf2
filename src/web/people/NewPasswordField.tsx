import type { ComponentProps } from 'react';
import { TextField } from '../kit/fields';

/** A password to be chosen, and what makes a good one. */
export function NewPasswordField({
  label = 'Password',
  ...field
}: Partial<ComponentProps<typeof TextField>>) {
  return (
    <TextField
      {...field}
      label={label}
      type="password"
      autoComplete="new-password"
      hint="At least 10 characters. Three words that nobody would put together are good."
    />
  );
}
