import type { Net } from '../net/effect';
import { netHeight, netText, rangeText, shortPlaces } from './effects';

const NET: Net = {
  clicks: { ratio: 1.238, low: 1.09, high: 1.41 },
  impressions: { ratio: 0.9, low: 0.8, high: 1.004 },
  ctr: null,
  position: { placesGained: -1.24, low: -2, high: 0.02 },
};

test('effects and ranges have their sign and unit', () => {
  expect(netText(NET, 'clicks')).toBe('+24%');
  expect(rangeText(NET, 'clicks')).toBe('+9% to +41%');
  expect(netText(NET, 'impressions')).toBe('\u221210%');
  expect(rangeText(NET, 'impressions')).toBe('\u221220% to 0%');
  expect(netText(NET, 'position')).toBe('1.2 places down');
  expect(rangeText(NET, 'position')).toBe('2.0 down to level');
  expect([netText(NET, 'ctr'), rangeText(NET, 'ctr'), netText(null, 'clicks')]).toEqual(['–', '–', '–']);
  expect(shortPlaces(1)).toBe('1.0 up');
});

test('heights rise with what is better, position too', () => {
  expect(netHeight(NET, 'clicks', null)).toBeCloseTo(Math.log(1.238), 12);
  expect(netHeight(NET, 'position', 6)).toBeLessThan(0);
  expect([netHeight(NET, 'ctr', 6), netHeight(NET, 'position', null)]).toEqual([null, null]);
});
