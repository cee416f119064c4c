/*
 * The made-up site: Quillow Bee Yard, a small supplier and advice site for beekeepers. Every page has the searches
 * it is found for, the most usual first.
 */

export const SITE = { name: 'Quillow Bee Yard', address: 'https://www.quillow-bees.example' };

/** Which rhythm of the year a page follows. */
export type Season = 'spring' | 'summer' | 'autumn' | 'level';

export type DemoPage = {
  readonly path: string;
  /** Searches a day in a middling season for the page's most usual query. */
  readonly interest: number;
  readonly season: Season;
  readonly queries: readonly string[];
};

function page(path: string, interest: number, season: Season, topic: string, ...others: string[]): DemoPage {
  const forms = [
    topic,
    `${topic} guide`,
    `how to ${others[0] ?? topic}`,
    ...others,
    `best ${topic}`,
    `${topic} for beginners`,
    `${topic} explained`,
    `when ${topic}`,
  ];
  return { path, interest, season, queries: [...new Set(forms)] };
}

function shop(path: string, interest: number, season: Season, product: string, ...others: string[]): DemoPage {
  const forms = [product, `buy ${product}`, `${product} price`, `${product} sale`, ...others, `${product} size`];
  return { path, interest, season, queries: [...new Set(forms)] };
}

export const PAGES: readonly DemoPage[] = [
  { path: '/', interest: 260, season: 'level', queries: ['quillow bee yard', 'quillow bees', 'bee yard supplies', 'beekeeping shop', 'beekeeping supplies near me'] },
  page('/guides/lighting-a-bee-smoker/', 640, 'spring', 'bee smoker', 'light a bee smoker', 'bee smoker fuel', 'smoker keeps going out', 'what to burn in a bee smoker', 'cool smoke bees'),
  page('/guides/winter-feeding/', 520, 'autumn', 'winter feeding bees', 'feed bees in winter', 'fondant for bees', 'sugar syrup ratio autumn', 'dry sugar feeding bees'),
  page('/guides/first-inspection/', 430, 'spring', 'first hive inspection', 'inspect a hive', 'spring inspection checklist', 'what to look for in a hive'),
  page('/guides/frame-sizes/', 560, 'level', 'hive frame sizes', 'measure a hive frame', 'deep and shallow frames', 'frame size chart', 'national hive frame size'),
  page('/guides/swarm-signs/', 610, 'spring', 'swarm signs', 'tell if bees will swarm', 'queen cells swarming', 'signs bees are about to swarm', 'supersedure or swarm cells'),
  page('/guides/queen-excluders/', 300, 'summer', 'queen excluder', 'use a queen excluder', 'wire or plastic queen excluder', 'queen excluder size', 'remove queen excluder'),
  page('/guides/varroa-counts/', 480, 'summer', 'varroa count', 'count varroa mites', 'sugar roll test', 'mite drop board', 'varroa threshold'),
  page('/guides/requeening/', 260, 'summer', 'requeening a hive', 'introduce a new queen', 'queen cage candy', 'hive rejects queen'),
  page('/guides/honey-extraction/', 540, 'summer', 'honey extraction', 'extract honey without an extractor', 'uncapping honey frames', 'crush and strain honey'),
  page('/guides/wax-rendering/', 310, 'autumn', 'rendering beeswax', 'render beeswax', 'clean beeswax', 'solar wax melter'),
  page('/guides/moving-hives/', 170, 'spring', 'moving a beehive', 'move a beehive', 'three feet three miles', 'strap a beehive'),
  page('/guides/hive-placement/', 280, 'spring', 'where to put a beehive', 'site a beehive', 'beehive facing direction', 'beehive shade or sun'),
  page('/guides/robbing/', 190, 'autumn', 'robbing bees', 'stop bees robbing', 'robbing screen', 'robbing or orientation flights'),
  page('/guides/laying-workers/', 150, 'summer', 'laying workers', 'fix laying workers', 'several eggs in one cell'),
  page('/guides/splitting-a-colony/', 380, 'spring', 'splitting a hive', 'split a beehive', 'walk away split', 'make a nuc'),
  page('/guides/catching-a-swarm/', 420, 'spring', 'catching a swarm', 'catch a swarm of bees', 'swarm trap', 'bait hive lemongrass'),
  page('/guides/spring-build-up/', 240, 'spring', 'spring build up bees', 'stimulate bees in spring', 'pollen patties when'),
  page('/guides/autumn-checklist/', 220, 'autumn', 'autumn hive checklist', 'prepare a hive for winter', 'mouse guard when'),
  page('/guides/bee-friendly-plants/', 700, 'spring', 'bee friendly plants', 'plant for bees', 'best flowers for bees', 'plants bees love shade'),
  page('/guides/stings-and-safety/', 330, 'summer', 'bee sting', 'remove a bee sting', 'bee sting swelling', 'avoid bee stings'),
  page('/guides/reading-the-brood/', 200, 'spring', 'brood pattern', 'read a brood frame', 'spotty brood', 'capped brood'),
  page('/guides/honey-moisture/', 180, 'summer', 'honey moisture', 'measure honey moisture', 'honey refractometer', 'unripe honey'),
  page('/guides/candle-making/', 460, 'autumn', 'beeswax candles', 'make beeswax candles', 'beeswax candle wick size', 'dipped candles'),
  page('/guides/mead-basics/', 350, 'autumn', 'mead', 'make mead', 'honey for mead', 'simple mead recipe'),
  page('/guides/nosema/', 110, 'spring', 'nosema', 'treat nosema', 'nosema streaks on hive'),
  page('/guides/wasps/', 260, 'autumn', 'wasps at the hive', 'keep wasps away from a hive', 'wasp trap hive entrance'),
  page('/guides/top-bar-hives/', 240, 'spring', 'top bar hive', 'build a top bar hive', 'top bar hive plans'),
  page('/guides/record-keeping/', 90, 'level', 'hive records', 'keep hive records', 'hive record card'),
  page('/guides/beekeeping-costs/', 320, 'level', 'beekeeping costs', 'start beekeeping cheaply', 'cost of a beehive'),
  page('/guides/observation-hives/', 120, 'level', 'observation hive', 'build an observation hive'),
  page('/guides/foundation/', 210, 'spring', 'wax foundation', 'fit foundation in a frame', 'foundationless frames'),
  shop('/shop/smokers/', 290, 'spring', 'bee smoker shop', 'stainless smoker', 'large bee smoker', 'smoker bellows'),
  shop('/shop/hive-tools/', 240, 'spring', 'hive tool', 'j hook hive tool', 'hive scraper'),
  shop('/shop/suits-and-veils/', 380, 'spring', 'bee suit', 'ventilated bee suit', 'bee veil', 'children bee suit'),
  shop('/shop/gloves/', 210, 'spring', 'beekeeping gloves', 'leather bee gloves', 'nitrile gloves beekeeping'),
  shop('/shop/flat-pack-hives/', 330, 'spring', 'flat pack beehive', 'cedar beehive kit', 'beehive kit for beginners'),
  shop('/shop/frames/', 260, 'spring', 'hive frames', 'self spacing frames', 'frames pack of 50'),
  shop('/shop/foundation/', 190, 'spring', 'beeswax foundation sheets', 'wired foundation'),
  shop('/shop/feeders/', 170, 'autumn', 'bee feeder', 'rapid feeder', 'frame feeder'),
  shop('/shop/fondant/', 220, 'autumn', 'bee fondant', 'fondant block', 'fondant 12 kg'),
  shop('/shop/extractors/', 250, 'summer', 'honey extractor', 'manual honey extractor', 'extractor 4 frame'),
  shop('/shop/honey-jars/', 410, 'summer', 'honey jars', 'hexagonal honey jars', 'honey jars with lids', '340 g honey jars'),
  shop('/shop/labels/', 160, 'summer', 'honey labels', 'honey jar labels', 'tamper labels honey'),
  shop('/shop/queen-cages/', 90, 'summer', 'queen cage', 'queen marking cage'),
  shop('/shop/marking-pens/', 80, 'summer', 'queen marking pen', 'queen colour of the year'),
  shop('/shop/wax-melters/', 120, 'autumn', 'wax melter', 'steam wax melter'),
  shop('/shop/candle-moulds/', 230, 'autumn', 'candle moulds', 'silicone candle moulds'),
  shop('/shop/mite-boards/', 100, 'summer', 'varroa board', 'sticky mite board'),
  shop('/shop/bait-hives/', 130, 'spring', 'bait hive', 'swarm lure'),
  shop('/shop/nucleus-boxes/', 150, 'spring', 'nuc box', 'poly nuc box'),
  shop('/shop/gift-sets/', 140, 'autumn', 'beekeeping gift', 'gifts for beekeepers', 'beekeeper christmas gift'),
  { path: '/calendar/', interest: 210, season: 'level', queries: ['beekeeping calendar', 'beekeeping year', 'what to do with bees this month', 'bee calendar uk months'] },
  { path: '/calendar/march/', interest: 150, season: 'spring', queries: ['beekeeping in march', 'bees march jobs', 'march hive check', 'when do bees start flying'] },
  { path: '/calendar/may/', interest: 170, season: 'spring', queries: ['beekeeping in may', 'may swarm season', 'bees may jobs'] },
  { path: '/calendar/august/', interest: 140, season: 'summer', queries: ['beekeeping in august', 'august honey harvest', 'bees august jobs'] },
  { path: '/calendar/october/', interest: 120, season: 'autumn', queries: ['beekeeping in october', 'october hive jobs', 'when to fit mouse guards'] },
  { path: '/courses/', interest: 190, season: 'spring', queries: ['beekeeping course', 'beekeeping classes', 'learn beekeeping weekend', 'beekeeping taster day'] },
  { path: '/delivery/', interest: 40, season: 'level', queries: ['quillow bees delivery', 'bee supplies delivery'] },
  { path: '/about/', interest: 30, season: 'level', queries: ['quillow bee yard about', 'who runs quillow bees'] },
];
