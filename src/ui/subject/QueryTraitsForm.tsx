'use client';

import { INTENT_NAMES, INTENTS, type Intent } from '@/core/model/intents';
import { queryTraitsSchema, type QueryTraits } from '@/core/model/traits';
import type { Act } from '../kit/attempt';
import { EntityForm } from '../kit/EntityForm';
import { useToast } from '../kit/Toast';
import { useEntityForm, type FormCodec } from '../kit/useEntityForm';
import { useMay } from '../shell/May';

type Typed = { intent: string; brand: string; targetPage: string };

type Page = { readonly id: number; readonly path: string };

type Props = {
  siteId: number;
  queryId: number;
  traits: QueryTraits;
  /** What stands where nobody said. */
  guessed: { readonly intent: string | null; readonly brand: boolean };
  pages: readonly Page[];
  save: Act<[siteId: number, queryId: number, traits: QueryTraits, base: QueryTraits]>;
};

/** No page has this id; it stands for a URL that none of the pages has. */
const UNKNOWN_PAGE = 0;

function codecFor(pages: readonly Page[]): FormCodec<Typed, QueryTraits> {
  return {
    toSent: ({ intent, brand, targetPage }) => ({
      intent: (intent || null) as Intent | null,
      brand: brand === '' ? null : brand === 'true',
      targetPageId:
        targetPage.trim() === ''
          ? null
          : (pages.find(({ path }) => path === targetPage.trim())?.id ?? UNKNOWN_PAGE),
    }),
    toTyped: ({ intent, brand, targetPageId }) => ({
      intent: intent ?? '',
      brand: brand === null ? '' : String(brand),
      targetPage: pages.find(({ id }) => id === targetPageId)?.path ?? '',
    }),
    fieldOf: (field) => (field === 'targetPageId' ? 'targetPage' : field),
    typedIn: (field) => [field === 'targetPageId' ? 'targetPage' : (field as keyof Typed)],
  };
}

function inWords(field: string, { intent, brand, targetPage }: Typed) {
  if (field === 'targetPageId') return { name: 'target page', text: targetPage };
  if (field === 'intent')
    return { name: 'intent', text: intent === '' ? '' : INTENT_NAMES[intent as Intent] };
  return {
    name: 'for the site itself',
    text: brand === '' ? 'as guessed' : brand === 'true' ? 'yes' : 'no',
  };
}

/** What a query is after, whether it is for the site itself, and the page that is meant for it. Each choice is kept at once. */
export function QueryTraitsForm({ siteId, queryId, traits, guessed, pages, save }: Props) {
  const say = useToast();
  const mayEdit = useMay('edit');
  const codec = codecFor(pages);
  const form = useEntityForm<Typed, QueryTraits, null>({
    ...{ what: null, initial: codec.toTyped(traits), codec, schema: queryTraitsSchema, editing: true },
    send: async (_, __, { given, base }) => {
      const result = await save(siteId, queryId, given, base);
      if (result.ok)
        say('Kept.', () => {
          form.reset(codec.toTyped(base));
          void form.submit();
        });
      return result;
    },
    done: () => undefined,
    inWords,
  });
  const keep = { onChange: () => void form.submit() };
  const { register } = form;
  const problem = form.errorOf('targetPage');
  return (
    <EntityForm form={form} className="text-[0.9rem]" body="grid gap-1.5" buttons={null}>
      <fieldset className="contents" disabled={!mayEdit}>
        <label className="flex items-baseline justify-between gap-3">
          intent
          <select {...register('intent', keep)} className="select select-sm w-56">
            <option value="">{guessed.intent ? `as guessed: ${guessed.intent}` : 'not known'}</option>
            {INTENTS.map((intent) => (
              <option key={intent} value={intent}>
                {INTENT_NAMES[intent]}
              </option>
            ))}
          </select>
        </label>
        <label className="flex items-baseline justify-between gap-3">
          for the site itself
          <select {...register('brand', keep)} className="select select-sm w-56">
            <option value="">as guessed: {guessed.brand ? 'yes' : 'no'}</option>
            <option value="true">yes</option>
            <option value="false">no</option>
          </select>
        </label>
        <label className="flex items-baseline justify-between gap-3">
          target page
          <input
            {...register('targetPage', { onBlur: () => void form.submit() })}
            aria-invalid={problem !== undefined}
            className="input input-sm w-56"
            list="target-pages"
            placeholder="none"
          />
        </label>
        {problem !== undefined && (
          <p role="alert" className="text-[0.85rem] font-medium text-error">
            {problem}
          </p>
        )}
        <datalist id="target-pages">
          {pages.slice(0, 500).map(({ id, path }) => (
            <option key={id} value={path} />
          ))}
        </datalist>
      </fieldset>
    </EntityForm>
  );
}
