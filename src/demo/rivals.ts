import { addDays, isoDay, type Day } from '../core/calendar/day';
import type { ResultExtra, ResultKind } from '../core/wording/resultPage';
import type { SimulatedResults } from '../outside/resultPages/simulated';

/*
 * What the searches of the made-up site show besides its own pages: rivals that do not exist. Days are days before the last day of
 * figures, as in the story.
 */

/** Sites that write or sell for beekeepers; the first word tells what each of them is. */
const HOSTS = {
  paper: 'apiary-post.example',
  blog: 'hive-and-home.example',
  club: 'bramblecombe-beekeepers.example',
  shop: 'comb-and-co.example',
  store: 'waxworks-supply.example',
  forum: 'forum.skep-talk.example',
  video: 'video.smallholding.example',
  school: 'nectar-school.example',
  journal: 'slow-orchard.example',
} as const;
type Host = keyof typeof HOSTS;

/** A rival: its host, its title, and what else is known of it. Titles of later days follow with how long ago they came. */
type Rival = readonly [
  host: Host,
  title: string,
  more?: {
    kind?: ResultKind;
    extras?: ResultExtra[];
    /** Extras that came or went so many days ago. */
    gained?: readonly [extra: ResultExtra, ago: number];
    lost?: readonly [extra: ResultExtra, ago: number];
    retitled?: readonly [ago: number, title: string];
    /** Among the results only since, or until, so many days ago. */
    since?: number;
    until?: number;
  },
];

type Search = {
  readonly query: string;
  readonly path: string;
  /** Ranks of the own page, each with how long ago it came; the first holds from the beginning. */
  readonly ranks: readonly (readonly [ago: number, rank: number])[];
  readonly rivals: readonly Rival[];
  readonly ownExtras?: SimulatedResults[number]['own']['extras'];
  readonly above?: readonly {
    kind: 'answer-generated' | 'answer-quoted' | 'shopping' | 'videos';
    own: boolean;
    since?: number;
  }[];
  readonly asked?: readonly string[];
  readonly related?: readonly string[];
};

const SEARCHES: readonly Search[] = [
  {
    query: 'winter feeding bees',
    path: '/guides/winter-feeding/',
    ranks: [
      [400, 2],
      [30, 3],
    ],
    rivals: [
      ['paper', 'Feeding Bees in Winter: When, How and What', { extras: ['answers'] }],
      [
        'blog',
        'Winter Feeding: Fondant or Sugar Syrup?',
        { retitled: [26, 'Winter Feeding 2026: Fondant or Sugar Syrup?'] },
      ],
      [
        'club',
        'How to Feed Bees Fondant in Winter (Step by Step)',
        { kind: 'list', extras: ['answers', 'image'] },
      ],
      ['journal', 'When to Feed Bees in Winter – Month by Month', { kind: 'list' }],
      ['shop', 'Fondant for Bees – 2.5 kg – Comb & Co', { kind: 'shop', extras: ['stars', 'price'] }],
      ['school', 'Feeding Bees Sugar: 5 Mistakes to Avoid'],
      ['forum', 'When should you start winter feeding?', { kind: 'forum' }],
      ['store', 'Winter bee feeding 2026: amounts by hive', { since: 40 }],
      ['video', 'Fondant recipe for bees (video)', { kind: 'video', extras: ['video'] }],
    ],
    above: [{ kind: 'answer-generated', own: false, since: 24 }],
    asked: [
      'When should I start feeding bees for winter?',
      'Can I feed bees sugar in winter?',
      'How much fondant does a hive need?',
      'What is the sugar syrup ratio in autumn?',
    ],
    related: [
      'fondant for bees',
      'sugar syrup ratio autumn',
      'feeding bees in december',
      'bee fondant recipe',
    ],
  },
  {
    query: 'bee smoker',
    path: '/guides/lighting-a-bee-smoker/',
    ranks: [
      [400, 4],
      [60, 3],
    ],
    rivals: [
      ['shop', 'Bee Smoker, Stainless Steel | Comb & Co', { kind: 'shop', extras: ['stars', 'price'] }],
      ['store', 'Bee Smokers: 6 Models Compared', { kind: 'list', extras: ['stars'] }],
      ['blog', 'How to Light a Bee Smoker and Keep It Lit'],
      ['paper', 'Bee Smoker Fuel: What to Burn and What Not', { lost: ['answers', 50] }],
      ['club', 'Using a bee smoker: a guide for beginners'],
      ['forum', 'My bee smoker keeps going out', { kind: 'forum' }],
      ['video', 'Light a smoker in 2 minutes (video)', { kind: 'video', extras: ['video'] }],
      ['school', 'What a Bee Smoker Does to Bees'],
    ],
    above: [{ kind: 'shopping', own: false }],
    asked: ['What do you burn in a bee smoker?', 'Why does my bee smoker keep going out?'],
    related: ['bee smoker fuel', 'light a bee smoker'],
  },
  {
    query: 'gifts for beekeepers',
    path: '/shop/gift-sets/',
    ranks: [[400, 6]],
    rivals: [
      ['store', '21 Gifts for Beekeepers That They Will Use', { kind: 'list', extras: ['image'] }],
      ['shop', 'Beekeeper Gift Set – Free Delivery', { kind: 'shop', extras: ['stars', 'price'] }],
      ['blog', 'The best gifts for beekeepers (2026)', { kind: 'list' }],
      ['paper', 'Gifts for a Beekeeper: Ideas Under 30', { kind: 'list' }],
      ['club', 'What do beekeepers want for a present?', { kind: 'forum' }],
      ['journal', 'Bee Gifts, Handmade and Sent', { kind: 'shop', extras: ['price'] }],
      ['school', 'Gift Voucher for a Beekeeping Course', { kind: 'shop' }],
    ],
    asked: ['What is a good gift for a beekeeper?'],
    related: ['bee gifts', 'gifts for new beekeepers'],
  },
];

/** Searches whose results are made from the words of the query, with the page and its rank. */
const PLAIN: readonly (readonly [query: string, path: string, rank: number, sold: boolean])[] = [
  ['moving a beehive', '/guides/moving-hives/', 2, false],
  ['splitting a hive', '/guides/splitting-a-colony/', 2, false],
  ['queen excluder', '/guides/queen-excluders/', 4, true],
  ['hive frame sizes', '/guides/frame-sizes/', 3, false],
  ['swarm signs', '/guides/swarm-signs/', 3, false],
  ['first hive inspection', '/guides/first-inspection/', 5, false],
  ['candle moulds', '/shop/candle-moulds/', 7, true],
  ['honey jars', '/shop/honey-jars/', 6, true],
  ['bee fondant', '/shop/fondant/', 5, true],
];

const capital = (text: string) => text.replace(/\b\p{Ll}/gu, (letter) => letter.toUpperCase());

function plainRivals(query: string, sold: boolean): Rival[] {
  const Q = capital(query);
  return sold
    ? [
        ['shop', `${Q} – Comb & Co`, { kind: 'shop', extras: ['stars', 'price'] }],
        ['store', `Buy ${Q}: Sizes and Prices`, { kind: 'shop', extras: ['price'] }],
        ['paper', `Best ${Q}: 7 Compared`, { kind: 'list', retitled: [33, `Best ${Q} of 2026: 8 Compared`] }],
        ['blog', `${Q}: which one do you need?`],
        ['club', `A beginner’s guide to ${query}`],
        ['forum', `Which ${query} do you use?`, { kind: 'forum' }],
        ['journal', `${Q}, Made by Hand`, { kind: 'shop', extras: ['price'], since: 20 }],
        ['school', `How to choose ${query}`],
      ]
    : [
        ['paper', `${Q}: A Guide for Beginners`],
        ['blog', `How to Get ${Q} Right (Step by Step)`, { extras: ['answers'] }],
        ['club', `${Q} – what we learned in 20 years`],
        ['school', `${Q} explained: when, why and how`, { retitled: [35, `${Q} explained (2026)`] }],
        ['journal', `${Q}: 5 mistakes to avoid`, { kind: 'list' }],
        ['forum', `Help with ${query}?`, { kind: 'forum' }],
        ['video', `${Q} (video)`, { kind: 'video', extras: ['video'] }],
        ['shop', `What you need for ${query} | Comb & Co`, { kind: 'shop', until: 30 }],
      ];
}

/** What the searches of the made-up site show, around a last day of figures. */
export function demoResults(lastDay: Day): SimulatedResults {
  const on = (ago: number) => isoDay(addDays(lastDay, -ago));
  const plain = PLAIN.map(([query, path, rank, sold]): Search => ({
    ...{ query, path, ranks: [[400, rank]], rivals: plainRivals(query, sold) },
    asked: [`What is ${query}?`, `How much does ${query} cost?`],
    related: [`${query} tips`, `${query} for beginners`],
  }));
  return [...SEARCHES, ...plain].map(({ query, path, ranks, rivals, ownExtras, above, asked, related }) => ({
    query,
    own: {
      path,
      ranks: ranks.map(([ago, rank], i) => (i === 0 ? { rank } : { from: on(ago), rank })),
      extras: ownExtras ?? [],
    },
    rivals: rivals.map(([host, title, more = {}], i) => ({
      address: `https://${HOSTS[host]}/${slug(title)}${i}`,
      titles: [
        { title },
        ...(more.retitled ? [{ from: on(more.retitled[0]), title: more.retitled[1] }] : []),
      ],
      description: DESCRIBED[i % DESCRIBED.length]!(query, title),
      ...(more.kind ? { kind: more.kind } : {}),
      extras: [
        ...(more.extras ?? []).map((extra) => ({ extra })),
        ...(more.gained ? [{ extra: more.gained[0], from: on(more.gained[1]) }] : []),
        ...(more.lost ? [{ extra: more.lost[0], until: on(more.lost[1]) }] : []),
      ],
      ...(more.since === undefined ? {} : { from: on(more.since) }),
      ...(more.until === undefined ? {} : { until: on(more.until) }),
    })),
    above: (above ?? []).map(({ kind, own, since }) => ({
      kind,
      own,
      ...(since === undefined ? {} : { from: on(since) }),
    })),
    asked: [...(asked ?? [])],
    related: [...(related ?? [])],
    bold: query.split(' '),
  }));
}

const slug = (text: string) =>
  `${text
    .toLowerCase()
    .match(/[a-z0-9]+/g)!
    .slice(0, 3)
    .join('-')}-`;

/** Descriptions as sites of their kind write them; the words of the query stand in each. */
const DESCRIBED: readonly ((query: string, title: string) => string)[] = [
  (query) => `When to begin, how much to give and what to leave alone: all about ${query}, month by month.`,
  (query, title) =>
    `${title.replace(/[?.]$/, '')}. We tried both on twelve colonies and say what we would do again.`,
  (query) => `A plain guide to ${query} for people in their first years, with pictures of every step.`,
  (query) => `Our members share what works for ${query} in a wet climate, and what does not.`,
  (query) => `In stock and sent the same day. Read before you buy: what matters for ${query}.`,
  (query) => `Five mistakes that cost colonies, and how to avoid them: ${query} without guessing.`,
  (query) => `“I am new to this and wonder about ${query}.” 14 answers, the last one in October.`,
  (query) => `Weights, amounts and a chart to print: ${query} by the size of the hive.`,
  (query) => `Watch it done in four minutes: ${query}, filmed in our yard.`,
];

/** How long ago the results of each search were looked at. */
export const LOOKED_UP_AGO = [78, 38, 3];
