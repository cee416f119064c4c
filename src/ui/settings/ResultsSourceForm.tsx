'use client';

import { resultsAccessSchema, type ResultsAccessInput } from '@/core/model/resultsAccess';
import type { Act } from '../kit/attempt';
import { EntityForm } from '../kit/EntityForm';
import { Field } from '../kit/Field';
import { useToast } from '../kit/Toast';
import { useEntityForm, type FormCodec } from '../kit/useEntityForm';

type Typed = { address: string; country: string; token: string };

type Props = {
  siteId: number;
  address: string;
  country: string;
  hasToken: boolean;
  save: Act<[siteId: number, access: ResultsAccessInput]>;
};

/** A token that is left empty stays as it is. */
const CODEC: FormCodec<Typed, ResultsAccessInput> = {
  toSent: ({ token, ...rest }) => ({ ...rest, token: token || null }),
  toTyped: ({ token, ...rest }) => ({ ...rest, token: token ?? '' }),
};

/** Where result pages can be asked for: an address that answers with JSON. */
export function ResultsSourceForm({ siteId, address, country, hasToken, save }: Props) {
  const say = useToast();
  const form = useEntityForm<Typed, ResultsAccessInput, null>({
    ...{ what: null, initial: { address, country, token: '' }, codec: CODEC, schema: resultsAccessSchema },
    editing: false,
    send: (_, __, { given }) => save(siteId, given),
    done: () => say('Kept.'),
  });
  const { register, errorOf } = form;
  return (
    <EntityForm
      form={form}
      className="max-w-md"
      heading={<h2 className="text-lg">A source of result pages</h2>}
      buttons={
        <button type="submit" className="btn btn-sm" disabled={form.busy}>
          Keep the source
        </button>
      }
    >
      <Field
        label="Address"
        hint="It is asked by GET with q, language, country and device, and answers with JSON: results as POST /sites/…/result-pages takes them. Where the address says {q}, they are put there. Left empty, results are brought in by hand."
        error={errorOf('address')}
      >
        {(c) => (
          <input
            {...c}
            className="input w-full"
            placeholder="https://results.quillow-bees.example/?q={q}"
            {...register('address')}
          />
        )}
      </Field>
      <div className="flex gap-4">
        <Field
          label="Token"
          hint={hasToken ? 'One is kept; a new one takes its place.' : 'Sent along as a bearer token.'}
          error={errorOf('token')}
        >
          {(c) => (
            <input
              {...c}
              type="password"
              autoComplete="off"
              className="input w-full"
              {...register('token')}
            />
          )}
        </Field>
        <Field label="Country" hint="As the source names it." error={errorOf('country')}>
          {(c) => <input {...c} className="input w-24" {...register('country')} />}
        </Field>
      </div>
    </EntityForm>
  );
}
