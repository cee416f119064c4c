'use client';

import { useRouter } from 'next/navigation';
import { useEffect } from 'react';
import { useForm } from 'react-hook-form';
import { newSiteSchema, timeZoneSchema, type NewSite } from '@/core/model/site';
import { attempt, type Act } from '../kit/attempt';
import { DraftNote } from '../kit/DraftNote';
import { Field } from '../kit/Field';
import { FormBody } from '../kit/FormBody';
import { useDraft } from '../kit/useDraft';
import { routes } from '../shell/routes';

const EMPTY: NewSite = { name: '', address: '' };

/** The time zone of the browser; null where it does not tell. */
function browserTimeZone(): string | null {
  const told = timeZoneSchema.safeParse(Intl.DateTimeFormat().resolvedOptions().timeZone);
  return told.success ? told.data : null;
}

/** Adds a site, and goes on to bring its figures in. */
export function NewSiteForm({ add }: { add: Act<[site: NewSite], number> }) {
  const router = useRouter();
  const { register, handleSubmit, setError, reset, watch, formState } = useForm<NewSite>({
    defaultValues: EMPTY,
  });
  const kept = useDraft<NewSite>({ what: 'site:new', base: EMPTY, show: (values) => reset(values) });
  const { keep } = kept;
  useEffect(() => {
    const { unsubscribe } = watch((values) => keep(values as NewSite));
    return unsubscribe;
  }, [watch, keep]);
  const { errors, isSubmitting } = formState;
  const submit = handleSubmit(async (values) => {
    const checked = newSiteSchema.safeParse({ ...values, timeZone: browserTimeZone() });
    const result = checked.success
      ? await attempt(() => add(checked.data))
      : {
          ok: false as const,
          errors: checked.error.issues.map((i) => ({ field: i.path.join('.'), message: i.message })),
        };
    if (result.ok) {
      kept.forget();
      router.push(routes.intake(result.value));
    } else result.errors.forEach(({ field, message }) => setError(field as keyof NewSite, { message }));
  });
  return (
    <form onSubmit={(e) => void submit(e)} noValidate>
      <FormBody className="space-y-3">
        <DraftNote kept={kept} nameOf={({ name }) => name} />
        <Field label="Name" error={errors.name?.message}>
          {(c) => (
            <input
              {...c}
              {...register('name')}
              autoFocus
              className="input w-full"
              placeholder="Quillow Bee Yard"
            />
          )}
        </Field>
        <Field
          label="Address"
          hint="Pages with http or https, with or without www., are taken as the same."
          error={errors.address?.message}
        >
          {(c) => (
            <input
              {...c}
              {...register('address')}
              className="input w-full"
              placeholder="https://www.quillow-bees.example"
            />
          )}
        </Field>
        {errors.root?.message && (
          <p role="alert" className="text-error">
            {errors.root.message}
          </p>
        )}
        <button type="submit" className="btn btn-primary" disabled={isSubmitting}>
          Add the site
        </button>
      </FormBody>
    </form>
  );
}
