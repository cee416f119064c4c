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
import type { Day } from '../core/calendar/day';
import type { Metric } from '../core/measures/registry';
import { GRAIN_KEYS } from '../core/facts/grains';
import { DEFAULT_FALL_BEYOND, DEFAULT_FALL_SHARE, DEFAULT_UNDO_DAYS } from '../core/model/site';
import { LANGUAGES } from '../core/model/languages';
import { WORDED } from '../core/wording/resultPage';
import { WORD_PURPOSES } from '../core/words/purposes';
import { DRAWS, HALVES, ROUND_DECISIONS } from '../core/model/round';
import { STEPS } from '../core/model/steps';

export * from './access/schema';

/*
 * Days are whole numbers since 1 January 1970, instants are ISO 8601 texts in UTC. CTR is never stored; position
 * is stored as a sum weighted by impressions. Some tables are WITHOUT ROWID; the schema builder cannot say so, hence
 * the migrations do.
 */

export const site = sqliteTable('site', {
  id: integer('id').primaryKey({ autoIncrement: true }),
  name: text('name').notNull(),
  address: text('address').notNull().unique(),
  windowDays: integer('window_days').notNull(),
  settlingDays: integer('settling_days').notNull(),
  provisionalDays: integer('provisional_days').notNull(),
  /** Rules by which addresses are one page, as JSON; null for the usual ones. And those before the last edit. */
  addressRules: text('address_rules'),
  addressRulesBefore: text('address_rules_before'),
  /** When addresses were last given other pages. */
  keyedAt: text('keyed_at'),
  /** Files that were brought in longer ago than this may be folded together, and then no longer be undone. */
  undoDays: integer('undo_days').notNull().default(DEFAULT_UNDO_DAYS),
  /** Hosts on private networks or this machine whose pages may be fetched, a line each. */
  privateHosts: text('private_hosts').notNull().default(''),
  /** Words of searches for the site itself, a line each; empty for those that its name and address have in common. */
  brandWords: text('brand_words').notNull().default(''),
  /** Where result pages are asked for, with the token and the country that are sent along; empty for nowhere. */
  resultsAddress: text('results_address').notNull().default(''),
  resultsToken: text('results_token').notNull().default(''),
  resultsCountry: text('results_country').notNull().default(''),
  /** The language of its pages and searches. */
  language: text('language', { enum: LANGUAGES }).notNull().default('en'),
  /** What a click, and a conversion, is worth in the site's own currency; null where nobody said. */
  worthOfClick: real('worth_of_click'),
  worthOfConversion: real('worth_of_conversion'),
  /** IANA time zone by which days begin; null for that of the server. */
  timeZone: text('time_zone'),
  /** When a fall of a page's weekly clicks is listed: by what share, and how many times its ordinary movement. */
  fallShare: real('fall_share').notNull().default(DEFAULT_FALL_SHARE),
  fallBeyond: real('fall_beyond').notNull().default(DEFAULT_FALL_BEYOND),
  /** Whether it is still being read from an archive: nobody sees it until it is whole. */
  arriving: integer('arriving', { mode: 'boolean' }).notNull().default(false),
  createdAt: text('created_at').notNull(),
  /** Deleted sites are nobody's either; after thirty days they are gone. */
  deletedAt: text('deleted_at'),
});

/** One row: how often anything but figures and their imports was written. Whatever is computed from entries is kept under it. */
export const entries = sqliteTable('entries', { version: integer('version').notNull() });

/** An archive of a site that was sent here, and how far it is read. */
export const siteImport = sqliteTable('site_import', {
  id: integer('id').primaryKey({ autoIncrement: true }),
  fileName: text('file_name').notNull(),
  bytes: integer('bytes').notNull(),
  state: text('state', { enum: ['queued', 'running', 'done', 'failed'] }).notNull(),
  rowsRead: integer('rows_read').notNull().default(0),
  rowsTotal: integer('rows_total'),
  /** The site that it becomes. */
  siteId: integer('site_id'),
  failure: text('failure'),
  createdAt: text('created_at').notNull(),
  finishedAt: text('finished_at'),
});

export const page = sqliteTable(
  'page',
  {
    id: integer('id').primaryKey(),
    siteId: integer('site_id')
      .notNull()
      .references(() => site.id),
    address: text('address').notNull(),
    /** The page that this one became part of when the rules of addresses changed; changes may still name this one. */
    intoId: integer('into_id'),
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

/** A written address in its normal form, and the page that it is by the rules of its site. The empty one is the whole site. */
export const address = sqliteTable(
  'address',
  {
    id: integer('id').primaryKey(),
    siteId: integer('site_id')
      .notNull()
      .references(() => site.id),
    text: text('text').notNull(),
    /** Null as long as no figures of it count. */
    pageId: integer('page_id').references(() => page.id),
    /** The key of the page that somebody joined it to by hand, whatever the rules say. */
    joinedTo: text('joined_to'),
  },
  (t) => [uniqueIndex('address_by_text').on(t.siteId, t.text), index('address_by_page').on(t.pageId)],
);

/** Names of countries, each once. 0 stands for none. */
export const label = sqliteTable('label', {
  id: integer('id').primaryKey(),
  text: text('text').notNull().unique(),
});

/**
 * Facts: what one file brought for one address within the days of one piece, packed (see core/facts/pack). Files lie
 * over each other like layers: where several have a row of the same key, the one that came last stands. Grain is the
 * code of a grain; for a period `piece` is its first day and the rows' day its last.
 */
export const figures = sqliteTable(
  'figures',
  {
    id: integer('id').primaryKey(),
    addressId: integer('address_id').notNull(),
    grain: integer('grain').notNull(),
    piece: integer('piece').notNull(),
    importId: integer('import_id').notNull(),
    rows: integer('rows').notNull(),
    bytes: blob('bytes', { mode: 'buffer' }).notNull(),
  },
  (t) => [
    uniqueIndex('figures_by_address').on(t.addressId, t.grain, t.piece, t.importId),
    index('figures_by_import').on(t.importId),
  ],
);

/** The days of which an import has rows, and how many. */
export const importDay = sqliteTable(
  'import_day',
  {
    importId: integer('import_id').notNull(),
    day: integer('day').notNull(),
    rows: integer('rows').notNull(),
  },
  (t) => [primaryKey({ columns: [t.importId, t.day] })],
);

/** Facts: what a file states of a page (its address) or a query, such as its group or its searches a month. */
export const attribute = sqliteTable(
  'attribute',
  {
    subject: text('subject', { enum: ['page', 'query'] }).notNull(),
    subjectId: integer('subject_id').notNull(),
    name: text('name').notNull(),
    importId: integer('import_id').notNull(),
    value: text('value').notNull(),
  },
  (t) => [primaryKey({ columns: [t.subject, t.subjectId, t.name, t.importId] })],
);

/** How files with the same head were last confirmed to be read. */
export const intakeMemory = sqliteTable(
  'intake_memory',
  {
    siteId: integer('site_id').notNull(),
    head: text('head').notNull(),
    settings: text('settings').notNull(),
  },
  (t) => [primaryKey({ columns: [t.siteId, t.head] })],
);

/** An address that answers with figures. Days up to `completeUntil` are final and are not asked for again. */
export const feed = sqliteTable('feed', {
  id: integer('id').primaryKey({ autoIncrement: true }),
  siteId: integer('site_id')
    .notNull()
    .references(() => site.id),
  name: text('name').notNull(),
  address: text('address').notNull(),
  token: text('token'),
  /** Whether the host may be on a private network or this machine. */
  allowPrivate: integer('allow_private', { mode: 'boolean' }).notNull(),
  daily: integer('daily', { mode: 'boolean' }).notNull(),
  completeUntil: integer('complete_until'),
  state: text('state', { enum: ['idle', 'asked', 'fetching'] }).notNull(),
  pagesFetched: integer('pages_fetched').notNull().default(0),
  lastTriedAt: text('last_tried_at'),
  lastFetchedAt: text('last_fetched_at'),
  failure: text('failure'),
  createdAt: text('created_at').notNull(),
  deletedAt: text('deleted_at'),
});

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
    /**
     * The position sums of all days as 64-bit floats, then clicks, impressions and the impressions that came with a
     * position as 32-bit integers, then a byte each: 0 no figures, 1 totals of the page, 2 sums of its query rows.
     */
    figures: blob('figures', { mode: 'buffer' }).notNull(),
  },
  (t) => [primaryKey({ columns: [t.pageId, t.device] })],
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
    expectedMetric: text('expected_metric').$type<Metric>(),
    expectedDirection: text('expected_direction', { enum: ['up', 'down'] }),
    expectedAmount: real('expected_amount'),
    reviewDay: integer('review_day'),
    person: text('person'),
    link: text('link'),
    note: text('note'),
    decision: text('decision', { enum: ['keep', 'undo', 'rework'] }),
    decisionReason: text('decision_reason'),
    followsId: integer('follows_id'),
    /** The file that brought it, and what tells its row from others, so that the same file again logs nothing twice. */
    importId: integer('import_id'),
    importKey: text('import_key'),
    createdAt: text('created_at').notNull(),
    deletedAt: text('deleted_at'),
  },
  (t) => [index('change_by_site').on(t.siteId, t.day), index('change_by_followed').on(t.followsId)],
);

/** The addresses that a change was logged with. Which pages they are follows from the rules of the site, as of figures. */
export const changePage = sqliteTable(
  'change_page',
  {
    changeId: integer('change_id')
      .notNull()
      .references(() => change.id),
    address: text('address').notNull(),
    pageId: integer('page_id')
      .notNull()
      .references(() => page.id),
  },
  (t) => [primaryKey({ columns: [t.changeId, t.address] }), index('change_page_by_page').on(t.pageId)],
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

/** Words by which changes are grouped. */
export const changeTag = sqliteTable(
  'change_tag',
  {
    changeId: integer('change_id')
      .notNull()
      .references(() => change.id),
    tag: text('tag').notNull(),
  },
  (t) => [primaryKey({ columns: [t.changeId, t.tag] })],
);

/** Further edits that were made at once with a change, or its texts on one of its pages. */
export const changePart = sqliteTable(
  'change_part',
  {
    changeId: integer('change_id')
      .notNull()
      .references(() => change.id),
    place: integer('place').notNull(),
    kind: text('kind').notNull(),
    /** As it was written; null, as the page, for all pages of the change. */
    address: text('address'),
    pageId: integer('page_id').references(() => page.id),
    oldText: text('old_text'),
    newText: text('new_text'),
  },
  (t) => [primaryKey({ columns: [t.changeId, t.place] })],
);

/** What a page said when it was fetched, as JSON, and until when it was found to say the same. */
export const snapshot = sqliteTable(
  'snapshot',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    siteId: integer('site_id')
      .notNull()
      .references(() => site.id),
    pageId: integer('page_id')
      .notNull()
      .references(() => page.id),
    day: integer('day').notNull(),
    lastDay: integer('last_day').notNull(),
    takenAt: text('taken_at').notNull(),
    lastSeenAt: text('last_seen_at').notNull(),
    /** The title once more, by which pages that share one are found. */
    title: text('title'),
    evidence: text('evidence').notNull(),
    /** In what it differs from the snapshot before it, as JSON; null for the first of a page. */
    differences: text('differences'),
    /** Somebody saw in what it differs from the one before, and that it is nothing to log. */
    passedOver: integer('passed_over', { mode: 'boolean' }).notNull().default(false),
  },
  (t) => [
    index('snapshot_by_page').on(t.pageId, t.id),
    index('snapshot_by_title').on(t.siteId, t.title),
    index('snapshot_by_day').on(t.siteId, t.day),
  ],
);

/** Pages that are fetched every day, and how the last try to fetch a page went. */
export const pageLook = sqliteTable('page_look', {
  pageId: integer('page_id')
    .primaryKey()
    .references(() => page.id),
  siteId: integer('site_id').notNull(),
  watched: integer('watched', { mode: 'boolean' }).notNull().default(false),
  lastTriedAt: text('last_tried_at'),
  failure: text('failure'),
});

/** Titles that were seen in the results, and since when, as far as that is known. */
export const sighting = sqliteTable(
  'sighting',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    pageId: integer('page_id')
      .notNull()
      .references(() => page.id),
    day: integer('day').notNull(),
    since: integer('since'),
    title: text('title').notNull(),
    at: text('at').notNull(),
  },
  (t) => [index('sighting_by_page').on(t.pageId, t.id)],
);

/** The days on which a change came to its steps. The day on which it was made stands with the change as well. */
export const changeStep = sqliteTable(
  'change_step',
  {
    changeId: integer('change_id')
      .notNull()
      .references(() => change.id),
    step: text('step', { enum: STEPS }).notNull(),
    day: integer('day').notNull(),
    /** When it was recorded. */
    at: text('at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.changeId, t.step] })],
);

/** Requests that named themselves (Idempotency-Key), so that asking twice does a thing once. */
export const idempotency = sqliteTable(
  'idempotency',
  {
    siteId: integer('site_id').notNull(),
    key: text('key').notNull(),
    /** What was asked, to tell a repeat from another request under the same key. */
    request: text('request').notNull(),
    changeId: integer('change_id').notNull(),
    at: text('at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.siteId, t.key] })],
);

/** Things on the desk that were put off, and until when. */
export const putOff = sqliteTable(
  'put_off',
  {
    siteId: integer('site_id').notNull(),
    key: text('key').notNull(),
    until: integer('until').notNull(),
  },
  (t) => [primaryKey({ columns: [t.siteId, t.key] })],
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
    /** Who edited it; null for whoever was alone with the program. */
    actor: text('actor'),
    /** The account of a person: names can be taken by others later. */
    actorId: text('actor_id'),
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
    pages: text('pages'),
    hidden: integer('hidden', { mode: 'boolean' }).notNull().default(false),
    createdAt: text('created_at').notNull(),
    deletedAt: text('deleted_at'),
  },
  (t) => [index('event_by_site').on(t.siteId, t.firstDay)],
);

/** What an event said before each edit, whole, as JSON. */
export const eventHistory = sqliteTable(
  'event_history',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    eventId: integer('event_id')
      .notNull()
      .references(() => event.id),
    at: text('at').notNull(),
    /** Who edited it; null for whoever was alone with the program. */
    actor: text('actor'),
    /** The account of a person: names can be taken by others later. */
    actorId: text('actor_id'),
    was: text('was').notNull(),
  },
  (t) => [index('event_history_by_event').on(t.eventId)],
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
    state: text('state', { enum: ['draft', 'queued', 'running', 'done', 'failed', 'undone'] }).notNull(),
    grain: text('grain', { enum: GRAIN_KEYS }),
    /** The feed that fetched it; null for a file. */
    feedId: integer('feed_id'),
    /** Counts up with every import that is done: of two with the same key the higher stands. */
    layer: integer('layer'),
    /** How the file is written. */
    dialect: text('dialect'),
    /** The mapping and date order that were confirmed, as JSON; null leaves both to be recognised. */
    settings: text('settings'),
    bytesTotal: integer('bytes_total').notNull(),
    bytesRead: integer('bytes_read').notNull().default(0),
    rowsRead: integer('rows_read').notNull().default(0),
    rowsStored: integer('rows_stored').notNull().default(0),
    rowsReplaced: integer('rows_replaced').notNull().default(0),
    rowsChanged: integer('rows_changed').notNull().default(0),
    rowsRepeated: integer('rows_repeated').notNull().default(0),
    rowsRefused: integer('rows_refused').notNull().default(0),
    /** Rows of kinds that do not count, such as other channels. */
    rowsLeftOut: integer('rows_left_out').notNull().default(0),
    /** Since when its rows lie folded together with those of other files, so that it can no longer be undone. */
    foldedAt: text('folded_at'),
    /** Whether the file brings figures or changes that were logged elsewhere. */
    about: text('about', { enum: ['figures', 'changes'] })
      .notNull()
      .default('figures'),
    firstDay: integer('first_day').$type<Day>(),
    lastDay: integer('last_day').$type<Day>(),
    /** The day on which the figures were brought in, by which the newest of them count as provisional. */
    takenOn: integer('taken_on').notNull(),
    /** What `address` and `query` ended with before this import added to them; see the clearing at start. */
    addressFloor: integer('address_floor'),
    queryFloor: integer('query_floor'),
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

/** What a reading said when its days were over, so that figures revised later cannot unsay it. */
export const readingSaid = sqliteTable('reading_said', {
  changeId: integer('change_id').primaryKey(),
  /** The spans and pages it was said of: with others it is another reading. */
  about: text('about').notNull(),
  /** The newest day that could be read then. */
  day: integer('day').notNull(),
  verdict: text('verdict', { enum: ['lifted', 'dropped', 'held', 'unclear'] }).notNull(),
  sentence: text('sentence').notNull(),
});

/** Names that were given to groups of pages that move together; a group is known again by most of its pages. */
export const movingGroup = sqliteTable(
  'moving_group',
  {
    id: integer('id').primaryKey(),
    siteId: integer('site_id').notNull(),
    name: text('name').notNull(),
    /** Ids of its pages when it was named, as JSON. */
    pages: text('pages').notNull(),
  },
  (t) => [index('moving_group_site').on(t.siteId)],
);

/** What people say of a page: the search it is meant for, how much it matters, and whether it is meant to sink. */
export const pageTrait = sqliteTable('page_trait', {
  pageId: integer('page_id').primaryKey(),
  target: text('target'),
  weight: real('weight'),
  sink: integer('sink', { mode: 'boolean' }).notNull().default(false),
});

/** What people say of a query; null where it is guessed or nobody said. */
export const queryTrait = sqliteTable('query_trait', {
  queryId: integer('query_id').primaryKey(),
  targetPageId: integer('target_page_id'),
  intent: text('intent', { enum: ['to-site', 'to-learn', 'to-compare', 'to-buy'] }),
  brand: integer('brand', { mode: 'boolean' }),
});

/** Filters of lists that were named and kept: the list and its address's query. */
export const keptFilter = sqliteTable(
  'kept_filter',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    siteId: integer('site_id').notNull(),
    subject: text('subject', { enum: ['pages', 'queries', 'pairs'] }).notNull(),
    name: text('name').notNull(),
    query: text('query').notNull(),
  },
  (t) => [uniqueIndex('kept_filter_by_name').on(t.siteId, t.subject, t.name)],
);

/** Openings that somebody found not worth it, why, and what they were estimated to bring then. */
export const passedOpening = sqliteTable(
  'passed_opening',
  {
    siteId: integer('site_id').notNull(),
    key: text('key').notNull(),
    reason: text('reason').notNull(),
    clicksAMonth: real('clicks_a_month').notNull(),
    at: text('at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.siteId, t.key] })],
);

/** A sheet that was made of the queries of chosen pages, with its lines as they were then, as JSON. */
export const sheet = sqliteTable(
  'sheet',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    siteId: integer('site_id').notNull(),
    name: text('name').notNull(),
    day: integer('day').notNull(),
    firstDay: integer('first_day').notNull(),
    lastDay: integer('last_day').notNull(),
    /** Ids of its pages. */
    pages: text('pages').notNull(),
    lines: text('lines').notNull(),
    deletedAt: text('deleted_at'),
  },
  (t) => [index('sheet_by_site').on(t.siteId)],
);

/** Words of a language that a site counts otherwise than usual, a line each, by what they are for. */
export const siteWord = sqliteTable(
  'site_word',
  {
    siteId: integer('site_id').notNull(),
    language: text('language', { enum: LANGUAGES }).notNull(),
    purpose: text('purpose', { enum: WORD_PURPOSES }).notNull(),
    words: text('words').notNull(),
  },
  (t) => [primaryKey({ columns: [t.siteId, t.language, t.purpose] })],
);

/**
 * What a search showed on a day, as JSON. Of a query, day and device one stands; what it took the place of is kept, deleted.
 */
export const resultPage = sqliteTable(
  'result_page',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    siteId: integer('site_id').notNull(),
    queryId: integer('query_id').notNull(),
    day: integer('day').notNull(),
    device: integer('device').notNull().default(0),
    content: text('content').notNull(),
    at: text('at').notNull(),
    deletedAt: text('deleted_at'),
  },
  (t) => [index('result_page_by_query').on(t.siteId, t.queryId, t.day)],
);

/** Pages of results that were fetched: their headings and how much they say, as JSON, or why they could not be. */
export const rivalPage = sqliteTable(
  'rival_page',
  {
    resultPageId: integer('result_page_id').notNull(),
    rank: integer('rank').notNull(),
    at: text('at').notNull(),
    facts: text('facts'),
    failure: text('failure'),
  },
  (t) => [primaryKey({ columns: [t.resultPageId, t.rank] })],
);

/** Drafts of titles and descriptions of a page, and the change that took one. */
export const draft = sqliteTable(
  'draft',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    siteId: integer('site_id').notNull(),
    pageId: integer('page_id').notNull(),
    of: text('of', { enum: WORDED }).notNull(),
    text: text('text').notNull(),
    at: text('at').notNull(),
    changedAt: text('changed_at').notNull(),
    deletedAt: text('deleted_at'),
  },
  (t) => [index('draft_by_page').on(t.siteId, t.pageId)],
);

/** Terms that do not count where wordings of a site are compared, such as the name of another site: its stems, and how it was written. */
export const leftOutTerm = sqliteTable(
  'left_out_term',
  {
    siteId: integer('site_id').notNull(),
    term: text('term').notNull(),
    written: text('written').notNull(),
  },
  (t) => [primaryKey({ columns: [t.siteId, t.term] })],
);

/** A dated batch of pages that were taken on together, and the changes that its halves were logged as. */
export const round = sqliteTable(
  'round',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    siteId: integer('site_id').notNull(),
    name: text('name').notNull(),
    kind: text('kind').notNull(),
    day: integer('day').notNull(),
    draw: text('draw', { enum: DRAWS }).notNull(),
    seed: integer('seed').notNull(),
    windowDays: integer('window_days').notNull(),
    settlingDays: integer('settling_days').notNull(),
    /** As JSON; null where nothing was written down. */
    expectation: text('expectation'),
    person: text('person'),
    followsId: integer('follows_id'),
    decision: text('decision', {
      enum: Object.keys(ROUND_DECISIONS) as [keyof typeof ROUND_DECISIONS],
    }),
    decisionReason: text('decision_reason'),
    decidedOn: integer('decided_on'),
    firstChangeId: integer('first_change_id'),
    secondChangeId: integer('second_change_id'),
    createdAt: text('created_at').notNull(),
    deletedAt: text('deleted_at'),
  },
  (t) => [index('round_by_site').on(t.siteId, t.day)],
);

/** A page of a round: its half, what was known of it at the start (as JSON), its texts, and the days of its steps. */
export const roundPage = sqliteTable(
  'round_page',
  {
    roundId: integer('round_id').notNull(),
    pageId: integer('page_id').notNull(),
    /** As it was written. */
    address: text('address').notNull(),
    place: integer('place').notNull(),
    half: text('half', { enum: HALVES }).notNull(),
    block: integer('block').notNull(),
    person: text('person'),
    oldText: text('old_text'),
    newText: text('new_text'),
    madeOn: integer('made_on'),
    requestedOn: integer('requested_on'),
    crawledOn: integer('crawled_on'),
    seenOn: integer('seen_on'),
    frozen: text('frozen').notNull(),
    /** The opening that it was taken on for, as JSON. */
    opening: text('opening'),
  },
  (t) => [primaryKey({ columns: [t.roundId, t.pageId] }), index('round_page_by_page').on(t.pageId)],
);

/** What a round said before each edit, whole, as JSON. */
export const roundHistory = sqliteTable(
  'round_history',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    roundId: integer('round_id').notNull(),
    at: text('at').notNull(),
    /** Who edited it; null for whoever was alone with the program. */
    actor: text('actor'),
    /** The account of a person: names can be taken by others later. */
    actorId: text('actor_id'),
    was: text('was').notNull(),
  },
  (t) => [index('round_history_by_round').on(t.roundId)],
);

/** The opening that a change was taken on for, with what it was estimated to bring then, as JSON. */
export const takenOpening = sqliteTable('taken_opening', {
  changeId: integer('change_id').primaryKey(),
  opening: text('opening').notNull(),
});

/** A report: what it is about, its parts in their order, and one's own words, as JSON where they are lists. */
export const report = sqliteTable(
  'report',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    siteId: integer('site_id').notNull(),
    title: text('title').notNull(),
    firstDay: integer('first_day').notNull(),
    lastDay: integer('last_day').notNull(),
    scope: text('scope').notNull(),
    parts: text('parts').notNull(),
    leaveOut: text('leave_out').notNull(),
    words: text('words').notNull(),
    ink: text('ink').notNull(),
    /** A picture as a data address. */
    logo: text('logo'),
    createdAt: text('created_at').notNull(),
    deletedAt: text('deleted_at'),
  },
  (t) => [index('report_by_site').on(t.siteId)],
);

/** A report as it was sent: all that it showed, as JSON. It never changes. */
export const reportIssue = sqliteTable(
  'report_issue',
  {
    reportId: integer('report_id').notNull(),
    number: integer('number').notNull(),
    day: integer('day').notNull(),
    shown: text('shown').notNull(),
    at: text('at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.reportId, t.number] })],
);

/** A routine: its steps as JSON, and the rule by which it comes again (RFC 5545). */
export const routine = sqliteTable(
  'routine',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    siteId: integer('site_id').notNull(),
    name: text('name').notNull(),
    steps: text('steps').notNull(),
    rule: text('rule').notNull(),
    firstDay: integer('first_day').notNull(),
    createdAt: text('created_at').notNull(),
    deletedAt: text('deleted_at'),
  },
  (t) => [index('routine_by_site').on(t.siteId)],
);

/** That a routine was done, or one of its steps, for the day on which it was due. */
export const routineDone = sqliteTable(
  'routine_done',
  {
    routineId: integer('routine_id').notNull(),
    dueOn: integer('due_on').notNull(),
    step: integer('step').notNull(),
    person: text('person'),
    at: text('at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.routineId, t.dueOn, t.step] })],
);
