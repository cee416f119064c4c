'use client';

import { usePathname, useRouter, useSearchParams } from 'next/navigation';
import { Choice } from '../kit/Choice';
import { NARROW_DEVICES, type Narrowing } from '@/core/reading/narrowing';

const INLINE = 'max-w-40 border-b border-(--muted)';

type Props = {
  narrowed: Narrowing;
  queries: readonly string[];
  pages: readonly { readonly id: number; readonly path: string }[];
  countries: readonly string[];
};

/** Narrows the same reading to a page, a query, a device and a country, together if wished. The choice lives in the address. */
export function NarrowForm({ narrowed, queries, pages, countries }: Props) {
  const router = useRouter();
  const path = usePathname();
  const search = useSearchParams();
  const narrow = (name: 'query' | 'device' | 'page' | 'country', value: string) => {
    const wanted = new URLSearchParams(search);
    if (value === '') wanted.delete(name);
    else wanted.set(name, value);
    router.push(`${path}?${wanted.toString()}`, { scroll: false });
  };
  const { query, device, pageId, country } = narrowed;
  const places = country === null || countries.includes(country) ? countries : [country, ...countries];
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
      {places.length > 0 && (
        <Choice
          className={INLINE}
          label="Country"
          value={country ?? ''}
          set={(value) => narrow('country', value)}
        >
          <option value="">all countries</option>
          {places.map((name) => (
            <option key={name} value={name}>
              {name}
            </option>
          ))}
        </Choice>
      )}
    </span>
  );
}
