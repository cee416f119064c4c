'use client';

import { Command } from 'cmdk';
import { useEffect, useState } from 'react';
import { findRank, wordsOf } from '@/core/words/find';
import type { Right } from '@/core/access/rights';
import { useRights } from './May';
import { routes, SCREENS } from './routes';

/** Something of the site that was found for what was typed. */
type Found = {
  readonly kind: 'page' | 'query' | 'change' | 'event' | 'round' | 'report';
  readonly id: number;
  readonly name: string;
  readonly detail: string;
  readonly rank: number;
};

type Place = { readonly name: string; readonly detail: string; readonly href: string; readonly rank: number };

/** Typing goes on for a moment before the server is asked. */
const PAUSE_MS = 60;

/** The screens of the site, and what only has a key. */
function screensFor(siteId: number, rights: readonly Right[], typed: string): Place[] {
  const all = [
    ...SCREENS.filter(({ may }) => rights.includes(may)).map(({ name, to, hint }) => ({
      name,
      detail: hint,
      href: to(siteId),
    })),
    ...(rights.includes('log')
      ? [{ name: 'Log a change', detail: 'n', href: routes.newChange(siteId) }]
      : []),
  ];
  return all.flatMap((one) => {
    const rank = findRank(typed, one.name, one.detail);
    return rank === null ? [] : [{ ...one, rank }];
  });
}

function hrefOf(siteId: number, { kind, id }: Found): string {
  switch (kind) {
    case 'page':
      return routes.page(siteId, id);
    case 'change':
      return routes.change(siteId, id);
    case 'event':
      return routes.event(siteId, id);
    case 'query':
      return routes.query(siteId, id);
    case 'round':
      return routes.round(siteId, id);
    case 'report':
      return routes.report(siteId, id);
  }
}

/** A list to go anywhere from: screens, pages, queries, changes and events, found by their words. */
export function GoAnywhere({ siteId, go }: { siteId: number; go: (href: string) => void }) {
  const rights = useRights();
  const [typed, setTyped] = useState('');
  const [found, setFound] = useState<{ for: string; places: readonly Found[] }>({ for: '', places: [] });
  useEffect(() => {
    if (wordsOf(typed).length === 0) return;
    const gone = new AbortController();
    const timer = setTimeout(() => {
      fetch(`/sites/${siteId}/find?q=${encodeURIComponent(typed)}`, { signal: gone.signal })
        .then(async (answer) => setFound({ for: typed, places: answer.ok ? await answer.json() : [] }))
        .catch(() => null);
    }, PAUSE_MS);
    return () => {
      clearTimeout(timer);
      gone.abort();
    };
  }, [siteId, typed]);

  // Enter pressed before the answer is there means its first line.
  const [entered, setEntered] = useState<string | null>(null);
  const wanted = wordsOf(typed).length > 0;
  const current = wanted && found.for === typed;
  const places = [
    ...screensFor(siteId, rights, typed),
    ...(current ? found.places : []).map((one) => ({
      name: one.name,
      detail: one.detail,
      href: hrefOf(siteId, one),
      rank: one.rank,
    })),
  ].sort((a, b) => a.rank - b.rank);
  const first = places[0]?.href;
  useEffect(() => {
    if (entered === typed && current && first !== undefined) go(first);
  }, [entered, typed, current, first, go]);
  return (
    <Command
      label="Go anywhere"
      loop
      shouldFilter={false}
      onKeyDown={(e) => {
        if (e.key !== 'Enter' || !wanted || current) return;
        e.preventDefault();
        setEntered(typed);
      }}
    >
      <Command.Input
        autoFocus
        placeholder="A screen, page, query, change, event, experiment or report"
        className="input w-full"
        value={typed}
        onValueChange={setTyped}
      />
      <Command.List className="mt-3 max-h-80 overflow-y-auto">
        {places.length === 0 && (
          <p className="muted py-3" role="status">
            {current ? `Nothing has the words “${typed.trim()}”.` : 'Looking …'}
          </p>
        )}
        {places.map(({ name, detail, href }) => (
          <Command.Item
            key={href}
            value={href}
            onSelect={() => go(href)}
            className="flex cursor-pointer justify-between gap-4 px-2 py-1.5 data-[selected=true]:bg-base-300"
          >
            <span className="truncate">{name}</span>
            <span className="muted shrink-0 text-sm">{detail}</span>
          </Command.Item>
        ))}
      </Command.List>
    </Command>
  );
}
