import type { EventKind } from '../core/model/event';
import type { Metric } from '../core/measures/registry';

/*
 * What happened at the made-up site, in days before the last day of its figures (0 is the last day). The log keeps
 * what the people knew; `effect` is what the simulator really did and is never shown to the application.
 */

/**
 * What a change really did once it was crawled: `appeal` and `reach` multiply the click rate and the impressions,
 * `places` are gained in the ranking.
 */
export type Effect = { readonly appeal?: number; readonly reach?: number; readonly places?: number };

export type DemoChange = {
  readonly ago: number;
  readonly title: string;
  readonly kind: string;
  readonly pages: readonly string[];
  readonly person: 'IK' | 'MO' | 'RT';
  readonly queries?: readonly string[];
  readonly oldText?: string;
  readonly newText?: string;
  readonly expect?: { readonly metric: Metric; readonly amount: number; readonly inDays: number };
  readonly ticket?: number;
  readonly note?: string;
  readonly tags?: readonly string[];
  /** Steps that were recorded, in days after its own. */
  readonly steps?: Readonly<Partial<Record<DemoStep, number>>>;
  readonly effect: Effect;
};

export type DemoStep = 'reindex-requested' | 'crawled' | 'seen-in-results';

export type DemoEvent = {
  readonly ago: number;
  readonly days: number;
  readonly name: string;
  readonly kind: EventKind;
  readonly note?: string;
  /** Impressions multiplied for good from its last day on, by the part of the site that a path begins with. */
  readonly reach?: Readonly<Record<string, number>>;
};

/** Days on which the source gave nothing at all. */
export const LOST_DAYS_AGO = [163, 164];

export const EVENTS: readonly DemoEvent[] = [
  {
    ago: 318,
    days: 9,
    name: 'Lantern update',
    kind: 'algorithm-update',
    reach: { '/guides/': 1.12, '/shop/': 0.9 },
    note: 'Felt mostly on product lists.',
  },
  {
    ago: 176,
    days: 12,
    name: 'Thistle update',
    kind: 'algorithm-update',
    reach: { '/guides/': 0.86, '/calendar/': 1.1 },
  },
  {
    ago: 47,
    days: 8,
    name: 'Clover update',
    kind: 'algorithm-update',
    reach: { '/guides/': 1.07, '/shop/': 1.04 },
    note: 'Announced on the day, finished eight days later.',
  },
  {
    ago: 164,
    days: 2,
    name: 'Figures feed gave nothing',
    kind: 'tracking-fault',
    note: 'Two days are missing for good.',
  },
  { ago: 334, days: 12, name: 'Midwinter holidays', kind: 'holiday-or-season' },
  {
    ago: 241,
    days: 46,
    name: 'Swarming season',
    kind: 'holiday-or-season',
    note: 'Everything about swarms and hives is searched twice as often.',
  },
  { ago: 128, days: 10, name: 'Honey show newsletter', kind: 'campaign' },
  { ago: 92, days: 1, name: 'Shop down for an afternoon', kind: 'outage' },
];

const year = 365;

export const CHANGES: readonly DemoChange[] = [
  {
    ago: 437,
    title: 'Opening times in the home page title',
    kind: 'title-rewrite',
    pages: ['/'],
    person: 'IK',
    effect: {},
    oldText: 'Quillow Bee Yard',
    newText: 'Quillow Bee Yard: bee supplies, open all week',
  },
  {
    ago: 421,
    title: 'Recipe data on the mead page',
    kind: 'structured-data',
    pages: ['/guides/mead-basics/'],
    person: 'RT',
    effect: { appeal: 1.22 },
    expect: { metric: 'ctr', amount: 0.2, inDays: 30 },
    ticket: 101,
  },
  {
    ago: 402,
    title: 'Wick sizes as a table',
    kind: 'body-copy',
    pages: ['/guides/candle-making/'],
    person: 'MO',
    effect: { reach: 1.3 },
    queries: ['beeswax candle wick size'],
    ticket: 108,
  },
  {
    ago: 388,
    title: 'Gift sets named for the season',
    kind: 'title-rewrite',
    pages: ['/shop/gift-sets/'],
    person: 'IK',
    effect: { appeal: 1.15 },
    oldText: 'Gift sets',
    newText: 'Gifts for beekeepers, wrapped and sent',
  },
  {
    ago: 371,
    title: 'Descriptions for five shop lists',
    kind: 'meta-description',
    pages: ['/shop/frames/', '/shop/foundation/', '/shop/gloves/', '/shop/hive-tools/', '/shop/labels/'],
    person: 'IK',
    effect: {},
    ticket: 117,
  },
  {
    ago: 352,
    title: 'Fondant guide split from the feeding guide',
    kind: 'address-or-redirect',
    pages: ['/guides/winter-feeding/', '/shop/fondant/'],
    person: 'MO',
    effect: { reach: 0.88 },
  },
  {
    ago: 331,
    title: 'Old posts dated anew',
    kind: 'publish-date',
    pages: ['/guides/robbing/', '/guides/wasps/', '/guides/nosema/'],
    person: 'RT',
    effect: {},
  },
  {
    ago: 309,
    title: 'Smaller pictures on the suits list',
    kind: 'speed',
    pages: ['/shop/suits-and-veils/'],
    person: 'RT',
    effect: { places: 0.3 },
    ticket: 131,
  },
  {
    ago: 297,
    title: 'Course dates as event data',
    kind: 'structured-data',
    pages: ['/courses/'],
    person: 'RT',
    effect: { appeal: 1.3 },
    expect: { metric: 'ctr', amount: 0.25, inDays: 30 },
    ticket: 134,
  },
  {
    ago: 283,
    title: 'Spring checklist in the first paragraph',
    kind: 'body-copy',
    pages: ['/guides/first-inspection/'],
    person: 'MO',
    effect: { places: 1.1 },
  },
  {
    ago: 268,
    title: 'Year in the plants title',
    kind: 'title-rewrite',
    pages: ['/guides/bee-friendly-plants/'],
    person: 'IK',
    effect: { appeal: 0.97 },
    oldText: 'Bee friendly plants',
    newText: `Bee friendly plants: 40 flowers for this year`,
    expect: { metric: 'clicks', amount: 0.1, inDays: 45 },
  },
  {
    ago: 251,
    title: 'Links from the calendar to six guides',
    kind: 'internal-links',
    pages: [
      '/guides/splitting-a-colony/',
      '/guides/catching-a-swarm/',
      '/guides/spring-build-up/',
      '/guides/foundation/',
      '/guides/hive-placement/',
      '/guides/moving-hives/',
    ],
    person: 'MO',
    effect: { places: 0.8 },
    ticket: 149,
  },
  {
    ago: 236,
    title: 'Swarm cells shown side by side',
    kind: 'media',
    pages: ['/guides/swarm-signs/'],
    person: 'MO',
    effect: { reach: 1.12 },
    queries: ['supersedure or swarm cells'],
  },
  {
    ago: 222,
    title: 'Bait hive title says what is in the box',
    kind: 'title-rewrite',
    pages: ['/shop/bait-hives/'],
    person: 'IK',
    effect: { appeal: 1.35 },
    oldText: 'Bait hives',
    newText: 'Bait hive with frames and lure, ready to hang',
    expect: { metric: 'ctr', amount: 0.25, inDays: 30 },
    ticket: 156,
  },
  {
    ago: 207,
    title: 'Headings put in order on the hive kits',
    kind: 'headings',
    pages: ['/shop/flat-pack-hives/'],
    person: 'RT',
    effect: {},
  },
  {
    ago: 191,
    title: 'Reindex asked for the jar sizes',
    kind: 'reindex-request',
    pages: ['/shop/honey-jars/'],
    person: 'RT',
    effect: {},
  },
  {
    ago: 183,
    title: 'Jar list grouped by weight',
    kind: 'body-copy',
    pages: ['/shop/honey-jars/'],
    person: 'IK',
    effect: { appeal: 1.12, places: 0.4 },
    ticket: 163,
  },
  {
    ago: 168,
    title: 'Extraction guide rewritten',
    kind: 'body-copy',
    pages: ['/guides/honey-extraction/'],
    person: 'MO',
    effect: { places: 1.4, reach: 1.2 },
    expect: { metric: 'clicks', amount: 0.3, inDays: 60 },
    ticket: 170,
  },
  {
    ago: 150,
    title: 'Mite thresholds in the description',
    kind: 'meta-description',
    pages: ['/guides/varroa-counts/'],
    person: 'IK',
    effect: { appeal: 1.08 },
    oldText: 'How to count varroa mites in your hive.',
    newText: 'Sugar roll or board? Two ways to count varroa, and the number at which to act.',
  },
  {
    ago: 133,
    title: 'Queen colours set out by year',
    kind: 'structured-data',
    pages: ['/shop/marking-pens/'],
    person: 'RT',
    effect: {},
  },
  {
    ago: 121,
    title: 'Body copy: adds “queen excluder size”',
    kind: 'body-copy',
    pages: ['/guides/queen-excluders/'],
    person: 'MO',
    effect: { reach: 1.28 },
    queries: ['queen excluder size'],
    ticket: 181,
  },
  {
    ago: 110,
    title: 'Swarm page: two titles compared',
    kind: 'title-rewrite',
    pages: ['/guides/swarm-signs/'],
    person: 'IK',
    effect: {},
    oldText: 'Swarm signs',
    newText: 'Will they swarm? Seven signs to look for',
  },
  {
    ago: 101,
    title: 'Product data on smokers',
    kind: 'structured-data',
    pages: ['/shop/smokers/'],
    person: 'RT',
    effect: { appeal: 1.18 },
    expect: { metric: 'ctr', amount: 0.15, inDays: 30 },
    ticket: 190,
  },
  {
    ago: 95,
    title: 'Wasp guide moved under the calendar',
    kind: 'internal-links',
    pages: ['/guides/wasps/'],
    person: 'MO',
    effect: { places: -1.2 },
  },
  {
    ago: 88,
    title: 'Description says delivery in two days',
    kind: 'meta-description',
    pages: ['/shop/hive-tools/'],
    person: 'IK',
    effect: {},
    oldText: 'Hive tools of all kinds.',
    newText: 'Hive tools from the yard, delivered in two days.',
    ticket: 197,
  },
  {
    ago: 83,
    title: 'Links from the calendar to twelve guides',
    kind: 'internal-links',
    pages: [
      '/guides/autumn-checklist/',
      '/guides/wax-rendering/',
      '/guides/candle-making/',
      '/guides/mead-basics/',
      '/guides/robbing/',
      '/guides/requeening/',
      '/guides/record-keeping/',
      '/guides/honey-moisture/',
      '/guides/laying-workers/',
      '/guides/reading-the-brood/',
      '/guides/top-bar-hives/',
      '/guides/observation-hives/',
    ],
    person: 'MO',
    effect: { places: 0.5 },
    ticket: 204,
  },
  {
    ago: 71,
    title: 'Shorter title on the smoker guide',
    kind: 'title-rewrite',
    pages: ['/guides/lighting-a-bee-smoker/'],
    person: 'IK',
    effect: { appeal: 1.26 },
    queries: ['bee smoker', 'light a bee smoker'],
    oldText: 'How to light a bee smoker properly and how to keep it going for longer',
    newText: 'Light a bee smoker that stays lit',
    expect: { metric: 'ctr', amount: 0.25, inDays: 30 },
    ticket: 212,
    tags: ['autumn round'],
    steps: { 'reindex-requested': 0, crawled: 1, 'seen-in-results': 3 },
  },
  {
    ago: 59,
    title: 'Winter feeding title, year dropped',
    kind: 'title-rewrite',
    pages: ['/guides/winter-feeding/'],
    person: 'IK',
    effect: { appeal: 0.82 },
    oldText: `Winter feeding for bees, this year’s guide`,
    newText: 'Winter feeding for bees',
    expect: { metric: 'clicks', amount: 0.1, inDays: 30 },
    ticket: 215,
    tags: ['autumn round'],
    steps: { 'reindex-requested': 0, crawled: 2, 'seen-in-results': 3 },
  },
  {
    ago: 45,
    title: 'Heading order put right',
    kind: 'headings',
    pages: ['/guides/first-inspection/'],
    person: 'RT',
    effect: {},
    ticket: 219,
  },
  {
    ago: 26,
    title: 'Asked-for questions on frame sizes',
    kind: 'structured-data',
    pages: ['/guides/frame-sizes/'],
    person: 'RT',
    effect: { appeal: 1.15 },
    expect: { metric: 'ctr', amount: 0.15, inDays: 35 },
    ticket: 224,
  },
  {
    ago: 12,
    title: 'Candle moulds shown in use',
    kind: 'media',
    pages: ['/shop/candle-moulds/'],
    person: 'MO',
    effect: {},
    ticket: 228,
  },
  {
    ago: 5,
    title: 'Gift sets: last posting day in the title',
    kind: 'title-rewrite',
    pages: ['/shop/gift-sets/'],
    person: 'IK',
    effect: {},
    oldText: 'Gifts for beekeepers, wrapped and sent',
    newText: 'Gifts for beekeepers, posted until the 20th',
    expect: { metric: 'ctr', amount: 0.2, inDays: 30 },
    ticket: 231,
    steps: { 'reindex-requested': 0 },
  },
];

/** Days of figures: sixteen months. */
export const DAYS = year + 120;
