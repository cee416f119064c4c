'use client';

import { pageTraitsSchema, type PageTraits } from '@/core/model/traits';
import type { Act } from '../kit/attempt';
import { EntityForm } from '../kit/EntityForm';
import { useToast } from '../kit/Toast';
import { useEntityForm, type FormCodec } from '../kit/useEntityForm';
import { useMay } from '../shell/May';

type Typed = { target: string; weight: string; sink: boolean };

type Props = {
  siteId: number;
  pageId: number;
  traits: PageTraits;
  save: Act<[siteId: number, pageId: number, traits: PageTraits, base: PageTraits]>;
};

const CODEC: FormCodec<Typed, PageTraits> = {
  toSent: ({ target, weight, sink }) => ({
    target: target.trim() || null,
    weight: weight.trim() === '' ? null : Number(weight.replace(',', '.')),
    sink,
  }),
  toTyped: ({ target, weight, sink }) => ({
    target: target ?? '',
    weight: weight === null ? '' : String(weight),
    sink,
  }),
};

const NAMES: Readonly<Record<string, string>> = {
  target: 'target query',
  weight: 'weight',
  sink: 'meant to sink',
};

/** The search a page is meant for, what it matters, and whether it is meant to sink. */
export function PageTraitsForm({ siteId, pageId, traits, save }: Props) {
  const say = useToast();
  const mayEdit = useMay('edit');
  const form = useEntityForm<Typed, PageTraits, null>({
    ...{ what: null, initial: CODEC.toTyped(traits), codec: CODEC, schema: pageTraitsSchema, editing: true },
    send: async (_, __, { given, base }) => {
      const result = await save(siteId, pageId, given, base);
      if (result.ok)
        say('Kept.', () => {
          form.reset(CODEC.toTyped(base));
          void form.submit();
        });
      return result;
    },
    done: () => undefined,
    inWords: (field, typed) => ({
      name: NAMES[field] ?? field,
      text: field === 'sink' ? (typed.sink ? 'yes' : 'no') : String(typed[field as keyof Typed]),
    }),
  });
  const { register, errorOf } = form;
  return (
    <EntityForm
      form={form}
      className="text-[0.9rem]"
      body="grid gap-1.5"
      buttons={
        mayEdit && (
          <button type="submit" className="inline-link" disabled={form.busy}>
            Keep
          </button>
        )
      }
    >
      <fieldset className="contents" disabled={!mayEdit}>
        <label className="flex items-baseline justify-between gap-3">
          target query
          <input {...register('target')} className="input input-sm w-56" maxLength={500} />
        </label>
        <label className="flex items-baseline justify-between gap-3">
          weight, 1 is as usual
          <input
            {...register('weight')}
            aria-invalid={errorOf('weight') !== undefined}
            className="input input-sm w-56"
            inputMode="decimal"
          />
        </label>
        {errorOf('weight') && (
          <p role="alert" className="text-[0.85rem] font-medium text-error">
            {errorOf('weight')}
          </p>
        )}
        <label className="flex items-center gap-2">
          <input {...register('sink')} type="checkbox" className="checkbox checkbox-sm" />
          meant to sink: it is offered no work
        </label>
      </fieldset>
    </EntityForm>
  );
}
