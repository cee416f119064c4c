'use client';

import { useForm } from 'react-hook-form';
import { siteSettingsSchema, type Site, type SiteSettings } from '@/core/model/site';
import { Field } from '../parts/Field';
import { FormBody } from '../parts/FormBody';
import type { FormResult } from '../parts/formResult';
import { useToast } from '../parts/Toast';

type Values = Record<keyof SiteSettings, string>;

type Props = { site: Site; save: (siteId: number, settings: SiteSettings) => Promise<FormResult<null>> };

const NUMBERS = [
  ['windowDays', 'Days in each span', 'Whole weeks count each weekday equally; 28 is usual.'],
  ['settlingDays', 'Settling days', 'Left out after a change, until the result page shows it.'],
  [
    'provisionalDays',
    'Provisional days',
    'The newest days of a fresh file, still revised at the source: shown, not read.',
  ],
  [
    'undoDays',
    'Days for which a file can be undone',
    'What was replaced longer ago is folded together, so that a daily feed does not fill the disk.',
  ],
] as const;

/** Name of a site and the numbers that shape its readings. */
export function SettingsForm({ site, save }: Props) {
  const say = useToast();
  const { register, handleSubmit, setError, formState } = useForm<Values>({
    defaultValues: {
      name: site.name,
      windowDays: String(site.windowDays),
      settlingDays: String(site.settlingDays),
      provisionalDays: String(site.provisionalDays),
      undoDays: String(site.undoDays),
      privateHosts: site.privateHosts.join('\n'),
    },
  });
  const { errors, isSubmitting } = formState;
  const submit = handleSubmit(async (values) => {
    const number = (text: string) => (text.trim() === '' ? NaN : Number(text));
    const checked = siteSettingsSchema.safeParse({
      name: values.name,
      windowDays: number(values.windowDays),
      settlingDays: number(values.settlingDays),
      provisionalDays: number(values.provisionalDays),
      undoDays: number(values.undoDays),
      privateHosts: values.privateHosts
        .split('\n')
        .map((line) => line.trim())
        .filter(Boolean),
    });
    if (!checked.success) {
      for (const { path, message } of checked.error.issues) setError(path[0] as keyof Values, { message });
      return;
    }
    const result = await save(site.id, checked.data);
    if (result.ok) say('Saved. Readings follow the new settings at once.');
    else result.errors.forEach(({ field, message }) => setError(field as keyof Values, { message }));
  });
  return (
    <form onSubmit={(e) => void submit(e)} noValidate className="max-w-md">
      <FormBody className="space-y-3">
        <Field label="Name" error={errors.name?.message}>
          {(c) => <input {...c} {...register('name')} className="input w-full" />}
        </Field>
        <Field label="Address" hint="Stays as it is: the addresses of all pages begin with it.">
          {(c) => <input {...c} value={site.address} readOnly className="input w-full opacity-70" />}
        </Field>
        {NUMBERS.map(([name, label, hint]) => (
          <Field key={name} label={label} hint={hint} error={errors[name]?.message}>
            {(c) => <input {...c} {...register(name)} inputMode="numeric" className="input w-24" />}
          </Field>
        ))}
        <Field
          label="Hosts on your own network"
          hint="One a line. Pages are fetched from the open internet only, unless their host stands here."
          error={errors.privateHosts?.message}
        >
          {(c) => (
            <textarea
              {...c}
              {...register('privateHosts')}
              rows={2}
              className="textarea w-full"
              placeholder="staging.quillow-bees.example"
            />
          )}
        </Field>
        <button type="submit" className="btn btn-primary btn-sm" disabled={isSubmitting}>
          Save
        </button>
      </FormBody>
    </form>
  );
}
