import { asDay } from '../calendar/day';
import { estimateOf, type Estimates } from '../effect/effect';
import { byMeasure } from '../measures/registry';
import type { Half, Round, RoundPage } from '../model/round';
import { Draws } from '../statistics/draws';
import { earlyLevel } from './early';
import {
  byRoundMeasure,
  effectsAgainstSite,
  judgedOf,
  plainLook,
  turnDay,
  turnEffects,
  type TurnReading,
} from './reading';
import {
  aloneText,
  chanceText,
  confirmationText,
  effectText,
  rangeWords,
  thingsOf,
  turnSentence,
} from './roundSentence';
import { bindsPages, roundState, turnReadOn } from './state';

const NONE: Estimates = byMeasure(() => null);
const effect = (net: number, low: number, high: number, p = 0.004) => ({
  ...{ net, low, high, p, pages: 20, exact: true, waiting: 1, shared: 0 },
});

describe('how far a round has come', () => {
  const page = (id: number, half: Half, madeOn: number | null): RoundPage => ({
    ...{ page: { id, address: `https://www.quillow-bees.example/${id}` }, written: `/${id}`, half, block: 0 },
    ...{ person: null, oldText: null, newText: null, opening: null },
    steps: madeOn === null ? {} : { made: asDay(madeOn) },
    frozen: {
      ...{ firstDay: null, lastDay: null, clicks: 0, impressions: 0, position: null, appeal: null },
      ...{ title: null, description: null, queries: [] },
    },
  });
  const round = (first: number | null, second: number | null, over: Partial<Round> = {}): Round => ({
    ...{
      id: 1,
      siteId: 1,
      name: 'R',
      kind: 'title-rewrite',
      day: asDay(1000),
      draw: 'halves',
      seed: 1,
    },
    ...{ windowDays: 28, settlingDays: 3, expectation: null, person: null, followsId: null },
    ...{ decision: null, changes: {}, pages: [page(1, 'first', first), page(2, 'second', second)] },
    ...over,
  });
  const goOn = { decision: { decision: 'go-on', reason: null, day: asDay(1060) } } as const;

  test.each([
    ['nothing is made', round(null, null), 1010, 'drawn'],
    ['the first half is read', round(1001, null), 1010, 'first'],
    ['it is read whole', round(1001, null), 1040, 'to-decide'],
    ['it goes on', round(1001, null, goOn), 1061, 'to-go-on'],
    ['the second half is read', round(1001, 1062, goOn), 1070, 'second'],
    ['both are read', round(1001, 1062, goOn), 1100, 'over'],
    ['it was stopped', round(1001, null, { decision: { ...goOn.decision, decision: 'stop' } }), 1061, 'over'],
    ['nobody ever began', round(null, null), 1200, 'over'],
  ] as const)('%s', (_name, one, day, state) => {
    expect(roundState(one, asDay(day), 3)).toBe(state);
    expect(bindsPages(one, asDay(day), 3)).toBe(state !== 'over');
  });

  test('a turn can be read once its days are final', () => {
    // Three settling days, 28 of them read, two until a source gives a day and three until it is final.
    expect(turnReadOn(round(1001, null), 'first', 3)).toBe(1001 + 3 + 28 - 1 + 2 + 3);
    expect(turnReadOn(round(1001, null), 'second', 3)).toBeNull();
  });

  test('a half’s day is that of most of its pages', () => {
    expect(turnDay([page(1, 'first', 5), page(2, 'first', 7), page(3, 'first', 7)])).toBe(7);
    expect(turnDay([page(1, 'first', 5), page(2, 'first', 7)])).toBe(5);
    expect(turnDay([page(1, 'first', null)])).toBeNull();
  });
});

describe('the reading of a turn', () => {
  test('is by what was expected, else by what the kind is about', () => {
    expect(judgedOf('title-rewrite', null)).toBe('appeal');
    expect(judgedOf('headings', null)).toBe('clicks');
    const expected = { direction: 'up', amount: 2, reviewDay: null } as const;
    expect(judgedOf('headings', { metric: 'position', ...expected })).toBe('rank');
  });

  test('re-randomises within blocks, and as one block where halves were chosen by hand', () => {
    const rows = Array.from({ length: 8 }, (_, i) => ({
      ...{ pageId: i, block: Math.floor(i / 2), changed: i % 2 === 0 },
      effects: { ...NONE, appeal: estimateOf(i % 2 === 0 ? 0.3 : 0, 0.1, 1.7) },
    }));
    expect(turnEffects(rows, { draw: 'halves', draws: new Draws(1) }).appeal!.p).toBeCloseTo(2 / 16, 12);
    expect(turnEffects(rows, { draw: 'by-hand', draws: new Draws(1) }).appeal!.p).toBeCloseTo(2 / 70, 12);
    expect(turnEffects(rows, { draw: 'halves', draws: new Draws(1) }, ['clicks'])).toEqual(
      byRoundMeasure(() => null),
    );
  });

  test('with a yardstick takes the site’s pages into the control of each measure that has one', () => {
    const rows = Array.from({ length: 8 }, (_, i) => ({
      ...{ pageId: i, block: 0, changed: i % 2 === 0 },
      effects: {
        ...NONE,
        appeal: estimateOf(i % 2 === 0 ? 0.3 : 0, 0.1, 1.7),
        clicks: estimateOf(0.01 * i, 0.1, 1.7),
      },
    }));
    const common = (measure: string) => (measure === 'appeal' ? 0.001 : null);
    const { appeal, clicks } = turnEffects(rows, { draw: 'halves', draws: new Draws(1), common });
    expect(appeal!.waiting).toBeLessThan(0.6);
    expect(clicks!.waiting).toBe(1);
  });

  test('of all pages at once has the p-value of its range', () => {
    const { appeal } = effectsAgainstSite({ ...NONE, appeal: estimateOf(0.1645, 0.1, 1.645) }, 5);
    expect(appeal!.p).toBeCloseTo(0.1, 3);
  });

  test('early is plain only below what looking every day leaves', () => {
    expect(earlyLevel(28, 28)).toBeCloseTo(0.0455, 3);
    expect(earlyLevel(2, 28)).toBe(0);
    const looks = (...p: number[]) => p.map((one, i) => ({ look: 20 + i, effect: effect(0.1, 0, 0.2, one) }));
    expect(plainLook('appeal', looks(0.05, 0.02, 0.2), 28)).toEqual({ called: 'lifted', look: 21 });
    expect(plainLook('rank', looks(0.001), 28)).toEqual({ called: 'dropped', look: 20 });
    expect(plainLook('appeal', looks(0.2, 0.2), 28)).toBeNull();
    const turned = [...looks(0.001), { look: 24, effect: effect(-0.1, -0.2, 0) }];
    expect(plainLook('appeal', turned, 28)).toBeNull();
  });
});

describe('its sentence', () => {
  const found = effect(Math.log(1.14), Math.log(1.07), Math.log(1.22));
  const pages = (changed: number, others: number) =>
    Array.from({ length: changed + others }, (_, i) => ({
      ...{ page: { id: i, address: '' }, half: 'first' as const, changed: i < changed },
      effects: byRoundMeasure(() => null),
    }));
  const turn = (over: Partial<TurnReading>): TurnReading => ({
    ...{ half: 'first', day: asDay(100), before: { firstDay: asDay(72), lastDay: asDay(99) } },
    ...{ after: { firstDay: asDay(103), lastDay: asDay(130) }, read: null, complete: true, completeOn: null },
    ...{ against: 'half', judged: 'appeal', verdict: 'lifted', movedIn: 'appeal', early: null },
    effects: { ...byRoundMeasure(() => null), appeal: found },
    alone: null,
    changed: {} as TurnReading['changed'],
    ...{ waiting: null, pages: pages(10, 10), leftOut: [], doubts: [] },
    ...over,
  });
  const whole = turn({ read: { firstDay: asDay(103), lastDay: asDay(130) } });
  const said = (one: TurnReading) => {
    const { found: pieces, limits } = turnSentence('title-rewrite', one);
    return `${pieces.map(({ text }) => text).join('')} ${limits}`;
  };

  test('says how much, against whom, and how often chance alone would', () => {
    expect(said(whole)).toBe(
      'The ten new titles are chosen 14% more often, at the same searches and positions, than the ten that wait, likely between 7% and 22%. Chance alone would bring as much in 4 of 1,000 draws: this is as good as certain not to be chance.',
    );
    expect(said({ ...whole, half: 'second' })).toContain('than the ten that went before');
    expect(said({ ...whole, against: 'site' })).toContain('than what the rest of the site suggests');
  });

  test('says who else is in the control, and what the halves alone say', () => {
    const both = { ...whole, effects: { ...whole.effects, appeal: { ...found, waiting: 0.42 } } };
    const alone = { ...byRoundMeasure(() => null), appeal: effect(0.1, 0.01, 0.19, 0.06) };
    expect(said(both)).toContain('than the ten that wait and the rest of the site suggest, likely');
    expect(aloneText({ ...both, alone })).toBe(
      'The half that waits is 42% of the control, untouched pages of the site are the rest. By the draw of the halves alone: chosen 11% more often, likely between 1% and 21%. Chance alone would bring as much in 60 of 1,000 draws.',
    );
    expect(aloneText({ ...both, alone, half: 'second' })).toContain('The first half is 42%');
    expect(aloneText({ ...whole, alone })).toBe('');
    expect(aloneText({ ...both, alone: null })).toBe('');
  });

  test('says where it cannot be told, and where it is too soon', () => {
    const unclear = { ...whole, verdict: 'unclear' as const };
    const little = effect(0.03, -0.06, 0.12, 0.52);
    expect(said({ ...unclear, effects: { ...unclear.effects, appeal: little } })).toBe(
      'Whether the ten new titles did anything cannot be told: chosen 3% more often than the ten that wait, likely between 6% less and 13%. Chance alone would bring as much in 520 of 1,000 draws, so it may well be chance.',
    );
    expect(said(turn({ verdict: 'waiting', completeOn: asDay(20_000) }))).toBe(
      'Too soon to compare anything. The whole can be read on 4 October 2024.',
    );
  });

  test('of position counts up as better', () => {
    const up = effect(-0.1, -0.2, -0.05);
    expect(effectText('rank', up)).toBe('standing 11% higher');
    expect(rangeWords('rank', up)).toBe('likely between 5% and 22%');
    expect(effectText('clicks', { net: 0.001 })).toBe('clicked about as often');
    expect(chanceText({ p: 0 })).toContain('fewer than one of 1,000');
    expect(thingsOf('speed', 2)).toBe('pages with speed');
  });

  test('a second turn bears out the first, or not', () => {
    expect(confirmationText(whole, { ...whole, half: 'second' })).toBe(
      'The second turn bears out the first.',
    );
    const other = (net: number) => ({
      ...{ ...whole, half: 'second' as const, verdict: 'unclear' as const },
      effects: { ...whole.effects, appeal: effect(net, net - 0.2, net + 0.2) },
    });
    expect(confirmationText(whole, other(0.1))).toContain('within the range of the first');
    expect(confirmationText(whole, other(0.01))).toContain('by another amount');
    expect(confirmationText(whole, other(-0.1))).toContain('did not come again');
    expect(confirmationText(whole, { ...whole, verdict: 'waiting' })).toBe('');
  });
});
