import { readWeek } from './dates';

/**
 * What a column of a figures file can hold. CTR is recognised to be ignored, since it is
 * recomputed.
 */
export const FIELDS = [
  'date',
  'week',
  'page',
  'query',
  'device',
  'country',
  'clicks',
  'impressions',
  'position',
  'ctr',
  'sessions',
  'engagedSessions',
  'bounces',
  'conversions',
  'revenue',
  'searches',
  'group',
  'worth',
  'channel',
  'searchType',
  'appearance',
] as const;
export type Field = (typeof FIELDS)[number];

export const FIELD_NAMES: Record<Field, string> = {
  date: 'Day',
  week: 'Week (2026-W45)',
  page: 'Page',
  query: 'Query',
  device: 'Device',
  country: 'Country',
  clicks: 'Clicks',
  impressions: 'Impressions',
  position: 'Position',
  ctr: 'CTR (recomputed)',
  sessions: 'Sessions',
  engagedSessions: 'Engaged sessions',
  bounces: 'Bounces',
  conversions: 'Conversions',
  revenue: 'Revenue',
  searches: 'Searches a month',
  group: 'Group of the page',
  worth: 'Worth of a conversion',
  channel: 'Channel',
  searchType: 'Kind of search',
  appearance: 'How the result appeared',
};

/** Which column (counted from 0) holds which field; null or absent where none does. */
export type ColumnMapping = Partial<Record<Field, number | null>>;

/** Column names met for each field, lower case, letters and digits only. */
const USUAL_NAMES: Record<Field, readonly string[]> = {
  date: ['date', 'day', 'datum', 'tag', 'fecha', 'data', 'jour', 'dia', 'dag', 'calendarday', 'reportdate'],
  week: ['week', 'isoweek', 'calendarweek', 'yearweek', 'kw', 'kalenderwoche', 'semana', 'semaine'],
  page: [
    ...['page', 'pages', 'url', 'urls', 'address', 'pageurl', 'pageaddress', 'landingpage', 'uri', 'path'],
    ...['pagepath', 'link', 'seite', 'adresse', 'pagina', 'página', 'webpage', 'landingpageurl', 'entrypage'],
  ],
  query: [
    ...['query', 'queries', 'keyword', 'keywords', 'searchterm', 'searchquery', 'searchphrase', 'term'],
    ...['phrase', 'suchanfrage', 'suchbegriff', 'consulta', 'requete', 'requête', 'zoekopdracht'],
  ],
  device: ['device', 'devices', 'devicetype', 'devicecategory', 'gerät', 'geraet', 'dispositivo', 'appareil'],
  country: ['country', 'countries', 'countrycode', 'land', 'pais', 'país', 'pays'],
  clicks: ['clicks', 'click', 'totalclicks', 'klicks', 'clics', 'clic', 'cliques', 'kliks', 'organicclicks'],
  impressions: [
    ...['impressions', 'impression', 'impr', 'imps', 'totalimpressions', 'impressionen', 'impresiones'],
    ...['impressões', 'vertoningen', 'timesshown', 'organicimpressions'],
  ],
  position: [
    ...['position', 'avgposition', 'averageposition', 'pos', 'avgpos', 'rank', 'avgrank', 'averagerank'],
    ...['ranking', 'durchschnittlicheposition', 'posición', 'posicion', 'meanposition'],
  ],
  ctr: ['ctr', 'avgctr', 'averagectr', 'clickthroughrate', 'clickrate', 'klickrate'],
  sessions: ['sessions', 'session', 'visits', 'sitzungen', 'sesiones', 'besuche'],
  engagedSessions: ['engagedsessions', 'engagedvisits', 'engaged'],
  bounces: ['bounces', 'bounce', 'bouncedsessions', 'absprünge'],
  conversions: [
    ...['conversions', 'conversion', 'keyevents', 'keyevent', 'goals', 'goalcompletions', 'goalscompleted'],
    ...['orders', 'transactions', 'purchases', 'leads', 'signups', 'konversionen', 'conversiones'],
  ],
  revenue: [
    ...['revenue', 'income', 'turnover', 'umsatz', 'totalrevenue', 'purchaserevenue', 'orderrevenue'],
    ...['transactionrevenue', 'salesrevenue', 'grossrevenue', 'netrevenue', 'ordervalue', 'ingresos'],
  ],
  searches: ['searches', 'searchesamonth', 'monthlysearches', 'searchvolume', 'volume', 'suchvolumen'],
  group: ['group', 'pagegroup', 'contentgroup', 'section', 'template', 'pagetype'],
  worth: ['worth', 'worthperconversion', 'valueperconversion', 'conversionvalue'],
  // Most specific names first: if source and medium are separate columns, the medium says what is
  // organic.
  channel: [
    ...['channel', 'channels', 'channelgroup', 'channelgrouping', 'defaultchannelgroup', 'trafficchannel'],
    ...['sessiondefaultchannelgroup', 'sessionchannelgroup', 'sourcemedium', 'sessionsourcemedium'],
    ...['medium', 'sessionmedium', 'source', 'sessionsource', 'trafficsource', 'kanal', 'canal'],
  ],
  searchType: ['searchtype', 'typeofsearch', 'kindofsearch', 'searchkind', 'suchtyp', 'tipodebusqueda'],
  appearance: ['searchappearance', 'appearance', 'resultappearance', 'resulttype', 'darstellungindersuche'],
};

/** A column name with case, spaces and punctuation taken away, and a unit in brackets dropped. */
function plainName(name: string): string {
  return (
    name
      .toLowerCase()
      .replace(/\(.*?\)/g, '')
      .replace(/[^\p{L}\p{N}]/gu, '')
      // “Top pages”, “Top queries”: the heads of lists that were cut to their first rows.
      .replace(/^top(?=\p{L}{3})/u, '')
  );
}

/**
 * Maps columns to fields by name. A field takes the first column with one of its usual names, the
 * channel the most specific one; other columns stay unread.
 *
 * @param first cells of the first row: an ISO week there makes its column one of weeks
 */
export function recogniseColumns(head: readonly string[], first: readonly string[] = []): ColumnMapping {
  const mapping: ColumnMapping = {};
  const names = head.map(plainName);
  names.forEach((plain, column) => {
    const field = FIELDS.find((f) => USUAL_NAMES[f].includes(plain));
    if (field && mapping[field] === undefined) mapping[field] = column;
  });
  const channel = USUAL_NAMES.channel.find((name) => names.includes(name));
  if (channel !== undefined) mapping.channel = names.indexOf(channel);
  const { date = null, ...others } = mapping;
  if (date !== null && others.week === undefined && readWeek(first[date] ?? '') !== null)
    return { ...others, week: date };
  // Beside a day, the week says nothing more.
  if (date !== null && others.week !== undefined) mapping.week = null;
  return mapping;
}

/** What tells files of one source from others: the names of their columns, as plain text. */
export function headKey(head: readonly string[]): string {
  return head.map((name) => name.trim().toLowerCase()).join('\u001f');
}

/**
 * Fields that only decide whether a row counts: rows of a key that differ in them are parts of it.
 */
const ONLY_CHOOSING: readonly Field[] = ['channel', 'searchType', 'appearance'];

/** The columns that are no part of a row's key or values, which may still tell rows apart. */
export function unreadColumns(mapping: ColumnMapping, columns: number): number[] {
  const read = new Set(FIELDS.filter((f) => !ONLY_CHOOSING.includes(f)).map((f) => mapping[f]));
  return Array.from({ length: columns }, (_, column) => column).filter((column) => !read.has(column));
}

/** Names that speak of pages or queries, also where they are none of the usual ones. */
const SOUNDS_LIKE_A_PART = /page|url|quer|keyword|phrase|search ?term|screen|seite|adres/i;

/**
 * Unread columns of a site-total file that sound like pages or queries. Its rows would then be
 * parts of a day, yet count as site totals.
 */
export function passedOver(head: readonly string[], grain: string | null): string[] {
  if (grain !== 'site_day') return [];
  const read = new Set(Object.values(recogniseColumns(head)));
  return head.filter((name, column) => !read.has(column) && SOUNDS_LIKE_A_PART.test(name));
}

/** One sentence for each column that is named twice or is not there. */
export function doubledColumns(mapping: ColumnMapping, columns: number): string[] {
  const problems: string[] = [];
  const used = new Map<number, Field>();
  for (const field of FIELDS) {
    const column = mapping[field];
    if (column == null) continue;
    const other = used.get(column);
    if (column < 0 || column >= columns)
      problems.push(`${FIELD_NAMES[field]} names a column that is not there.`);
    else if (other)
      problems.push(`One column cannot be both ${FIELD_NAMES[other]} and ${FIELD_NAMES[field]}.`);
    used.set(column, field);
  }
  return problems;
}
