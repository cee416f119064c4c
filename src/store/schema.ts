import {
  blob,
  index,
  integer,
  primaryKey,
  real,
  sqliteTable,
  text,
  uniqueIndex,
} from 'drizzle-orm/sqlite-core';

/*
 * Days are whole numbers since 1 January 1970, instants are ISO 8601 texts in UTC. CTR is never stored; position
 * is stored as a sum weighted by impressions. The tables of facts are WITHOUT ROWID and clustered in the order in
 * which they are read; the schema builder cannot say so, hence the migrations do.
 */

export const site = sqliteTable('site', {
  id: integer('id').primaryKey({ autoIncrement: true }),
  name: text('name').notNull(),
  address: text('address').notNull().unique(),
  windowDays: integer('window_days').notNull(),
  settlingDays: integer('settling_days').notNull(),
  provisionalDays: integer('provisional_days').notNull(),
  createdAt: text('created_at').notNull(),
});

export const page = sqliteTable(
  'page',
  {
    id: integer('id').primaryKey(),
    siteId: integer('site_id')
      .notNull()
      .references(() => site.id),
    address: text('address').notNull(),
  },
  (t) => [uniqueIndex('page_by_address').on(t.siteId, t.address)],
);

export const query = sqliteTable(
  'query',
  {
    id: integer('id').primaryKey(),
    siteId: integer('site_id')
      .notNull()
      .references(() => site.id),
    text: text('text').notNull(),
  },
  (t) => [uniqueIndex('query_by_text').on(t.siteId, t.text)],
);

/** Facts: a page's totals on a day. Device 0 and country '' stand for rows not divided by them. */
export const pageDay = sqliteTable(
  'page_day',
  {
    pageId: integer('page_id').notNull(),
    day: integer('day').notNull(),
    device: integer('device').notNull(),
    country: text('country').notNull(),
    clicks: integer('clicks').notNull(),
    impressions: integer('impressions').notNull(),
    positionSum: real('position_sum'),
  },
  (t) => [primaryKey({ columns: [t.pageId, t.day, t.device, t.country] })],
);

/** Facts: what one query brought to one page on a day. These never add up to the page: rare searches are withheld. */
export const pageQueryDay = sqliteTable(
  'page_query_day',
  {
    pageId: integer('page_id').notNull(),
    queryId: integer('query_id').notNull(),
    day: integer('day').notNull(),
    device: integer('device').notNull(),
    country: text('country').notNull(),
    clicks: integer('clicks').notNull(),
    impressions: integer('impressions').notNull(),
    positionSum: real('position_sum'),
  },
  (t) => [primaryKey({ columns: [t.pageId, t.queryId, t.day, t.device, t.country] })],
);

/** Derived: one row per page and day, whatever the facts are divided by. `fromQueries` marks sums of query rows. */
export const pageTotalDay = sqliteTable(
  'page_total_day',
  {
    pageId: integer('page_id').notNull(),
    day: integer('day').notNull(),
    clicks: integer('clicks').notNull(),
    impressions: integer('impressions').notNull(),
    positionSum: real('position_sum'),
    fromQueries: integer('from_queries', { mode: 'boolean' }).notNull(),
  },
  (t) => [primaryKey({ columns: [t.pageId, t.day] })],
);

/**
 * Derived: the totals of a page over all its days in one piece, and those of each device where the facts are divided by
 * it (device 0 is the whole). Readings look at every page of a site at once, which row by row would take seconds.
 */
export const pageSeries = sqliteTable(
  'page_series',
  {
    pageId: integer('page_id').notNull(),
    device: integer('device').notNull(),
    firstDay: integer('first_day').notNull(),
    days: integer('days').notNull(),
    /** The position sums of all days as 64-bit floats (NaN where absent), then clicks and impressions as 32-bit integers. */
    figures: blob('figures', { mode: 'buffer' }).notNull(),
  },
  (t) => [primaryKey({ columns: [t.pageId, t.device] })],
);

/** Derived: the days on which a site has figures of any page, and whether rows by query are among them. */
export const siteDayCovered = sqliteTable(
  'site_day_covered',
  {
    siteId: integer('site_id').notNull(),
    day: integer('day').notNull(),
    hasQueries: integer('has_queries', { mode: 'boolean' }).notNull(),
  },
  (t) => [primaryKey({ columns: [t.siteId, t.day] })],
);

export const change = sqliteTable(
  'change',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    siteId: integer('site_id')
      .notNull()
      .references(() => site.id),
    title: text('title').notNull(),
    kind: text('kind').notNull(),
    day: integer('day').notNull(),
    oldText: text('old_text'),
    newText: text('new_text'),
    windowDays: integer('window_days'),
    settlingDays: integer('settling_days'),
    expectedMetric: text('expected_metric', { enum: ['clicks', 'impressions', 'ctr', 'position'] }),
    expectedDirection: text('expected_direction', { enum: ['up', 'down'] }),
    expectedAmount: real('expected_amount'),
    reviewDay: integer('review_day'),
    person: text('person'),
    link: text('link'),
    note: text('note'),
    createdAt: text('created_at').notNull(),
    deletedAt: text('deleted_at'),
  },
  (t) => [index('change_by_site').on(t.siteId, t.day)],
);

export const changePage = sqliteTable(
  'change_page',
  {
    changeId: integer('change_id')
      .notNull()
      .references(() => change.id),
    pageId: integer('page_id')
      .notNull()
      .references(() => page.id),
  },
  (t) => [primaryKey({ columns: [t.changeId, t.pageId] }), index('change_page_by_page').on(t.pageId)],
);

export const changeQuery = sqliteTable(
  'change_query',
  {
    changeId: integer('change_id')
      .notNull()
      .references(() => change.id),
    text: text('text').notNull(),
  },
  (t) => [primaryKey({ columns: [t.changeId, t.text] })],
);

/** What a change said before each edit, whole, as JSON. */
export const changeHistory = sqliteTable(
  'change_history',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    changeId: integer('change_id')
      .notNull()
      .references(() => change.id),
    at: text('at').notNull(),
    was: text('was').notNull(),
  },
  (t) => [index('change_history_by_change').on(t.changeId)],
);

export const event = sqliteTable(
  'event',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    siteId: integer('site_id')
      .notNull()
      .references(() => site.id),
    name: text('name').notNull(),
    kind: text('kind').notNull(),
    firstDay: integer('first_day').notNull(),
    lastDay: integer('last_day').notNull(),
    link: text('link'),
    note: text('note'),
    createdAt: text('created_at').notNull(),
    deletedAt: text('deleted_at'),
  },
  (t) => [index('event_by_site').on(t.siteId, t.firstDay)],
);

/** One file brought in. A draft was uploaded and is not yet confirmed; the API does not show it. */
export const imported = sqliteTable(
  'import',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    siteId: integer('site_id')
      .notNull()
      .references(() => site.id),
    fileName: text('file_name').notNull(),
    state: text('state', { enum: ['draft', 'queued', 'running', 'done', 'failed'] }).notNull(),
    grain: text('grain', { enum: ['page_day', 'page_query_day'] }),
    /** The mapping and date order that were confirmed, as JSON; null leaves both to be recognised. */
    settings: text('settings'),
    bytesTotal: integer('bytes_total').notNull(),
    bytesRead: integer('bytes_read').notNull().default(0),
    rowsRead: integer('rows_read').notNull().default(0),
    rowsStored: integer('rows_stored').notNull().default(0),
    rowsReplaced: integer('rows_replaced').notNull().default(0),
    rowsRepeated: integer('rows_repeated').notNull().default(0),
    rowsRefused: integer('rows_refused').notNull().default(0),
    firstDay: integer('first_day'),
    lastDay: integer('last_day'),
    /** The day on which the figures were brought in, by which the newest of them count as provisional. */
    takenOn: integer('taken_on').notNull(),
    failure: text('failure'),
    cancelled: integer('cancelled', { mode: 'boolean' }).notNull().default(false),
    createdAt: text('created_at').notNull(),
    startedAt: text('started_at'),
    finishedAt: text('finished_at'),
  },
  (t) => [index('import_by_site').on(t.siteId)],
);

/** Rows of a file that could not be read: where, why, and the row itself as a JSON array of cells. */
export const importProblem = sqliteTable(
  'import_problem',
  {
    importId: integer('import_id')
      .notNull()
      .references(() => imported.id),
    line: integer('line').notNull(),
    message: text('message').notNull(),
    cells: text('cells').notNull(),
  },
  (t) => [primaryKey({ columns: [t.importId, t.line] })],
);
