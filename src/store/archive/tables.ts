import { z } from 'zod';
import { DEVICES } from '../../core/intake/rowReader';
import { expectationSchema } from '../../core/model/change';
import { newReportSchema } from '../../core/model/report';
import { siteSettingsSchema } from '../../core/model/site';
import { newRoutineSchema } from '../../core/routines/routine';
import { getTableConfig, type SQLiteColumn, type SQLiteTable } from 'drizzle-orm/sqlite-core';
import {
  deskKeyRenumbered,
  readingOfRenumbered,
  type NumberPath,
  type Numbered,
  type Renumber,
} from '../../core/archive/numbering';
import * as schema from '../schema';
import type { Shape } from './shapes';

/*
 * What an archive of a site is made of: which table goes into which file, which of its columns name other things by number, and what
 * stays behind. A test holds it against the schema, so that no table can be forgotten.
 */

/** A column that holds JSON: its shape, and where in it numbers of things stand. */
type JsonColumn = { readonly shape: Shape; readonly numbers?: readonly NumberPath[] };

export type ArchivedTable = {
  readonly table: SQLiteTable;
  readonly file: string;
  /** What its `id` numbers, where other tables name it by that. */
  readonly numbers?: Numbered;
  /** By which column its rows belong to the site, and what that names. */
  readonly of: readonly [column: string, kind: Numbered];
  /** Which of them, as a condition; all where absent. */
  readonly only?: string;
  /** What a column can be where that is less than the program knows. */
  readonly among?: Readonly<Record<string, readonly string[]>>;
  /** Columns that hold an address of the web, which is fetched or shown as a link. */
  readonly web?: readonly string[];
  /** Columns that name things by number. */
  readonly names?: Readonly<Record<string, Numbered>>;
  /**
   * What columns hold where that is less than their type: the schemas by which the program itself
   * takes them.
   */
  readonly fields?: Readonly<Record<string, z.ZodType>>;
  readonly json?: Readonly<Record<string, JsonColumn>>;
  /** Columns that hold numbers within a text. */
  readonly texts?: Readonly<Record<string, (text: string, renumber: Renumber) => string>>;
  /** What columns become that belong to an installation and not to a site. */
  readonly stays?: Readonly<Record<string, string | number | boolean | null>>;
  /** The condition's columns, which say the same in every row. */
  readonly same?: Readonly<Record<string, string>>;
};

const { site, page, query, address, feed, imported, change, event, snapshot, resultPage, round } = schema;
const ofSite = ['siteId', 'site'] as const;
const ofPage = ['pageId', 'page'] as const;
const ofChange = ['changeId', 'change'] as const;
const ofImport = ['importId', 'import'] as const;
const ofRound = ['roundId', 'round'] as const;

const { windowDays, settlingDays } = siteSettingsSchema.shape;
const SPAN_FIELDS = { windowDays, settlingDays };
const SITE_FIELDS = {
  ...SPAN_FIELDS,
  ...pick(siteSettingsSchema.shape, ['name', 'provisionalDays', 'undoDays', 'timeZone']),
  ...pick(siteSettingsSchema.shape, ['worthOfClick', 'worthOfConversion', 'fallShare', 'fallBeyond']),
};

function pick<T extends object, K extends keyof T>(of: T, keys: readonly K[]): Pick<T, K> {
  return Object.fromEntries(keys.map((key) => [key, of[key]])) as Pick<T, K>;
}

/** In the order in which they are written, and read again: what is named comes before what names it. */
export const ARCHIVED: readonly ArchivedTable[] = [
  {
    ...{ table: site, file: 'site.json', numbers: 'site', of: ['id', 'site'] },
    fields: SITE_FIELDS,
    json: { addressRules: { shape: 'rules' }, addressRulesBefore: { shape: 'rules' } },
    // What may be reached from here, and with which token, is a matter of the installation.
    stays: { resultsToken: '', privateHosts: '', arriving: false, deletedAt: null },
  },
  {
    ...{ table: page, file: 'addresses/pages.json', numbers: 'page', of: ofSite },
    web: ['address'],
    names: { intoId: 'page' },
  },
  { table: query, file: 'queries/queries.json', numbers: 'query', of: ofSite },
  {
    ...{ table: address, file: 'addresses/addresses.json', numbers: 'address', of: ofSite },
    web: ['text'],
    names: { pageId: 'page' },
  },
  {
    ...{ table: feed, file: 'intake/feeds.json', numbers: 'feed', of: ofSite },
    web: ['address'],
    // Two installations that fetch the same daily are one too many.
    stays: { token: null, allowPrivate: false, daily: false, state: 'idle', pagesFetched: 0 },
  },
  {
    ...{ table: imported, file: 'intake/imports.json', numbers: 'import', of: ofSite },
    only: "state IN ('done', 'undone', 'failed')",
    among: { state: ['done', 'undone', 'failed'] },
    names: { feedId: 'feed', layer: 'layer' },
    json: { settings: { shape: 'intake' } },
    stays: { addressFloor: null, queryFloor: null },
  },
  { table: schema.importDay, file: 'intake/days.json', of: ofImport },
  {
    ...{ table: schema.importProblem, file: 'intake/refused-rows.json', of: ofImport },
    json: { cells: { shape: 'cells' } },
  },
  {
    ...{ table: schema.intakeMemory, file: 'intake/remembered.json', of: ofSite },
    json: { settings: { shape: 'intake' } },
  },
  {
    ...{ table: schema.attribute, file: 'figures/stated-of-pages.json', of: ofImport },
    ...{ only: "subject = 'page'", same: { subject: 'page' }, names: { subjectId: 'address' } },
  },
  {
    ...{ table: schema.attribute, file: 'figures/stated-of-queries.json', of: ofImport },
    ...{ only: "subject = 'query'", same: { subject: 'query' }, names: { subjectId: 'query' } },
  },
  {
    ...{ table: change, file: 'ledger/changes.json', numbers: 'change', of: ofSite },
    names: { followsId: 'change', importId: 'import' },
    fields: { ...SPAN_FIELDS, expectedAmount: expectationSchema.shape.amount },
  },
  { table: schema.changePage, file: 'ledger/pages.json', of: ofChange, names: { pageId: 'page' } },
  { table: schema.changeQuery, file: 'ledger/queries.json', of: ofChange },
  { table: schema.changeTag, file: 'ledger/tags.json', of: ofChange },
  { table: schema.changePart, file: 'ledger/parts.json', of: ofChange, names: { pageId: 'page' } },
  { table: schema.changeStep, file: 'ledger/steps.json', of: ofChange },
  {
    ...{ table: schema.changeHistory, file: 'ledger/history.json', of: ofChange },
    // Accounts are of an installation.
    stays: { actorId: null },
    json: {
      was: {
        shape: 'pastChange',
        numbers: [
          ...([
            ['id', 'change'],
            ['siteId', 'site'],
            ['followsId', 'change'],
          ] as const),
          ...([
            ['pages.*.id', 'page'],
            ['parts.*.page.id', 'page'],
          ] as const),
        ],
      },
    },
  },
  {
    ...{ table: schema.readingSaid, file: 'ledger/said.json', of: ofChange },
    texts: { about: readingOfRenumbered },
  },
  { table: schema.idempotency, file: 'ledger/requests.json', of: ofSite, names: { changeId: 'change' } },
  {
    ...{ table: schema.takenOpening, file: 'ledger/openings.json', of: ofChange },
    json: { opening: { shape: 'opening' } },
  },
  { table: event, file: 'almanac/events.json', numbers: 'event', of: ofSite },
  {
    ...{ table: schema.eventHistory, file: 'almanac/history.json', of: ['eventId', 'event'] },
    // Accounts are of an installation.
    stays: { actorId: null },
    json: {
      was: {
        shape: 'pastEvent',
        numbers: [
          ['id', 'event'],
          ['siteId', 'site'],
        ],
      },
    },
  },
  {
    ...{ table: snapshot, file: 'evidence/snapshots.json', numbers: 'snapshot', of: ofSite },
    names: { pageId: 'page' },
    json: { evidence: { shape: 'evidence' }, differences: { shape: 'differences' } },
  },
  { table: schema.pageLook, file: 'evidence/watched.json', of: ofSite, names: { pageId: 'page' } },
  { table: schema.sighting, file: 'evidence/sightings.json', of: ofPage },
  {
    ...{ table: schema.movingGroup, file: 'traits/groups.json', of: ofSite },
    json: { pages: { shape: 'numbers', numbers: [['*', 'page']] } },
  },
  { table: schema.pageTrait, file: 'traits/pages.json', of: ofPage },
  {
    ...{ table: schema.queryTrait, file: 'traits/queries.json', of: ['queryId', 'query'] },
    names: { targetPageId: 'page' },
  },
  { table: schema.keptFilter, file: 'traits/filters.json', of: ofSite },
  { table: schema.passedOpening, file: 'traits/openings-passed.json', of: ofSite },
  { table: schema.siteWord, file: 'traits/words.json', of: ofSite },
  {
    ...{ table: schema.sheet, file: 'traits/sheets.json', of: ofSite },
    json: { pages: { shape: 'numbers', numbers: [['*', 'page']] }, lines: { shape: 'sheetLines' } },
  },
  {
    ...{ table: resultPage, file: 'wording/result-pages.json', numbers: 'results', of: ofSite },
    names: { queryId: 'query' },
    fields: {
      device: z
        .int()
        .min(0)
        .max(Object.keys(DEVICES).length - 1),
    },
    json: { content: { shape: 'results' } },
  },
  {
    ...{ table: schema.rivalPage, file: 'wording/pages-of-results.json', of: ['resultPageId', 'results'] },
    json: { facts: { shape: 'rival' } },
  },
  { table: schema.draft, file: 'wording/drafts.json', of: ofSite, names: { pageId: 'page' } },
  { table: schema.leftOutTerm, file: 'wording/terms-left-out.json', of: ofSite },
  {
    ...{ table: round, file: 'rounds/rounds.json', numbers: 'round', of: ofSite },
    names: { followsId: 'round', firstChangeId: 'change', secondChangeId: 'change' },
    fields: SPAN_FIELDS,
    json: { expectation: { shape: 'expectation' } },
  },
  {
    ...{ table: schema.roundPage, file: 'rounds/pages.json', of: ofRound, names: { pageId: 'page' } },
    json: { frozen: { shape: 'frozen' }, opening: { shape: 'opening' } },
  },
  {
    ...{ table: schema.roundHistory, file: 'rounds/history.json', of: ofRound },
    // Accounts are of an installation.
    stays: { actorId: null },
    json: {
      was: {
        shape: 'pastRound',
        numbers: [
          ...([
            ['id', 'round'],
            ['siteId', 'site'],
            ['followsId', 'round'],
          ] as const),
          ...([
            ['changes.first', 'change'],
            ['changes.second', 'change'],
          ] as const),
          ['pages.*.page.id', 'page'],
        ],
      },
    },
  },
  {
    ...{ table: schema.report, file: 'reports/reports.json', numbers: 'report', of: ofSite },
    fields: { ink: newReportSchema.shape.ink },
    json: {
      scope: {
        shape: 'scope',
        numbers: [
          ['roundId', 'round'],
          ['changeIds.*', 'change'],
        ],
      },
      ...{ parts: { shape: 'parts' }, leaveOut: { shape: 'leaveOut' }, words: { shape: 'words' } },
    },
  },
  {
    ...{ table: schema.reportIssue, file: 'reports/issues.json', of: ['reportId', 'report'] },
    json: { shown: { shape: 'issue' } },
  },
  {
    ...{ table: schema.routine, file: 'routines/routines.json', numbers: 'routine', of: ofSite },
    fields: { rule: newRoutineSchema.shape.rule },
    json: { steps: { shape: 'steps' } },
  },
  { table: schema.routineDone, file: 'routines/done.json', of: ['routineId', 'routine'] },
  { table: schema.putOff, file: 'desk/put-off.json', of: ofSite, texts: { key: deskKeyRenumbered } },
];

/** Tables by which people, scripts and links get at a site. They go with it. */
export const OPENS_A_SITE = [schema.member, schema.pass, schema.accessToken, schema.sharedLink];

/** Tables that are not in these files, and why. */
export const NOT_ARCHIVED = new Map<SQLiteTable, string>([
  [schema.figures, 'stands as CSV, a file for each import'],
  [schema.label, 'stands as texts in the figures'],
  [schema.pageSeries, 'is derived from the figures'],
  [schema.entries, 'counts what was written here'],
  [schema.siteImport, 'is about archives that came in here'],
  ...[schema.user, schema.session, schema.account, schema.verification, schema.twoFactor].map(
    (table) => [table, 'is about who comes in here'] as const,
  ),
  ...OPENS_A_SITE.map((table) => [table, 'is about who comes in here'] as const),
  [schema.auditEntry, 'is about what was done here; histories say who edited'],
]);

/** What a column holds, as it is written. */
export type ColumnForm = {
  /** In the program and in the archive, and in the database. */
  readonly key: string;
  readonly name: string;
  readonly column: SQLiteColumn;
  readonly isDay: boolean;
};

/** Columns of whole numbers that are days. */
const DAYS = new Set([
  ...['day', 'firstDay', 'lastDay', 'reviewDay', 'takenOn', 'since', 'until', 'dueOn', 'decidedOn'],
  ...['madeOn', 'requestedOn', 'crawledOn', 'seenOn', 'completeUntil'],
]);

/** The columns of a table that an archive has. Histories and the like are numbered by nothing else: their `id` is left out. */
export function columnsOf({ table, numbers, same }: ArchivedTable): ColumnForm[] {
  const keys = Object.entries(table as unknown as Record<string, SQLiteColumn>);
  const columns = new Set(getTableConfig(table).columns);
  return keys
    .filter(
      ([key, column]) =>
        columns.has(column) && (key !== 'id' || numbers) && !(same && Object.hasOwn(same, key)),
    )
    .map(([key, column]) => ({ key, name: column.name, column, isDay: DAYS.has(key) }));
}

/** The columns by which rows of a table are told apart, in order. */
export function keyColumns({ table }: ArchivedTable): string[] {
  const { columns, primaryKeys } = getTableConfig(table);
  const single = columns.filter(({ primary }) => primary);
  return (single.length > 0 ? single : primaryKeys[0]!.columns).map(({ name }) => name);
}
