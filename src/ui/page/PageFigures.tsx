import { AppLink } from '../kit/AppLink';
import type { ComponentProps, ReactNode } from 'react';
import { columnValue } from '@/core/lists/written';
import type { Change, PageRef } from '@/core/model/change';
import type { OutsideEvent } from '@/core/model/event';
import { saidOn, type PageWords } from '@/core/words/termsOnPage';
import { count } from '@/core/words/format';
import type { ListLine } from '@/core/lists/line';
import type { SubjectDays } from '@/core/history/subjectDays';
import type { ShiftSeen } from '@/core/shifts/seen';
import type { PageTraits } from '@/core/model/traits';
import type { Act } from '../kit/attempt';
import { Part } from '../reading/HowTo';
import { routes } from '../shell/routes';
import { DaysForm } from '../subject/DaysForm';
import { ShiftsPart } from '../subject/ShiftsPart';
import { SaidText } from '../subject/SaidText';
import { subjectStrips } from '../subject/strips';
import { SubjectStrips } from '../subject/SubjectStrips';
import { EarnsPart } from './EarnsPart';
import { PageTraitsForm } from './PageTraitsForm';
import { isoDay } from '@/core/calendar/day';
import { FiguresTable } from '../kit/table/FiguresTable';

type Props = {
  siteId: number;
  page: PageRef;
  days: SubjectDays | null;
  device: string;
  query: string | null;
  changes: readonly Change[];
  events: readonly OutsideEvent[];
  shifts: readonly ShiftSeen[];
  searches: readonly ListLine[];
  total: number;
  /** What the page says; null where it has not been fetched. */
  words: PageWords | null;
  /** What would pay on it, and what links to it: both may come later. */
  paying: ReactNode;
  links: ReactNode;
  /** Whether there are no queries because the figures do not divide them by the device chosen. */
  lacksQueries: boolean;
  /** What its visits come to; null without landing-page figures. */
  earned: Omit<ComponentProps<typeof EarnsPart>, 'queries'> | null;
  traits: PageTraits;
  save: Act<[siteId: number, pageId: number, traits: PageTraits, base: PageTraits]>;
};

/** A page's figures: day by day, search by search, what would pay on it, and when it moved. */
export function PageFigures(props: Props) {
  const { siteId, page, days, device, query, changes, events, shifts, searches, total, words } = props;
  const { lacksQueries } = props;
  if (!days && searches.length === 0 && !lacksQueries) return null;
  const here = routes.page(siteId, page.id);
  const shared = searches.some((line) => otherPages(line) > 0);
  return (
    <div className="mb-6 grid max-w-6xl gap-x-10 gap-y-5 lg:grid-cols-2">
      <div className="min-w-0 space-y-5">
        {days && (
          <Part title="Day by day">
            <DaysForm
              action={here}
              days={{ from: isoDay(days.shown.firstDay), to: isoDay(days.shown.lastDay) }}
              device={device}
              query={query ?? undefined}
              queries={searches.flatMap((line) => line.query?.text ?? [])}
            />
            <SubjectStrips data={subjectStrips(days, changes, events)} name="the page" />
          </Part>
        )}
        <ShiftsPart siteId={siteId} shifts={shifts} what="the page" />
      </div>
      <div className="min-w-0 space-y-5">
        {props.paying}
        {searches.length === 0 && lacksQueries && (
          <Part title="Its queries, and whether it says them">
            <p>
              The imported files have no queries by device, so there are none for {device}. Choose all devices
              to see them.
            </p>
          </Part>
        )}
        {searches.length > 0 && (
          <Part title="Its queries, and whether it says them">
            <FiguresTable
              label="Its queries"
              className="dense text-[0.85rem]"
              csv="queries of the page.csv"
              rows={searches}
              rowKey={({ query: of }, i) => of?.id ?? i}
              columns={[
                {
                  id: 'query',
                  cellClass: 'max-w-56 truncate font-normal!',
                  value: (line) => line.query?.text ?? '',
                  cell: (line) =>
                    line.query && (
                      <AppLink href={routes.query(siteId, line.query.id)} className="hover:underline">
                        {line.query.text}
                      </AppLink>
                    ),
                },
                ...(['clicks', 'impressions', 'position'] as const).map((metric) => ({
                  id: metric,
                  lowFirst: metric === 'position',
                  value: ({ metrics }: ListLine) => metrics[metric].after,
                  cell: ({ metrics }: ListLine) => columnValue(metric, metrics[metric].after),
                })),
                shared && {
                  id: 'others',
                  about: 'other pages of the site that were shown for it',
                  value: otherPages,
                  cell: (line) => (otherPages(line) > 0 ? count(otherPages(line)) : ''),
                },
                {
                  id: 'said',
                  text: true,
                  cellClass: `${shared ? 'max-w-44' : 'max-w-52'} truncate`,
                  cell: (line) => (
                    <SaidText said={words && line.query ? saidOn(words, line.query.text) : null} />
                  ),
                },
              ]}
            />
            {total > searches.length && (
              <p className="muted mt-1 text-[0.85rem]">and {count(total - searches.length)} more</p>
            )}
          </Part>
        )}
        {props.earned && (
          <EarnsPart
            device={device}
            {...props.earned}
            queries={searches.flatMap(({ query, metrics }) =>
              query ? [{ query: query.text, clicks: metrics.clicks.after ?? 0 }] : [],
            )}
          />
        )}
        {props.links}
        <Part title="What it is meant for">
          <PageTraitsForm siteId={siteId} pageId={page.id} traits={props.traits} save={props.save} />
        </Part>
      </div>
    </div>
  );
}

/** How many other pages of the site were shown for the query of a line. */
function otherPages({ further }: ListLine): number {
  return Math.max(0, (further.pages ?? 1) - 1);
}
