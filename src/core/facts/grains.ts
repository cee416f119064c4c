/**
 * Grains of figures files: the subject of the rows and their values. `code` is stored and never
 * changes. Rows of `days` belong to one day; period totals have a first and last day for the whole
 * file.
 */
export const GRAINS = {
  site_day: {
    code: 1,
    name: 'of the whole site',
    values: ['clicks', 'impressions', 'positionSum'],
    dated: true,
  },
  page_day: { code: 2, name: 'by page', values: ['clicks', 'impressions', 'positionSum'], dated: true },
  page_query_day: {
    code: 3,
    name: 'by page and query',
    values: ['clicks', 'impressions', 'positionSum'],
    dated: true,
  },
  rank_check: { code: 4, name: 'of checked positions', values: ['position'], dated: true },
  analytics_day: {
    code: 5,
    name: 'by landing page',
    values: ['sessions', 'engagedSessions', 'bounces', 'conversions', 'revenue'],
    dated: true,
  },
  page_period: {
    code: 6,
    name: 'by page, of a period',
    values: ['clicks', 'impressions', 'positionSum'],
    dated: false,
  },
  page_query_period: {
    code: 7,
    name: 'by page and query, of a period',
    values: ['clicks', 'impressions', 'positionSum'],
    dated: false,
  },
  query_period: {
    code: 8,
    name: 'by query, of a period',
    values: ['clicks', 'impressions', 'positionSum'],
    dated: false,
  },
  page_attribute: { code: 9, name: 'about pages', values: ['value'], dated: false },
  query_attribute: { code: 10, name: 'about queries', values: ['value'], dated: false },
  query_day: { code: 11, name: 'by query', values: ['clicks', 'impressions', 'positionSum'], dated: true },
} as const satisfies Record<
  string,
  { code: number; name: string; values: readonly string[]; dated: boolean }
>;

export type Grain = keyof typeof GRAINS;
export const GRAIN_KEYS = Object.keys(GRAINS) as [Grain, ...Grain[]];
