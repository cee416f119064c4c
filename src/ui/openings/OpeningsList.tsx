'use client';

import { AppLink } from '../kit/AppLink';
import { useRouter } from 'next/navigation';
import { useEffect, useRef } from 'react';
import { KINDS, OPENING_KINDS, type OpeningKind } from '@/core/openings/kinds';
import { nameOf } from '@/core/openings/openingSentence';
import { count, mediumDay, plural } from '@/core/words/format';
import type { Busy, TimedOpening } from '@/core/openings/named';
import { useListKeys } from '../kit/useListKeys';
import { routes } from '../shell/routes';
import { RangeRow } from './RangeRow';
import { FormLink } from '../shell/May';

type Props = {
  siteId: number;
  openings: readonly TimedOpening[];
  total: number;
  kinds: Readonly<Partial<Record<OpeningKind, number>>>;
  kind: OpeningKind | null;
  /** The key of the one beside the list. */
  selected: string | null;
  /** Whether one was chosen: on a narrow screen the list makes room for it. */
  chosen: boolean;
  days: string;
  from: number;
  limit: number;
};

const busyText = (busy: Busy) =>
  busy.until === null ? 'in a round that runs' : `a change is being read until ${mediumDay(busy.until)}`;

/** How many pages make an experiment. */
const LEAST_ROUND = 4;

/** Where work is likely to pay, one line each, the best first. */
export function OpeningsList(props: Props) {
  const { siteId, openings, total, kinds, kind, selected, chosen, days, from, limit } = props;
  const router = useRouter();
  const href = (key: string | null, of = kind, place = from) => {
    const query = new URLSearchParams();
    if (of) query.set('kind', of);
    if (key) query.set('open', key);
    if (place > 0) query.set('cursor', String(place));
    return `${routes.openings(siteId)}${query.size > 0 ? `?${query}` : ''}`;
  };
  const current = openings.findIndex(({ key }) => key === selected);
  useListKeys(
    () => openings.length,
    () => current,
    (to) => router.replace(href(openings[to]!.key), { scroll: false }),
  );
  const here = useRef<HTMLLIElement>(null);
  useEffect(() => {
    here.current?.scrollIntoView({ block: 'nearest' });
  }, [selected]);
  const most = Math.max(1, ...openings.map(({ gain }) => gain?.high ?? 0));
  const all = Object.values(kinds).reduce((sum, n) => sum + n, 0);
  return (
    <section
      aria-label="Openings"
      className={`hairline shrink-0 bg-base-200 wide:flex wide:h-screen wide:w-[26rem] wide:flex-col wide:border-r ${
        chosen ? 'max-wide:hidden' : ''
      }`}
    >
      <div className="hairline border-b px-3.5 pt-3 pb-2">
        <div className="flex items-baseline justify-between gap-3">
          <h1 className="text-2xl">Openings</h1>
          <p className="muted text-[0.75rem]">{days}, brand left out</p>
        </div>
        <nav aria-label="Kinds" className="mt-1 flex flex-wrap gap-x-2.5 gap-y-0.5 text-[0.8rem]">
          <KindLink href={href(null, null, 0)} here={kind === null} name="all kinds" n={all} />
          {OPENING_KINDS.filter((one) => (kinds[one] ?? 0) > 0).map((one) => (
            <KindLink
              key={one}
              href={href(null, one, 0)}
              here={kind === one}
              name={KINDS[one].name}
              n={kinds[one] ?? 0}
            />
          ))}
        </nav>
        {kind !== null && KINDS[kind].fitsExperiment && total >= LEAST_ROUND && (
          <FormLink
            right="edit"
            href={routes.roundOf(siteId, { openings: kind })}
            className="inline-link text-[0.85rem]"
          >
            Take the best on as a round
          </FormLink>
        )}
      </div>
      <ul className="wide:min-h-0 wide:flex-1 wide:overflow-y-auto">
        {openings.map((opening) => {
          const is = opening.key === selected;
          return (
            <li
              key={opening.key}
              ref={is ? here : undefined}
              className={`hairline border-b ${is ? 'border-l-3 border-l-base-content bg-base-100' : ''}`}
            >
              <AppLink
                href={href(opening.key)}
                replace
                scroll={false}
                aria-current={is ? 'true' : undefined}
                className="grid grid-cols-[1fr_auto] gap-x-3 px-3.5 py-1.5"
              >
                <span className="min-w-0">
                  <span className="block truncate font-semibold">{nameOf(opening)}</span>
                  <span className="line-clamp-2 text-[0.8rem] leading-snug">
                    <b className="font-semibold">{KINDS[opening.kind].name}</b>
                    <span className="muted">
                      {' · '}
                      {opening.busy && `${busyText(opening.busy)}; `}
                      {opening.sentence}
                    </span>
                  </span>
                </span>
                <span className="text-right">
                  {opening.gain ? (
                    <>
                      <span className="block">
                        <b>+{count(opening.expected?.clicks ?? opening.gain.clicks)}</b>{' '}
                        <span className="muted text-[0.75rem]">
                          {opening.expected ? 'expected a month' : 'a month, if successful'}
                        </span>
                      </span>
                      {opening.expected && (
                        <span className="muted block text-[0.75rem]">
                          up to +{count(opening.gain.clicks)} if successful
                        </span>
                      )}
                      <RangeRow gain={opening.gain} most={most} />
                    </>
                  ) : opening.conversions !== null ? (
                    <span className="block text-[0.8rem]">
                      <b>{count(opening.conversions)}</b> conversions
                      <span className="muted block text-[0.75rem]">a month under the usual</span>
                    </span>
                  ) : (
                    <span className="muted text-[0.75rem]">no estimate</span>
                  )}
                </span>
              </AppLink>
            </li>
          );
        })}
        {openings.length === 0 && (
          <li className="p-4">
            {kind ? 'Nothing of this kind.' : 'Nothing found that would bring a click a month or more.'}
          </li>
        )}
        {total > limit && (
          <li className="flex gap-4 p-3.5 text-[0.8rem]">
            {from > 0 && (
              <AppLink href={href(null, kind, Math.max(0, from - limit))} className="inline-link">
                Previous {limit}
              </AppLink>
            )}
            <span className="muted">
              {from + 1} to {Math.min(total, from + limit)} of {plural(total, 'opening')}
            </span>
            {from + limit < total && (
              <AppLink href={href(null, kind, from + limit)} className="inline-link">
                Next {limit}
              </AppLink>
            )}
          </li>
        )}
      </ul>
    </section>
  );
}

type KindProps = { href: string; here: boolean; name: string; n: number };

function KindLink({ href, here, name, n }: KindProps) {
  return (
    <span className="whitespace-nowrap">
      {here ? (
        <span aria-current="page" className="font-bold">
          {name}
        </span>
      ) : (
        <AppLink href={href} className="inline-link">
          {name}
        </AppLink>
      )}{' '}
      {n}
    </span>
  );
}
