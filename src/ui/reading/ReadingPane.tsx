import Link from 'next/link';
import type { ReactNode } from 'react';
import { pagePath } from '@/core/address/address';
import { changeKindName, METRIC_NAMES, type Change } from '@/core/model/change';
import type { Reading } from '@/core/reading/model';
import { readingSentence } from '@/core/reading/sentence';
import { longDay, mediumDay, percentChange, placesGained, plural, shortDay } from '@/core/words/format';
import { routes } from '../shell/routes';
import { DayFiguresTable } from './DayFiguresTable';
import { Doubts } from './Doubts';
import { MetricTable, QueryTable } from './MetricTable';
import { SpanForm } from './SpanForm';
import type { StripsData } from './strips/data';
import { ReadingStrips } from './strips/ReadingStrips';

type Props = { reading: Reading; strips: StripsData; actions: ReactNode };

/** A change read before and after: the sentence, the figures, the picture, the doubts. */
export function ReadingPane({ reading, strips, actions }: Props) {
  const { change } = reading;
  const { seen, limits } = readingSentence(reading);
  return (
    <article className="max-w-[56rem] px-5 pt-4 pb-8">
      <Link href={routes.ledger(change.siteId)} prefetch={false} className="inline-link wide:hidden">
        All changes
      </Link>
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <p className="muted text-[0.85rem]">
          {changeKindName(change.kind)} · {longDay(change.day)}
          {change.person && <> · logged by {change.person}</>}
          {change.link && (
            <>
              {' · '}
              <a
                href={change.link}
                className="inline-link whitespace-nowrap"
                rel="noreferrer noopener"
                target="_blank"
              >
                {linkName(change.link)}
              </a>
            </>
          )}
        </p>
        <div className="flex gap-4 text-[0.85rem]">{actions}</div>
      </div>
      <h2 className="text-[1.6rem] leading-tight">{change.title}</h2>
      <Addresses change={change} />

      <p className="mt-2.5 font-serif text-[1.3rem] leading-snug">
        {seen} <span className="muted">{limits}</span>
        {wantsFigures(reading) && (
          <>
            {' '}
            <Link href={routes.intake(change.siteId)} prefetch={false} className="inline-link">
              Bring figures in
            </Link>
          </>
        )}
      </p>

      <div className="mt-2.5">
        <MetricTable reading={reading} />
      </div>
      <Facts reading={reading} />

      <div className="mt-2">
        <ReadingStrips
          data={strips}
          summary={`${seen} Daily clicks, impressions, CTR and position around the change; the figures stand in the table below.`}
        />
      </div>

      <div className="mt-3 grid gap-x-8 gap-y-5 md:grid-cols-2">
        <Section title="Doubts">
          <Doubts reading={reading} />
        </Section>
        <Section title={change.oldText || change.newText ? 'What was changed' : 'Note'}>
          <Texts change={change} />
        </Section>
      </div>

      {reading.queries.length > 0 && (
        <Section title="The exact query on the exact page" className="mt-5">
          <QueryTable reading={reading} />
        </Section>
      )}

      <Section title="How to read this" className="mt-5">
        <ul className="list-disc space-y-1 pl-5">
          <li>
            The days before the change are compared with equally many days after it. The days just after it
            are left out, since the result page does not show the change yet.
          </li>
          <li>
            In the picture, before is hollow and after is solid: the bars are the level of each span, so that
            a step shows as a step. Position is turned over, so that up is better in every strip. Bands are
            outside events; strokes on the rail are changes, the fifth in a week crossing the other four.
          </li>
          <li>
            CTR is all clicks over all impressions, position is weighted by impressions; neither is a mean of
            daily values.
          </li>
          <li>
            The difference is raw. Season, updates, chance and a page that was due to recover anyway are still
            in it.
          </li>
        </ul>
      </Section>

      <details className="mt-5">
        <summary className="font-semibold">Figures by day</summary>
        <DayFiguresTable data={strips} title={change.title} />
      </details>
    </article>
  );
}

/** Whether what the reading lacks is figures, and not time. */
function wantsFigures({ verdict, compared, spans }: Reading): boolean {
  if (verdict === 'waiting') return compared === null || spans.completeOn === null;
  return verdict === 'no-figures';
}

function linkName(link: string): string {
  const url = new URL(link);
  return url.pathname.split('/').filter(Boolean).at(-1) ?? url.host;
}

function Addresses({ change }: { change: Change }) {
  const [first, ...rest] = change.pages;
  if (!first) return null;
  const address = (page: typeof first) => (
    <a href={page.address} className="inline-link" rel="noreferrer noopener" target="_blank">
      {pagePath(page.address)}
    </a>
  );
  if (rest.length === 0) return <p className="muted text-[0.85rem]">{address(first)}</p>;
  return (
    <details className="muted text-[0.85rem]">
      <summary>{plural(change.pages.length, 'page')}, read together</summary>
      <ul className="mt-1 columns-2 pl-4">
        {change.pages.map((page) => (
          <li key={page.id}>{address(page)}</li>
        ))}
      </ul>
    </details>
  );
}

/** What was written down before the result was known, and the spans, in one line. */
function Facts({ reading }: { reading: Reading }) {
  const { change, spans } = reading;
  const { expectation } = change;
  return (
    <div className="muted mt-2 flex flex-wrap items-baseline gap-x-5 gap-y-1 text-[0.85rem]">
      <span>
        made <b className="text-base-content">{shortDay(change.day)}</b>
      </span>
      {expectation && (
        <span>
          expected{' '}
          <b className="text-base-content">
            {METRIC_NAMES[expectation.metric]} {expectedAmount(expectation)}
          </b>
          {expectation.reviewDay !== null && (
            <>
              , review <b className="text-base-content">{mediumDay(expectation.reviewDay)}</b>
            </>
          )}
        </span>
      )}
      <SpanForm
        key={`${change.id}/${spans.windowDays}/${spans.settlingDays}`}
        windowDays={spans.windowDays}
        settlingDays={spans.settlingDays}
      />
    </div>
  );
}

function expectedAmount({ metric, direction, amount }: NonNullable<Change['expectation']>): string {
  if (amount === null) return direction;
  if (metric === 'position') return placesGained(direction === 'up' ? amount : -amount);
  return percentChange(direction === 'up' ? 1 + amount : 1 - amount).replace(/\.0%$/, '%');
}

function Texts({ change }: { change: Change }) {
  const { oldText, newText, note } = change;
  if (!oldText && !newText && !note)
    return <p className="muted">Nothing was noted. Edit the change to add it.</p>;
  return (
    <dl className="space-y-2">
      {oldText && <Text name="old" text={oldText} />}
      {newText && <Text name="new" text={newText} />}
      {note && <Text name="note" text={note} />}
    </dl>
  );
}

function Text({ name, text }: { name: string; text: string }) {
  return (
    <div className="grid grid-cols-[2.6rem_1fr] gap-2">
      <dt className="muted text-[0.85rem]">{name}</dt>
      <dd className="whitespace-pre-wrap break-words">{text}</dd>
    </div>
  );
}

function Section({ title, className, children }: { title: string; className?: string; children: ReactNode }) {
  return (
    <section className={className}>
      <h3 className="mb-1.5 border-b border-base-content pb-0.5 text-[1.1rem]">{title}</h3>
      {children}
    </section>
  );
}
