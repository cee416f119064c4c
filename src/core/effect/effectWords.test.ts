import { byMeasure } from '../measures/registry';
import type { Net } from './effect';
import { movedText, netHeight, netText, rangeText, shortPlaces } from './effectWords';

const NET: Net = {
  ...byMeasure(() => null),
  clicks: { ratio: 1.238, low: 1.09, high: 1.41 },
  impressions: { ratio: 0.9, low: 0.8, high: 1.004 },
  position: { placesGained: -1.24, low: -2, high: 0.02 },
};

test('what moved is said in words', () => {
  expect(movedText('appeal', 'lifted')).toBe('chosen more often');
  expect(movedText('rank', 'dropped')).toBe('standing lower');
});

test('effects and ranges have their sign and unit', () => {
  expect(netText(NET, 'clicks')).toBe('+24%');
  expect(rangeText(NET, 'clicks')).toBe('+9% to +41%');
  expect(netText(NET, 'impressions')).toBe('\u221210%');
  expect(rangeText(NET, 'impressions')).toBe('\u221220% to +0.4%');
  expect(netText(NET, 'position')).toBe('1.2 places down');
  expect(rangeText(NET, 'position')).toBe('2.0 down to 0.02 up');
  expect([netText(NET, 'ctr'), rangeText(NET, 'ctr'), netText(null, 'clicks')]).toEqual(['–', '–', '–']);
  expect(shortPlaces(1)).toBe('1.0 up');
});

test('a bound that decides a verdict is not rounded onto the line that it decides', () => {
  const range = (low: number, high: number) =>
    rangeText({ ...NET, clicks: { ratio: 1, low, high } }, 'clicks');
  expect(range(0.45, 0.9984)).toBe('\u221255% to \u22120.2%');
  expect(range(1.00004, 1.15)).toBe('+0.004% to +15%');
  expect(range(0.97, 1.1017)).toBe('\u22123% to +10.2%');
  expect(range(0.97, 1.0996)).toBe('\u22123% to +9.96%');
  // Where it is on the line, it says so.
  expect(range(0.45, 1)).toBe('\u221255% to 0%');
  expect(range(1.09, 1.41)).toBe('+9% to +41%');
});

test('heights rise with what is better, position too', () => {
  expect(netHeight(NET, 'clicks', null)).toBeCloseTo(Math.log(1.238), 12);
  expect(netHeight(NET, 'position', 6)).toBeLessThan(0);
  expect([netHeight(NET, 'ctr', 6), netHeight(NET, 'position', null)]).toEqual([null, null]);
});
