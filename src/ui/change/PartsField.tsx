'use client';

import { X } from 'lucide-react';
import { useState } from 'react';
import { useFieldArray, useWatch, type UseFormReturn } from 'react-hook-form';
import { changeKindName, kindsOf } from '@/core/model/change';
import { count } from '@/core/words/format';
import type { ChangeFormValues } from './formValues';

const LIST_OF_PAGES = 'pages-of-the-change';
/** Parts drawn at a time; a change may have as many as it has pages. */
const SHOWN_AT_A_TIME = 40;

type Props = {
  form: UseFormReturn<ChangeFormValues>;
  kinds: readonly { value: string; name: string }[];
};

/** Further edits made at once, and the texts of single pages: each with its kind, its page, and its texts. */
export function PartsField({ form, kinds }: Props) {
  const { control, register, formState } = form;
  const [shown, setShown] = useState(SHOWN_AT_A_TIME);
  const { fields, append, remove } = useFieldArray({ control, name: 'parts' });
  const [kind, pages, parts] = useWatch({ control, name: ['kind', 'pages', 'parts'] });
  const several = kindsOf({ kind, parts: parts.map((part) => ({ ...part, page: null })) });
  const complaint = formState.errors.parts?.message ?? formState.errors.parts?.root?.message;
  return (
    <div>
      {fields.length > 0 && (
        <ul className="space-y-2" aria-label="Further edits and texts of pages">
          {fields.slice(0, shown).map(({ id }, i) => (
            <li
              key={id}
              className="hairline grid gap-2 border-l-2 pl-3 sm:grid-cols-[9.5rem_1fr_1fr_auto] sm:items-start"
            >
              <div className="space-y-1">
                <select
                  aria-label={`Kind of edit ${i + 1}`}
                  className="select select-sm w-full"
                  {...register(`parts.${i}.kind`)}
                >
                  {kinds.map(({ value, name }) => (
                    <option key={value} value={value}>
                      {name}
                    </option>
                  ))}
                </select>
                {pages.length > 1 && (
                  <input
                    aria-label={`Page of edit ${i + 1}`}
                    list={LIST_OF_PAGES}
                    placeholder="all pages"
                    className="input input-sm w-full"
                    {...register(`parts.${i}.page`)}
                  />
                )}
              </div>
              <textarea
                aria-label={`Old text of edit ${i + 1}`}
                rows={2}
                placeholder="old"
                className="textarea textarea-sm w-full"
                {...register(`parts.${i}.oldText`)}
              />
              <textarea
                aria-label={`New text of edit ${i + 1}`}
                rows={2}
                placeholder="new"
                className="textarea textarea-sm w-full"
                {...register(`parts.${i}.newText`)}
              />
              <button
                type="button"
                aria-label={`Remove edit ${i + 1}`}
                className="p-1"
                onClick={() => remove(i)}
              >
                <X size={14} aria-hidden />
              </button>
            </li>
          ))}
        </ul>
      )}
      {fields.length > 0 && pages.length > 1 && (
        // One list for all of them: a choice for each part would be as many times as many pages.
        <datalist id={LIST_OF_PAGES}>
          {pages.map((page) => (
            <option key={page} value={page} />
          ))}
        </datalist>
      )}
      {fields.length > shown && (
        <button
          type="button"
          className="inline-link mt-1 text-[0.85rem]"
          onClick={() => setShown(shown + SHOWN_AT_A_TIME)}
        >
          Show {Math.min(SHOWN_AT_A_TIME, fields.length - shown)} of {count(fields.length - shown)} more
        </button>
      )}
      {complaint && <p className="mt-0.5 text-[0.8rem] font-medium text-error">{complaint}</p>}
      <div className="mt-1 flex flex-wrap items-baseline gap-x-4 text-[0.85rem]">
        <button
          type="button"
          className="inline-link"
          onClick={() => {
            append({ kind: 'headings', page: '', oldText: '', newText: '' });
            setShown(Math.max(shown, fields.length + 1));
          }}
        >
          Add another edit made at once
        </button>
        {several.length > 1 && (
          <span role="status">
            One change of {several.length} parts ({several.map(changeKindName).join(', ').toLowerCase()}):
            what each of them does cannot be told apart.
          </span>
        )}
      </div>
    </div>
  );
}
