import ICAL from 'ical.js';
import { newSiteSchema } from '@/core/model/site';
import { newEventSchema } from '@/core/model/event';
import { asDay } from '@/core/calendar/day';
import { calendarAnswer } from './calendar';

const HOSTILE = 'Yard\r\nBEGIN:VEVENT\r\nSUMMARY:not mine;x,y\\z\nEND:VEVENT';

// RFC 5545, 3.3.11: in a text, line breaks, commas, semicolons and backslashes are escaped.
test('no field of a calendar writes lines of its own', async () => {
  const text = await calendarAnswer(HOSTILE, 'x.ics', [
    {
      ...{ id: 'a@quillow-bees.example', firstDay: asDay(20_700), lastDay: asDay(20_701), summary: HOSTILE },
      ...{ description: HOSTILE, url: 'https://quillow-bees.example/a?b=c,d;e', category: HOSTILE },
    },
  ]).text();
  const calendar = new ICAL.Component(ICAL.parse(text) as unknown[]);
  const events = calendar.getAllSubcomponents('vevent');
  expect(events).toHaveLength(1);
  const plain = HOSTILE.replace(/\r\n|\n/g, '\n');
  // The reader takes this property, which is none of the standard's, as it is written.
  const named = String(calendar.getFirstPropertyValue('x-wr-calname'));
  expect(named.replace(/\\n/g, '\n').replace(/\\(.)/g, '$1')).toBe(plain);
  const event = new ICAL.Event(events[0]!);
  expect([event.summary, event.description]).toEqual([plain, plain]);
});

test('names are of one line, and links have no line breaks', () => {
  expect(newSiteSchema.parse({ name: 'Yard\r\nBEGIN:VEVENT', address: 'a.example' }).name).toBe(
    'Yard BEGIN:VEVENT',
  );
  const event = { name: 'E\u2028x', kind: 'other', firstDay: '2026-09-14' };
  expect(newEventSchema.parse(event).name).toBe('E x');
  expect(newEventSchema.safeParse({ ...event, link: 'https://a.example/\r\nX:1' }).success).toBe(false);
});
