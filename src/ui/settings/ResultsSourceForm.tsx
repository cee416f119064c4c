'use client';

import { useState } from 'react';
import type { Act } from '../kit/attempt';
import { attempt } from '../kit/attempt';
import { Field } from '../kit/Field';
import { useToast } from '../kit/Toast';

type Access = { readonly address: string; readonly token: string | null; readonly country: string };

type Props = {
  siteId: number;
  address: string;
  country: string;
  hasToken: boolean;
  save: Act<[siteId: number, access: Access]>;
};

/** Where result pages can be asked for: an address that answers with JSON. */
export function ResultsSourceForm({ siteId, address, country, hasToken, save }: Props) {
  const [values, setValues] = useState({ address, country, token: '' });
  const [errors, setErrors] = useState<readonly { field: string; message: string }[]>([]);
  const [busy, setBusy] = useState(false);
  const say = useToast();
  const errorOf = (field: string) =>
    errors.find((one) => one.field.endsWith(field) || one.field === field)?.message;
  const submit = async () => {
    setBusy(true);
    const result = await attempt(() =>
      save(siteId, { ...values, token: values.token === '' ? null : values.token }),
    );
    setBusy(false);
    setErrors(result.ok ? [] : result.errors);
    if (result.ok) say('Kept.');
  };
  return (
    <form
      className="max-w-md space-y-3"
      noValidate
      onSubmit={(e) => {
        e.preventDefault();
        void submit();
      }}
    >
      <h2 className="text-lg">A source of result pages</h2>
      <Field
        label="Address"
        hint="It is asked by GET with q, language, country and device, and answers with JSON: results as POST /sites/…/result-pages takes them. Where the address says {q}, they are put there. Left empty, results are brought in by hand."
        error={errorOf('address')}
      >
        {(c) => (
          <input
            {...c}
            className="input w-full"
            value={values.address}
            placeholder="https://results.quillow-bees.example/?q={q}"
            onChange={(e) => setValues({ ...values, address: e.target.value })}
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
              value={values.token}
              onChange={(e) => setValues({ ...values, token: e.target.value })}
            />
          )}
        </Field>
        <Field label="Country" hint="As the source names it." error={errorOf('country')}>
          {(c) => (
            <input
              {...c}
              className="input w-24"
              value={values.country}
              onChange={(e) => setValues({ ...values, country: e.target.value })}
            />
          )}
        </Field>
      </div>
      <button type="submit" className="btn btn-sm" disabled={busy}>
        Keep the source
      </button>
    </form>
  );
}
