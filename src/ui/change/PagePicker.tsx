'use client';

import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/react';
import { X } from 'lucide-react';
import { useState } from 'react';
import { pastedPages, type PastedPages } from './formValues';

type Props = {
  id: string;
  describedBy: string;
  invalid: boolean;
  value: readonly string[];
  onChange: (pages: string[]) => void;
  known: readonly string[];
  /** Takes the old and new texts of pages that were pasted from a table. */
  onTexts: (texts: PastedPages['texts']) => void;
};

const MOST_OFFERED = 12;

/** Whether what was typed can only be meant as an address as it stands, and not as a part to search for. */
function isWhole(typed: string): boolean {
  return typed.startsWith('/') || /^https?:\/\//i.test(typed);
}

/** Chooses pages by typing a part of their address; a pasted list adds every line of it, a pasted table its texts too. */
export function PagePicker({ id, describedBy, invalid, value, onChange, known, onTexts }: Props) {
  const [typed, setTyped] = useState('');
  const wanted = typed.trim();
  const offered = known
    .filter((path) => !value.includes(path) && path.toLowerCase().includes(wanted.toLowerCase()))
    .slice(0, MOST_OFFERED);
  const add = (pages: readonly string[]) => {
    onChange([...new Set([...value, ...pages.map((page) => page.trim()).filter(Boolean)])]);
    setTyped('');
  };

  return (
    <div>
      {value.length > 0 && (
        <ul className="mb-1 flex flex-wrap gap-1" aria-label="Pages chosen">
          {value.map((page) => (
            <li
              key={page}
              className="hairline flex items-center gap-1 border bg-(--marked) py-0.5 pr-1 pl-2 text-[0.85rem]"
            >
              {page}
              {!known.includes(page) && <span className="muted">no figures yet</span>}
              <button
                type="button"
                aria-label={`Remove ${page}`}
                className="p-1"
                onClick={() => onChange(value.filter((other) => other !== page))}
              >
                <X size={14} aria-hidden />
              </button>
            </li>
          ))}
        </ul>
      )}
      <Combobox<string | null> immediate value={null} onChange={(page) => page !== null && add([page])}>
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
            {offered.map((page) => (
              <Option key={page} page={page} label={page} />
            ))}
            {wanted !== '' && !offered.includes(wanted) && <Option page={wanted} label={`Use “${wanted}”`} />}
          </ComboboxOptions>
        </div>
      </Combobox>
    </div>
  );
}

function Option({ page, label }: { page: string; label: string }) {
  return (
    <ComboboxOption value={page} className="cursor-pointer px-2 py-1 text-[0.9rem] data-focus:bg-base-300">
      {label}
    </ComboboxOption>
  );
}
