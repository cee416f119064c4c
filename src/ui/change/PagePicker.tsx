'use client';

import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/react';
import { X } from 'lucide-react';
import { useMemo, useState } from 'react';
import { count, plural } from '@/core/words/format';
import { pastedPages, type PastedPages } from './formValues';
import { offersFor, pathWritten, twinOf, type PageChoice } from './pageOffers';

export type { PageChoice };

type Props = {
  id: string;
  describedBy: string;
  invalid: boolean;
  value: readonly string[];
  onChange: (pages: string[]) => void;
  /** The pages of the site, the most clicked first. */
  known: readonly PageChoice[];
  /** Takes the old and new texts of pages that were pasted from a table. */
  onTexts: (texts: PastedPages['texts']) => void;
};

/** Pages shown one by one; of more, how many there are. */
const MOST_SHOWN = 40;

/** Whether what was typed can only be meant as an address as it stands, and not as a part to search for. */
function isWhole(typed: string): boolean {
  return typed.startsWith('/') || /^https?:\/\//i.test(typed);
}

/**
 * Chooses pages by typing a part of their address, or all under a path or of a group in one go; a pasted list adds every
 * line of it, a pasted table its texts too.
 */
export function PagePicker({ id, describedBy, invalid, value, onChange, known, onTexts }: Props) {
  const [typed, setTyped] = useState('');
  const [all, setAll] = useState(false);
  const wanted = typed.trim();
  const byPath = useMemo(() => new Map(known.map((page) => [page.path, page])), [known]);
  const chosen = useMemo(() => new Set(value), [value]);
  const offers = offersFor(wanted, known, chosen);
  const add = (pages: readonly string[]) => {
    onChange([...new Set([...value, ...pages.map((page) => page.trim()).filter(Boolean)])]);
    setTyped('');
  };
  const shown = all ? value : value.slice(0, MOST_SHOWN);

  return (
    <div>
      {value.length > 0 && (
        <ul className="mb-1 flex flex-wrap gap-1" aria-label="Pages chosen">
          {shown.map((page) => (
            <Chosen
              key={page}
              page={page}
              known={byPath.get(pathWritten(page))}
              twin={twinOf(page, known, byPath)}
              remove={() => onChange(value.filter((other) => other !== page))}
              replace={(twin) =>
                onChange([...new Set(value.map((other) => (other === page ? twin : other)))])
              }
            />
          ))}
        </ul>
      )}
      {value.length > 1 && (
        <p className="muted mb-1 flex gap-4 text-[0.8rem]">
          {plural(value.length, 'page')}
          {value.length > MOST_SHOWN && (
            <button type="button" className="inline-link" onClick={() => setAll(!all)}>
              {all ? `show the first ${MOST_SHOWN}` : 'show all'}
            </button>
          )}
          <button type="button" className="inline-link" onClick={() => onChange([])}>
            take all off
          </button>
        </p>
      )}
      <Combobox<string | null>
        immediate
        value={null}
        onChange={(key) => {
          const offer = offers.find((one) => one.key === key);
          if (offer) add(offer.pages);
        }}
      >
        <div className="relative">
          <ComboboxInput
            id={id}
            aria-describedby={describedBy}
            aria-invalid={invalid}
            className="input w-full"
            placeholder={
              value.length === 0
                ? '/guides/…, or paste a list, with old and new texts beside the pages if you have them'
                : 'one more page'
            }
            autoComplete="off"
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
            onPaste={(e) => {
              const pasted = pastedPages(e.clipboardData.getData('text'));
              if (!pasted) return;
              e.preventDefault();
              add(pasted.pages);
              if (pasted.texts.length > 0) onTexts(pasted.texts);
            }}
            onBlur={() => isWhole(wanted) && add([wanted])}
          />
          <ComboboxOptions
            className="hairline absolute z-20 mt-0.5 max-h-64 w-full overflow-y-auto border bg-(--marked) empty:hidden"
            modal={false}
          >
            {offers.map(({ key, label, detail }) => (
              <ComboboxOption
                key={key}
                value={key}
                className="flex cursor-pointer justify-between gap-4 px-2 py-1 text-[0.9rem] data-focus:bg-base-300"
              >
                <span className="truncate">{label}</span>
                <span className="muted shrink-0 tabular-nums">{detail}</span>
              </ComboboxOption>
            ))}
          </ComboboxOptions>
        </div>
      </Combobox>
    </div>
  );
}

type ChosenProps = {
  page: string;
  known: PageChoice | undefined;
  /** The page that is likely meant instead. */
  twin: PageChoice | null;
  remove: () => void;
  replace: (twin: string) => void;
};

function Chosen({ page, known, twin, remove, replace }: ChosenProps) {
  return (
    <li className="hairline flex flex-wrap items-center gap-1 border bg-(--marked) py-0.5 pr-1 pl-2 text-[0.85rem]">
      {page}
      {known?.clicks != null ? (
        <span className="muted tabular-nums">{plural(known.clicks, 'click')}</span>
      ) : (
        <span className="muted">no search figures</span>
      )}
      {twin && (
        <button type="button" className="inline-link" onClick={() => replace(twin.path)}>
          use {twin.path} instead, which has {count(twin.clicks ?? 0)} clicks
        </button>
      )}
      <button type="button" aria-label={`Remove ${page}`} className="p-1" onClick={remove}>
        <X size={14} aria-hidden />
      </button>
    </li>
  );
}
