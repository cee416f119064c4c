import { addDays, asDay } from '../calendar/day';
import { settlingUntilCrawled } from '../model/steps';
import { stepEffect } from './stepEffect';

const MADE = asDay(20_000);
const USUAL = { windowDays: 28, settlingDays: 3 };
const END = addDays(MADE, 30);
const change = { day: MADE, steps: {}, recorded: {} };

test('a crawl recorded in time moves the after span, and says where to', () => {
  expect(stepEffect(change, 'crawled', addDays(MADE, 9), addDays(MADE, 10), USUAL)).toBe(
    'The after span moves from 7 Oct – 3 Nov to 13 Oct – 9 Nov.',
  );
});

test('a crawl recorded after the span has ended leaves the reading as it is', () => {
  const late = addDays(END, 1);
  for (const day of [addDays(MADE, 9), late])
    expect(stepEffect(change, 'crawled', day, late, USUAL)).toBe(
      'The days after the change ended on 3 Nov. The reading stays as it is.',
    );
});

test('the last day of the span is still in time', () => {
  const settled = (crawled: number, recorded: number) =>
    settlingUntilCrawled(3, 28, {
      day: MADE,
      steps: { crawled: addDays(MADE, crawled) },
      recorded: { crawled: addDays(MADE, recorded) },
    });
  expect([settled(9, 30), settled(30, 30), settled(9, 31), settled(31, 31)]).toEqual([9, 30, 3, 3]);
  // Old histories do not say when a step was recorded: the day of the step stands for it.
  expect(settlingUntilCrawled(3, 28, { day: MADE, steps: { crawled: addDays(MADE, 9) } })).toBe(9);
});

test('other steps do not move spans, a corrected day of the change does', () => {
  expect(stepEffect(change, 'seen-in-results', END, END, USUAL)).toBe('The reading stays as it is.');
  expect(stepEffect(change, 'made', addDays(MADE, 2), END, USUAL)).toMatch(/^The after span moves from/);
});
