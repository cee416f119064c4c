'use client';

import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical } from 'lucide-react';
import { useId, type ReactNode } from 'react';

type Key = string | number;

type Props<K extends Key> = {
  readonly keys: readonly K[];
  readonly nameOf: (key: K, index: number) => string;
  readonly onOrder: (keys: K[]) => void;
  readonly children: (key: K, index: number) => ReactNode;
  /** Further buttons of an item, after those that move it. */
  readonly actions?: (key: K, index: number) => ReactNode;
};

/** A list whose items are put in order: by dragging, by the arrow keys on their handles, or a place at a time by buttons. */
export function SortableList<K extends Key>({ keys, nameOf, onOrder, children, actions }: Props<K>) {
  const id = useId();
  const sensors = useSensors(
    useSensor(PointerSensor),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const move = (from: number, to: number) => onOrder(arrayMove([...keys], from, to));
  return (
    <DndContext
      id={id}
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={({ active, over }) => {
        if (over && over.id !== active.id) move(keys.indexOf(active.id as K), keys.indexOf(over.id as K));
      }}
    >
      <SortableContext items={[...keys]} strategy={verticalListSortingStrategy}>
        <ol>
          {keys.map((key, i) => (
            <Item
              key={key}
              id={key}
              name={nameOf(key, i)}
              up={i === 0 ? null : () => move(i, i - 1)}
              down={i === keys.length - 1 ? null : () => move(i, i + 1)}
              actions={actions?.(key, i)}
            >
              {children(key, i)}
            </Item>
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  );
}

type ItemProps = {
  id: Key;
  name: string;
  up: (() => void) | null;
  down: (() => void) | null;
  actions: ReactNode;
  children: ReactNode;
};

function Item({ id, name, up, down, actions, children }: ItemProps) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } =
    useSortable({ id });
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`hairline flex items-start gap-x-2 border-b py-1 ${isDragging ? 'relative z-10 bg-(--marked)' : ''}`}
    >
      <button
        type="button"
        ref={setActivatorNodeRef}
        {...attributes}
        {...listeners}
        aria-label={`Move: ${name}`}
        className="muted flex h-7 w-5 shrink-0 cursor-grab touch-none items-center justify-center"
      >
        <GripVertical size={14} aria-hidden />
      </button>
      <div className="min-w-0 flex-1">{children}</div>
      <div className="flex shrink-0 gap-x-2 text-[0.85rem]">
        {(
          [
            ['Up', up],
            ['Down', down],
          ] as const
        ).map(([text, go]) => (
          <button
            key={text}
            type="button"
            aria-label={`${text}: ${name}`}
            className="inline-link min-h-7 px-1 disabled:opacity-40"
            disabled={go === null}
            onClick={() => go?.()}
          >
            {text}
          </button>
        ))}
        {actions}
      </div>
    </li>
  );
}
