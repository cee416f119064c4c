'use client';

import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import dynamic from 'next/dynamic';
import type { ViewColumn } from './TableView';
import type { Choice } from './useColumnChoice';

const SortableList = dynamic(() => import('../SortableList').then((module) => module.SortableList<string>), {
  ssr: false,
});

/** Which columns a table shows, and in which order; the first one names the rows and stays. */
export function ColumnChoice({ columns, choice }: { columns: readonly ViewColumn[]; choice: Choice }) {
  const { order, visible, set } = choice;
  const [naming, ...others] = order;
  const nameOf = (id: string) => {
    const column = columns.find((one) => one.id === id);
    return column?.name ?? id;
  };
  const hidden = order.filter((id) => !visible[id]);
  return (
    <Popover>
      <PopoverButton className="inline-link">Columns</PopoverButton>
      <PopoverPanel
        anchor="bottom start"
        focus
        className="hairline z-30 w-72 border bg-base-100 p-3 text-[0.85rem] shadow-sm"
      >
        <SortableList
          keys={others}
          nameOf={nameOf}
          onOrder={(keys) => set({ order: [naming!, ...keys], hidden })}
        >
          {(id) => (
            <label className="flex items-baseline gap-2 py-1">
              <input
                type="checkbox"
                className="checkbox checkbox-xs translate-y-0.5"
                checked={visible[id] ?? true}
                onChange={({ target }) =>
                  set({
                    order,
                    hidden: target.checked ? hidden.filter((one) => one !== id) : [...hidden, id],
                  })
                }
              />
              {nameOf(id)}
            </label>
          )}
        </SortableList>
        <button type="button" className="inline-link mt-2" onClick={() => set(null)}>
          Reset
        </button>
      </PopoverPanel>
    </Popover>
  );
}
