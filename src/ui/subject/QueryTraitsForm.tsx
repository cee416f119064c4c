'use client';

import { useState } from 'react';
import { INTENT_NAMES, INTENTS, type Intent } from '@/core/model/intents';
import type { QueryTraits } from '@/core/model/traits';
import type { Act } from '../kit/attempt';
import { useToast } from '../kit/Toast';
import { EditConflictChoice } from '../kit/EditConflictChoice';
import { useAct } from '../kit/useAct';
import { useConflict } from '../kit/useConflict';
import { useMay } from '../shell/May';

type Props = {
  siteId: number;
  queryId: number;
  traits: QueryTraits;
  /** What stands where nobody said. */
  guessed: { readonly intent: string | null; readonly brand: boolean };
  pages: readonly { readonly id: number; readonly path: string }[];
  save: Act<[siteId: number, queryId: number, traits: QueryTraits, base: QueryTraits]>;
};

/** What a query is after, whether it is for the site itself, and the page that is meant for it. Each choice is kept at once. */
export function QueryTraitsForm({ siteId, queryId, traits, guessed, pages, save }: Props) {
  const [now, setNow] = useState(traits);
  const { act } = useAct();
  const say = useToast();
  const mayEdit = useMay('edit');
  const pathOf = (id: number | null) => pages.find((page) => page.id === id)?.path ?? '';
  const conflict = useConflict<QueryTraits>({
    initial: traits,
    set: (chosen) => put(chosen),
    inWords: (field, of) => ({
      name: { intent: 'intent', brand: 'for the site itself', targetPageId: 'target page' }[field] ?? field,
      text:
        field === 'targetPageId'
          ? pathOf(of.targetPageId)
          : field === 'intent'
            ? of.intent === null
              ? ''
              : INTENT_NAMES[of.intent]
            : of.brand === null
              ? 'as guessed'
              : of.brand
                ? 'yes'
                : 'no',
    }),
  });
  const keep = (values: QueryTraits) =>
    conflict.save(values, (given, base) => save(siteId, queryId, given, base));
  const put = (edit: Partial<QueryTraits>) => {
    const before = now;
    const after = { ...now, ...edit };
    setNow(after);
    act(
      () => keep(after),
      () =>
        say('Kept.', () => {
          setNow(before);
          act(() => keep(before));
        }),
    );
  };
  return (
    <fieldset className="grid gap-1.5 text-[0.9rem]" disabled={!mayEdit}>
      <EditConflictChoice meanwhile={conflict.meanwhile} onChoose={conflict.choose} />
      <label className="flex items-baseline justify-between gap-3">
        intent
        <select
          className="select select-sm w-56"
          value={now.intent ?? ''}
          onChange={(e) => put({ intent: (e.target.value || null) as Intent | null })}
        >
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
        <select
          className="select select-sm w-56"
          value={now.brand === null ? '' : String(now.brand)}
          onChange={(e) => put({ brand: e.target.value === '' ? null : e.target.value === 'true' })}
        >
          <option value="">as guessed: {guessed.brand ? 'yes' : 'no'}</option>
          <option value="true">yes</option>
          <option value="false">no</option>
        </select>
      </label>
      <label className="flex items-baseline justify-between gap-3">
        target page
        <input
          key={now.targetPageId}
          className="input input-sm w-56"
          list="target-pages"
          placeholder="none"
          defaultValue={pages.find(({ id }) => id === now.targetPageId)?.path ?? ''}
          onBlur={(e) => {
            const typed = e.target.value.trim();
            const page = pages.find(({ path }) => path === typed);
            if (typed === '' && now.targetPageId !== null) put({ targetPageId: null });
            else if (page && page.id !== now.targetPageId) put({ targetPageId: page.id });
            else if (typed !== '' && !page) say(`No page of this site is ${typed}.`, undefined, true);
          }}
        />
      </label>
      <datalist id="target-pages">
        {pages.slice(0, 500).map(({ id, path }) => (
          <option key={id} value={path} />
        ))}
      </datalist>
    </fieldset>
  );
}
