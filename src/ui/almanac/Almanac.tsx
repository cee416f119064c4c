'use client';

import { AppLink } from '../kit/AppLink';
import { parseAsString, useQueryState } from 'nuqs';
import { useState } from 'react';
import { isoDay } from '@/core/calendar/day';
import { spanLength } from '@/core/calendar/span';
import { EVENT_KINDS, type NewEventInput, type OutsideEvent } from '@/core/model/event';
import { datedSpan, plural } from '@/core/words/format';
import type { Act } from '../kit/attempt';
import { RowKeys } from '../kit/RowKeys';
import { saveCsv } from '../kit/saveCsv';
import { useToast } from '../kit/Toast';
import { useAct } from '../kit/useAct';
import { routes } from '../shell/routes';
import { BringInEvents, type BringIn } from './BringInEvents';
import { EventForm, type EventEdit } from './EventForm';
import { IfMay } from '../shell/May';

/** An event and how many readings it touches. */
export type AlmanacLine = { readonly event: OutsideEvent; readonly readings: number };

type Props = {
  siteId: number;
  lines: readonly AlmanacLine[];
  note: Act<[siteId: number, input: NewEventInput]>;
  save: Act<[siteId: number, eventId: number, edit: EventEdit, base: EventEdit]>;
  remove: Act<[siteId: number, eventId: number]>;
  restore: Act<[siteId: number, kind: 'event', id: number]>;
  bringIn: BringIn;
};

/** The outside events of a site, and the form to note one. */
export function Almanac({ siteId, lines, note, save, remove, restore, bringIn }: Props) {
  const [editing, setEditing] = useState<number | null>(null);
  const [q, setQ] = useQueryState('q', parseAsString.withDefault('').withOptions({ history: 'replace' }));
  const say = useToast();
  const shown = lines.filter(({ event }) =>
    `${event.name} ${EVENT_KINDS[event.kind]} ${event.note ?? ''}`
      .toLowerCase()
      .includes(q.trim().toLowerCase()),
  );

  const { act } = useAct();
  const takeOut = ({ id, name }: OutsideEvent) =>
    act(
      () => remove(siteId, id),
      () => say(`${name} was deleted.`, () => act(() => restore(siteId, 'event', id))),
    );
  const csv = () =>
    saveCsv(
      'almanac.csv',
      shown.map(({ event, readings }) => ({
        name: event.name,
        kind: event.kind,
        'first day': isoDay(event.firstDay),
        'last day': isoDay(event.lastDay),
        pages: event.group,
        readings,
        link: event.link,
        note: event.note,
      })),
    );

  return (
    <div className="grid gap-x-10 gap-y-8 lg:grid-cols-[1fr_19rem]">
      <section aria-label="Events" className="min-w-0">
        <div className="mb-2 flex flex-wrap items-center gap-4">
          <input
            data-search
            type="search"
            aria-label="Search the almanac"
            placeholder="Search the almanac"
            className="input input-sm w-56"
            value={q}
            onChange={(e) => void setQ(e.target.value || null)}
          />
          <button type="button" className="inline-link text-[0.85rem]" onClick={csv}>
            Save as CSV
          </button>
          <a href={`/api/v1/sites/${siteId}/events.ics`} className="inline-link text-[0.85rem]" download>
            as calendar
          </a>
          <a
            href={`/api/v1/sites/${siteId}/events`}
            className="inline-link text-[0.85rem]"
            download="almanac.json"
          >
            as JSON
          </a>
          <IfMay right="edit">
            <BringInEvents siteId={siteId} bringIn={bringIn} />
          </IfMay>
        </div>
        {lines.length === 0 ? (
          <p className="font-serif text-lg">
            Nothing is noted yet. Note an algorithm update, and every reading that it touches shows its band
            and says so.
          </p>
        ) : (
          <RowKeys>
            <ul>
              {shown.map((line) => (
                <li
                  key={line.event.id}
                  data-row
                  id={`event-${line.event.id}`}
                  className="hairline border-b py-2.5 target:bg-(--marked)"
                >
                  {editing === line.event.id ? (
                    <EventForm
                      event={line.event}
                      siteId={siteId}
                      save={(edit, base) => save(siteId, line.event.id, edit, base)}
                      done={() => setEditing(null)}
                    />
                  ) : (
                    <Line
                      line={line}
                      edit={() => setEditing(line.event.id)}
                      remove={() => takeOut(line.event)}
                    />
                  )}
                </li>
              ))}
              {shown.length === 0 && <li className="py-3">No event fits this search.</li>}
            </ul>
          </RowKeys>
        )}
      </section>
      <IfMay right="log">
        <section aria-labelledby="note-event" className="hairline lg:border-l lg:pl-6">
          <h2 id="note-event" className="mb-2 text-xl">
            Note an event
          </h2>
          <EventForm event={null} siteId={siteId} note={(input) => note(siteId, input)} done={() => {}} />
        </section>
      </IfMay>
    </div>
  );
}

function Line({ line, edit, remove }: { line: AlmanacLine; edit: () => void; remove: () => void }) {
  const { event, readings } = line;
  return (
    <div className="flex items-stretch gap-4 max-sm:flex-wrap">
      <span aria-hidden className="mt-1 w-1.5 shrink-0 bg-(--band) opacity-60" />
      <div className="w-46 shrink-0 text-[0.9rem]">
        {datedSpan(event)}
        <span className="muted block text-[0.8rem]">{plural(spanLength(event), 'day')}</span>
      </div>
      <div className="min-w-0 flex-1">
        <p className="font-semibold">{event.name}</p>
        <p className="muted text-[0.85rem]">
          {EVENT_KINDS[event.kind]}
          {event.group && <> · {event.group}…</>}
          {event.hidden && <> · not on pictures</>} ·{' '}
          {readings === 0 ? 'touches no reading' : `touches ${plural(readings, 'reading')}`}
          {event.link && (
            <>
              {' · '}
              <a href={event.link} className="inline-link" rel="noreferrer noopener" target="_blank">
                source
              </a>
            </>
          )}
        </p>
        {event.note && <p className="mt-0.5 text-[0.9rem]">{event.note}</p>}
      </div>
      <div className="flex shrink-0 items-start gap-3 text-[0.85rem]">
        <AppLink
          href={routes.event(event.siteId, event.id)}
          className="inline-link"
          aria-label={`Who moved across ${event.name}`}
        >
          Who moved
        </AppLink>
        <IfMay right="edit">
          <button type="button" className="inline-link" aria-label={`Edit ${event.name}`} onClick={edit}>
            Edit
          </button>
          <button type="button" className="inline-link" aria-label={`Delete ${event.name}`} onClick={remove}>
            Delete
          </button>
        </IfMay>
      </div>
    </div>
  );
}
