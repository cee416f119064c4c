'use client';

import { useRouter } from 'next/navigation';
import { useForm } from 'react-hook-form';
import { newSiteSchema, type NewSite } from '@/core/model/site';
import { Field } from '../parts/Field';
import { FormBody } from '../parts/FormBody';
import type { FormResult } from '../parts/formResult';
import { routes } from '../shell/routes';

/** Adds a site, and goes on to bring its figures in. */
export function NewSiteForm({ add }: { add: (site: NewSite) => Promise<FormResult<number>> }) {
  const router = useRouter();
  const { register, handleSubmit, setError, formState } = useForm<NewSite>({
    defaultValues: { name: '', address: '' },
  });
  const { errors, isSubmitting } = formState;
  const submit = handleSubmit(async (values) => {
    const checked = newSiteSchema.safeParse(values);
    const result = checked.success
      ? await add(checked.data)
      : {
          ok: false as const,
          errors: checked.error.issues.map((i) => ({ field: i.path.join('.'), message: i.message })),
        };
    if (result.ok) router.push(routes.intake(result.value));
    else result.errors.forEach(({ field, message }) => setError(field as keyof NewSite, { message }));
  });
  return (
    <form onSubmit={(e) => void submit(e)} noValidate>
      <FormBody className="space-y-3">
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
        <button type="submit" className="btn btn-primary" disabled={isSubmitting}>
          Add the site
        </button>
      </FormBody>
    </form>
  );
}
