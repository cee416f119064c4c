'use client';

import { fieldLabel, PLAIN_FIELD_NAMES, plainField } from '@/core/model/changeFields';
import type { EntityForm } from '../kit/useEntityForm';
import { Field } from '../kit/Field';
import type { ChangeFormValues } from './formValues';

type Props = {
  readonly form: EntityForm<ChangeFormValues>;
  /** Draws the fields of several lines, or those of one. */
  readonly lines: boolean;
  /** The site's own values, which stand where a change says nothing. */
  readonly site: Readonly<Record<string, unknown>>;
};

/** The fields of a change that are drawn by their description alone. */
export function PlainFields({ form: { register, errorOf }, lines, site }: Props) {
  return PLAIN_FIELD_NAMES.map((name) => {
    const { control } = plainField(name);
    if (!control || (control.input === 'lines') !== lines) return null;
    const { input, placeholder, siteDefault } = control;
    return (
      <Field key={name} label={fieldLabel(name)} error={errorOf(name)}>
        {(c) =>
          lines ? (
            <textarea {...c} {...register(name)} rows={2} className="textarea w-full" />
          ) : (
            <input
              {...c}
              {...register(name)}
              inputMode={input === 'number' ? 'numeric' : 'text'}
              className="input w-full"
              placeholder={siteDefault ? `${String(site[name])}, as the site` : placeholder}
            />
          )
        }
      </Field>
    );
  });
}
