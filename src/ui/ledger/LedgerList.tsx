'use client';

import { Download } from 'lucide-react';
import { AppLink } from '../kit/AppLink';
import { useParams, usePathname, useRouter, useSearchParams } from 'next/navigation';
import { parseAsString, parseAsStringLiteral, useQueryStates } from 'nuqs';
import { Fragment, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { isoDay } from '@/core/calendar/day';
import { unpacked, type Packed } from '@/core/lists/packed';
import { changeKindName } from '@/core/model/change';
import type { LedgerEntry } from '@/core/reading/ledgerEntry';
import { dayOfMonth, monthName, plural } from '@/core/words/format';
import { Choice } from '../kit/Choice';
import { saveCsv } from '../kit/saveCsv';
import { useHydrated } from '../kit/useHydrated';
import { useListKeys } from '../kit/useListKeys';
import { IfMay } from '../shell/May';
import { routes } from '../shell/routes';
import { VerdictMark } from '../kit/VerdictMark';
import { filterLedger, gist, SORTS, VERDICT_FILTERS, type Sort, type VerdictFilter } from './entry';

const keysOf = <K extends string>(record: Record<K, string>) => Object.keys(record) as K[];

const HEAD = 'w-full border-b-2 border-base-content';

const FILTER = {
  q: parseAsString.withDefault(''),
  kind: parseAsString.withDefault('any'),
  verdict: parseAsStringLiteral(keysOf(VERDICT_FILTERS)).withDefault('any'),
  sort: parseAsStringLiteral(keysOf(SORTS)).withDefault('newest'),
};

/** In the address the kinds shown are `of`: the form beside the list takes a `kind` of its own. */
const URL_KEYS = { kind: 'of' };
const NAMES_IN_ADDRESS = ['q', 'of', 'verdict', 'sort'];

/** Lines drawn at first: more than anybody sees without scrolling, and few enough to be there at once. */
const FIRST_SHOWN = 100;
/** Lines that the server draws before and after the chosen one: those that are seen until the page is alive. */
const [DRAWN_BEFORE, DRAWN_AFTER] = [12, 24];

type Props = { siteId: number; ledger: Packed<LedgerEntry> };

/** The list of changes in the middle. Its filter lives in the address, the selection in the path. */
export function LedgerList({ siteId, ledger }: Props) {
  const entries = useMemo(() => unpacked(ledger), [ledger]);
  const [filter, setFilter] = useQueryStates(FILTER, { history: 'replace', urlKeys: URL_KEYS });
  const [all, setAll] = useState(false);
  const alive = useHydrated();
  const shown = filterLedger(entries, filter);
  const params = useParams<{ changeId?: string }>();
  const path = usePathname();
  const search = useSearchParams().toString();
  const router = useRouter();
  // The ledger without a selection shows its newest change beside the list.
  const bare = path === routes.ledger(siteId);
  const selected = bare ? entries[0]?.id : Number(params.changeId);
  const href = useCallback(
    (id: number) => routes.change(siteId, id) + (search ? `?${keepFilter(search)}` : ''),
    [siteId, search],
  );
  const current = shown.findIndex((entry) => entry.id === selected);
  const move = useCallback(
    (to: number) => router.replace(href(shown[to]?.id ?? 0), { scroll: false }),
    [router, href, shown],
  );
  useListKeys(
    () => shown.length,
    () => current,
    move,
  );

  const most = Math.max(FIRST_SHOWN, current + 20);
  const [from, to] = alive
    ? [0, most]
    : [Math.max(0, current - DRAWN_BEFORE), Math.max(0, current) + DRAWN_AFTER];

  const kinds = [...new Set(entries.flatMap((entry) => entry.kinds))].sort();
  return (
    <section
      aria-label="Changes"
      className={`hairline shrink-0 bg-base-200 wide:flex wide:h-screen wide:w-[21rem] wide:flex-col wide:border-r ${
        bare ? '' : 'max-wide:hidden'
      }`}
    >
      <div className="hairline border-b px-3.5 pt-3 pb-2">
        <div className="flex items-center justify-between">
          <h1 className="text-2xl">Ledger</h1>
          <IfMay right="log">
            <AppLink href={routes.newChange(siteId)} className="btn btn-primary btn-sm">
              Log a change <kbd className="border px-1 font-sans text-[0.7rem] opacity-80">n</kbd>
            </AppLink>
          </IfMay>
        </div>
        <div className="mt-2 flex items-center gap-2">
          <input
            data-search
            type="search"
            aria-label="Search the ledger"
            placeholder="Search title, page, query"
            className="input input-sm w-full"
            value={filter.q}
            onChange={(e) => void setFilter({ q: e.target.value || null })}
          />
          <button
            type="button"
            aria-label="Save the list as CSV"
            title="Save the list as CSV"
            className="btn btn-ghost btn-sm btn-square"
            onClick={() => saveCsv('ledger.csv', shown.map(csvRow))}
          >
            <Download size={16} aria-hidden />
          </button>
        </div>
        <div className="mt-1.5 grid grid-cols-3 items-center gap-x-3 text-[0.8rem]">
          <Choice className={HEAD} label="Kind" value={filter.kind} set={(kind) => void setFilter({ kind })}>
            <option value="any">all kinds</option>
            {kinds.map((kind) => (
              <option key={kind} value={kind}>
                {changeKindName(kind)}
              </option>
            ))}
          </Choice>
          <Choice
            className={HEAD}
            label="Verdict"
            value={filter.verdict}
            set={(verdict) => void setFilter({ verdict: verdict as VerdictFilter })}
          >
            {keysOf(VERDICT_FILTERS).map((verdict) => (
              <option key={verdict} value={verdict}>
                {VERDICT_FILTERS[verdict]}
              </option>
            ))}
          </Choice>
          <Choice
            className={HEAD}
            label="Order"
            value={filter.sort}
            set={(sort) => void setFilter({ sort: sort as Sort })}
          >
            {keysOf(SORTS).map((sort) => (
              <option key={sort} value={sort}>
                {SORTS[sort]}
              </option>
            ))}
          </Choice>
        </div>
        <p className="muted mt-1 flex justify-between text-[0.75rem]" aria-live="polite">
          <span>
            {shown.length === entries.length
              ? plural(shown.length, 'change')
              : `${shown.length} of ${plural(entries.length, 'change')}`}
          </span>
          <span>net of the yardstick, 90% range</span>
        </p>
      </div>
      <div className="wide:min-h-0 wide:flex-1 wide:overflow-y-auto">
        <Lines
          shown={all ? shown : shown.slice(from, to)}
          selected={selected}
          href={href}
          byMonth={filter.sort === 'newest' || filter.sort === 'oldest'}
        />
        {!all && shown.length > most && (
          <button type="button" className="inline-link m-3.5" onClick={() => setAll(true)}>
            Show all {shown.length} changes
          </button>
        )}
        {shown.length === 0 && entries.length > 0 && (
          <p className="p-4">
            No change fits this search.{' '}
            <button type="button" className="inline-link" onClick={() => void setFilter(null)}>
              Show all
            </button>
          </p>
        )}
      </div>
    </section>
  );
}

/** The filter part of the query string, without the spans of one reading. */
function keepFilter(search: string): string {
  const kept = new URLSearchParams(search);
  for (const name of [...kept.keys()]) if (!NAMES_IN_ADDRESS.includes(name)) kept.delete(name);
  return kept.toString();
}

function csvRow(entry: LedgerEntry) {
  return {
    day: isoDay(entry.day),
    kind: entry.kinds.join(' '),
    title: entry.title,
    pages: entry.where,
    metric: entry.judged,
    verdict: entry.withoutFigures ? 'no figures' : entry.verdict,
    raw: entry.raw,
    net: entry.effect,
    'range of 90%': entry.range,
    cautions: entry.cautions,
  };
}

type LinesProps = {
  shown: readonly LedgerEntry[];
  selected: number | undefined;
  href: (id: number) => string;
  byMonth: boolean;
};

function Lines({ shown, selected, href, byMonth }: LinesProps) {
  const current = useRef<HTMLLIElement>(null);
  useEffect(() => {
    current.current?.scrollIntoView({ block: 'nearest' });
  }, [selected, shown.length]);
  return (
    <ol>
      {shown.map((entry, i) => {
        const month = monthName(entry.day);
        const last = shown[i - 1];
        const newMonth = byMonth && (!last || monthName(last.day) !== month);
        return (
          <Fragment key={entry.id}>
            {newMonth && (
              <li className="hairline muted border-b px-3.5 pt-2 pb-0.5 font-serif text-[0.95rem] italic">
                {month}
              </li>
            )}
            <li ref={entry.id === selected ? current : undefined} className="hairline border-b">
              <Line entry={entry} here={entry.id === selected} href={href(entry.id)} fullDay={!byMonth} />
            </li>
          </Fragment>
        );
      })}
    </ol>
  );
}

function Line({
  entry,
  here,
  href,
  fullDay,
}: {
  entry: LedgerEntry;
  here: boolean;
  href: string;
  fullDay: boolean;
}) {
  const { figure, under } = gist(entry);
  return (
    <AppLink
      href={href}
      replace
      scroll={false}
      aria-current={here ? 'true' : undefined}
      className={`flex gap-2.5 border-l-3 px-3 py-2 ${here ? 'border-base-content bg-(--marked)' : 'border-transparent hover:bg-(--marked)'}`}
    >
      <span className={`muted shrink-0 text-[0.85rem] ${fullDay ? 'w-12' : 'w-5'}`}>
        {fullDay ? isoDay(entry.day).slice(2) : dayOfMonth(entry.day)}
      </span>
      <span className="min-w-0 flex-1">
        <span className="block leading-snug font-semibold">{entry.title}</span>
        <span className="muted block truncate text-[0.8rem]">{entry.where}</span>
        {entry.raw !== '' && <span className="muted block truncate text-[0.8rem]">{entry.raw}</span>}
      </span>
      <span className="shrink-0 text-right text-[0.8rem]">
        {entry.withoutFigures ? (
          <span className="muted block italic">no reading</span>
        ) : (
          <VerdictMark verdict={entry.verdict} figure={figure} />
        )}
        <span className="muted block">{under}</span>
        {entry.cautions > 0 && <span className="muted block">{plural(entry.cautions, 'doubt')}</span>}
      </span>
    </AppLink>
  );
}
