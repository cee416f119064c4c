'use client';

import { useRouter } from 'next/navigation';
import { newSiteSchema, timeZoneSchema, type NewSite } from '@/core/model/site';
import type { Act } from '../kit/attempt';
import { EntityForm } from '../kit/EntityForm';
import { useEntityForm } from '../kit/useEntityForm';
import { Field } from '../kit/Field';
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
  const form = useEntityForm<NewSite, NewSite, number>({
    what: 'site:new',
    initial: EMPTY,
    codec: { toSent: (typed) => ({ ...typed, timeZone: browserTimeZone() }), toTyped: (sent) => sent },
    schema: newSiteSchema,
    editing: false,
    send: (site) => add(site as NewSite),
    done: (id) => id !== null && router.push(routes.intake(id)),
  });
  const { register, errorOf } = form;
  return (
    <EntityForm
      form={form}
      draftName={({ name }) => name}
      buttons={
        <button type="submit" className="btn btn-primary" disabled={form.busy}>
          Add the site
        </button>
      }
    >
      <Field label="Name" error={errorOf('name')}>
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
        error={errorOf('address')}
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
    </EntityForm>
  );
}
