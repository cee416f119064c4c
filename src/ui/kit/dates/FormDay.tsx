'use client';

import { useController, type Control, type FieldPath, type FieldValues } from 'react-hook-form';
import { DayField, type DayTextProps } from './DayField';

type Props<T extends FieldValues> = Omit<DayTextProps, 'value' | 'onChange' | 'onBlur' | 'ref'> & {
  readonly control: Control<T>;
  readonly name: FieldPath<T>;
};

/** A day as a field of a form. */
export function FormDay<T extends FieldValues>({ control, name, ...rest }: Props<T>) {
  const { field } = useController({ control, name });
  return <DayField {...rest} {...field} disabled={rest.disabled ?? false} />;
}
