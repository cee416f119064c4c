'use client';

import { usePathname, useRouter, useSearchParams } from 'next/navigation';
import { Choice } from '../parts/Choice';
import { NARROW_DEVICES, type Narrowing } from '@/core/reading/input';

const INLINE = 'max-w-40 border-b border-(--muted)';

type Props = {
  narrowed: Narrowing;
  queries: readonly string[];
  pages: readonly { readonly id: number; readonly path: string }[];
};

/** Narrows the same reading to one query, one device or one of its pages. The choice lives in the address. */
export function NarrowForm({ narrowed, queries, pages }: Props) {
  const router = useRouter();
  const path = usePathname();
  const search = useSearchParams();
  const narrow = (name: 'query' | 'device' | 'page', value: string) => {
    const wanted = new URLSearchParams(search);
    if (value === '') wanted.delete(name);
    else wanted.set(name, value);
    // A query and a device at once have no figures of their own.
    if (value !== '' && name === 'query') wanted.delete('device');
    if (value !== '' && name === 'device') wanted.delete('query');
    router.push(`${path}?${wanted.toString()}`, { scroll: false });
  };
  const { query, device, pageId } = narrowed;
  const offered = query === null || queries.includes(query) ? queries : [query, ...queries];
  return (
    <span className="flex flex-wrap items-baseline gap-x-2">
      <span>read</span>
      {pages.length > 1 && (
        <Choice
          className={INLINE}
          label="Page"
          value={String(pageId ?? '')}
          set={(value) => narrow('page', value)}
        >
          <option value="">all {pages.length} pages</option>
          {pages.map((page) => (
            <option key={page.id} value={page.id}>
              {page.path}
            </option>
          ))}
        </Choice>
      )}
      <Choice className={INLINE} label="Query" value={query ?? ''} set={(value) => narrow('query', value)}>
        <option value="">all queries</option>
        {offered.map((text) => (
          <option key={text} value={text}>
            {text}
          </option>
        ))}
      </Choice>
      <Choice className={INLINE} label="Device" value={device ?? ''} set={(value) => narrow('device', value)}>
        <option value="">all devices</option>
        {NARROW_DEVICES.map((name) => (
          <option key={name} value={name}>
            {name}
          </option>
        ))}
      </Choice>
    </span>
  );
}
