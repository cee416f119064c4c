'use client';

import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import dynamic from 'next/dynamic';
import type { Choice } from './useColumnChoice';
import { nameOf, type ViewColumn } from './viewColumn';

const SortableList = dynamic(() => import('../SortableList').then((module) => module.SortableList<string>), {
  ssr: false,
});

/** Which columns a table shows, and in which order; the first one names the rows and stays. */
export function ColumnChoice({ columns, choice }: { columns: readonly ViewColumn[]; choice: Choice }) {
  const { order, visible, set } = choice;
  const [naming, ...others] = order;
  const nameById = new Map(columns.map((column) => [column.id, nameOf(column)]));
  const nameFor = (id: string) => nameById.get(id) ?? id;
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
          nameOf={nameFor}
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
              {nameFor(id)}
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
