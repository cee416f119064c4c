'use client';

import { AppLink } from '../kit/AppLink';
import { useState } from 'react';
import { addDays, isoDay, type Day } from '@/core/calendar/day';
import { DESK_KINDS, type DeskKind, type DeskLine } from '@/core/desk/desk';
import { count, mediumDay, percentChange } from '@/core/words/format';
import { RowKeys } from '../kit/RowKeys';
import type { Act } from '../kit/attempt';
import { InlineForm } from '../kit/InlineForm';
import { useToast } from '../kit/Toast';
import { useAct } from '../kit/useAct';
import { IfMay } from '../shell/May';
import { routes } from '../shell/routes';

type Props = {
  siteId: number;
  today: Day;
  /** The last week that can be read: falls are of it, against the week before. */
  fallDays: { readonly from: string; readonly to: string } | null;
  lines: readonly DeskLine[];
  putOff: Act<[siteId: number, key: string, until: string | null]>;
};

/** What to do about each kind of thing that is due. */
const WHAT_TO_DO: Record<DeskKind, string> = {
  'to-make': 'Its day has come. Make it, and say so; or plan another day.',
  'round-due': 'A half is to be made, or is read and wants to be decided on.',
  'routine-due': 'What is done again and again, and has come round.',
  'not-crawled': 'A request is usually served within a day or two. Check whether the page was crawled.',
  'old-text': 'Search for the page, and see whether the results show the new text.',
  'review-due': 'See what came of what was expected.',
  complete: 'All its days are over and final.',
  'plain-drop': 'Its days are not over, and the drop is already plain.',
  unlogged:
    'A watched page differs from before. Log what was done, already filled in, or say that it is nothing.',
  'fell-back':
    'Clicks of the last full week compared with the week before, where they fell further than they usually move. Settings say how far.',
};

/** What is due today, by kind. Each line opens where it is dealt with, and can be put off. */
export function Desk({ siteId, today, fallDays, lines, putOff }: Props) {
  const kinds = (Object.keys(DESK_KINDS) as DeskKind[]).filter((kind) =>
    lines.some((one) => one.kind === kind),
  );
  if (kinds.length === 0) {
    return (
      <p className="max-w-xl font-serif text-lg">
        Changes to make, requests not yet crawled, reviews, readings that have become complete and pages that
        fell come to lie here on their day.
      </p>
    );
  }
  return (
    <RowKeys>
      <div className="max-w-4xl space-y-6">
        {kinds.map((kind) => (
          <section key={kind} aria-labelledby={`desk-${kind}`}>
            <h2 id={`desk-${kind}`} className="text-xl">
              {DESK_KINDS[kind]}
            </h2>
            <p className="muted text-[0.85rem]">{WHAT_TO_DO[kind]}</p>
            <ul className="hairline mt-1 border-t">
              {lines
                .filter((one) => one.kind === kind)
                .map((line) => (
                  <Line key={line.key} {...{ siteId, today, fallDays, line, putOff }} />
                ))}
            </ul>
          </section>
        ))}
      </div>
    </RowKeys>
  );
}

function Line({ siteId, today, fallDays, line, putOff }: { line: DeskLine } & Omit<Props, 'lines'>) {
  const say = useToast();
  const [open, setOpen] = useState(false);
  const { act } = useAct();
  const { key, title, changeId, pageId, roundId, routineId, detail } = line;
  const href =
    routineId !== undefined
      ? routes.routines(siteId)
      : roundId !== undefined
        ? routes.round(siteId, roundId)
        : changeId !== null
          ? routes.change(siteId, changeId)
          : pageId !== null
            ? routes.page(siteId, pageId)
            : routes.fallenPages(siteId, fallDays);
  return (
    <li data-row className="hairline flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b py-1.5">
      <AppLink href={href} className="inline-link">
        {title}
      </AppLink>
      <span className="muted text-[0.85rem] tabular-nums">{inWords(detail)}</span>
      <span className="ml-auto text-[0.85rem]">
        {open ? (
          <InlineForm
            type="day"
            label={`Put ${title} off to`}
            initial={isoDay(addDays(today, 7))}
            min={isoDay(addDays(today, 1))}
            submit="put off"
            run={(until) => putOff(siteId, key, until)}
            done={() => say(`${title}: put off.`, () => act(() => putOff(siteId, key, null)))}
          />
        ) : (
          <IfMay right="edit">
            <button
              type="button"
              className="inline-link"
              aria-label={`Put ${title} off`}
              onClick={() => setOpen(true)}
            >
              Put off
            </button>
          </IfMay>
        )}
      </span>
    </li>
  );
}

function inWords({ since, before, after }: DeskLine['detail']): string {
  if (since !== null) return `since ${mediumDay(since)}`;
  if (before === null || after === null) return '';
  return `${count(before)} to ${count(after)} clicks, ${percentChange(after / before)}`;
}
