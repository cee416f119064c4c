import type { Right } from '@/core/access/rights';
import type { ListSubject } from '@/core/lists/columns';
import type { AddressRules } from '@/core/model/addressRules';

/** The addresses of the application's screens. */
export const routes = {
  desk: (siteId: number) => `/sites/${siteId}/desk`,
  ledger: (siteId: number) => `/sites/${siteId}/ledger`,
  newChange: (siteId: number) => `/sites/${siteId}/ledger/new`,
  /** The form for a change on all pages whose address has some letters. */
  changeOfMatching: (siteId: number, text: string) =>
    `/sites/${siteId}/ledger/new?matching=${encodeURIComponent(text)}`,
  /** The form for the change that undoes, reworks or copies another. */
  changeAfter: (siteId: number, changeId: number, as: 'undo' | 'rework' | 'copy') =>
    `/sites/${siteId}/ledger/new?after=${changeId}&as=${as}`,
  change: (siteId: number, changeId: number) => `/sites/${siteId}/ledger/${changeId}`,
  /** A change with the edits before an entry of its history. */
  changeEdits: (siteId: number, changeId: number, before: number) =>
    `/sites/${siteId}/ledger/${changeId}?edits=${before}#history`,
  editChange: (siteId: number, changeId: number) => `/sites/${siteId}/ledger/${changeId}/edit`,
  pages: (siteId: number) => `/sites/${siteId}/pages`,
  /** The pages of some days against the days before, those that lost most clicks first. */
  fallenPages: (siteId: number, days: { readonly from: string; readonly to: string } | null) =>
    `/sites/${siteId}/pages?${new URLSearchParams({ ...days, sort: 'difference.clicks' })}`,
  page: (siteId: number, pageId: number) => `/sites/${siteId}/pages/${pageId}`,
  earlierSnapshots: (siteId: number, pageId: number, before: number) =>
    `/sites/${siteId}/pages/${pageId}?earlier=${before}#snapshots`,
  /** The form for the change that a snapshot shows and nobody logged. */
  changeFound: (siteId: number, snapshotId: number) => `/sites/${siteId}/ledger/new?found=${snapshotId}`,
  sheets: (siteId: number) => `/sites/${siteId}/sheets`,
  /** A kept sheet as a file: as it was, or made anew. */
  saveSheet: (siteId: number, sheetId: number, as: 'csv' | 'xlsx', anew: boolean) =>
    `/sites/${siteId}/sheets/${sheetId}/save?as=${as}${anew ? '&anew=1' : ''}`,
  openings: (siteId: number) => `/sites/${siteId}/openings`,
  queries: (siteId: number) => `/sites/${siteId}/queries`,
  query: (siteId: number, queryId: number) => `/sites/${siteId}/queries/${queryId}`,
  /** A list as a file; `query` is that of the list's address. */
  saveList: (siteId: number, subject: ListSubject, as: 'csv' | 'xlsx', query: string) =>
    `/sites/${siteId}/lists/${subject}/save${query === '' ? '?' : `${query}&`}as=${as}`,
  /** What the screens of a site wait for. */
  progress: (siteId: number) => `/sites/${siteId}/progress`,
  wording: (siteId: number) => `/sites/${siteId}/wording`,
  newResultPage: (siteId: number, query = '') =>
    `/sites/${siteId}/wording/new${query === '' ? '' : `?query=${encodeURIComponent(query)}`}`,
  resultPage: (siteId: number, resultPageId: number, wish = '') =>
    `/sites/${siteId}/wording/${resultPageId}${wish}`,
  pageDrafts: (siteId: number) => `/sites/${siteId}/wording/drafts`,
  /** Where what was pasted or chosen is read. */
  readResults: (siteId: number) => `/sites/${siteId}/wording/read`,
  rounds: (siteId: number) => `/sites/${siteId}/rounds`,
  /** The form for a round, with pages filled in, a line each. */
  newRound: (siteId: number, pages: readonly string[] = [], kind = '') => {
    const query = new URLSearchParams();
    if (pages.length > 0) query.set('pages', pages.join('\n'));
    if (kind !== '') query.set('kind', kind);
    return `/sites/${siteId}/rounds/new${query.size > 0 ? `?${query}` : ''}`;
  },
  /** The form for a round that goes on from another: with the pages that did not move, or with the same. */
  roundAfter: (siteId: number, roundId: number, as: 'unmoved' | 'same') =>
    `/sites/${siteId}/rounds/new?after=${roundId}&as=${as}`,
  /** The form for a round of the best openings of a kind, of the pages of a sheet, or of those that a list finds. */
  roundOf: (
    siteId: number,
    from: { readonly openings?: string; readonly sheet?: number; readonly list?: string },
  ) =>
    `/sites/${siteId}/rounds/new?${new URLSearchParams(
      Object.entries(from).map(([name, value]) => [name, String(value)]),
    )}`,
  round: (siteId: number, roundId: number, view: 'reading' | 'work' | 'then' = 'reading') =>
    `/sites/${siteId}/rounds/${roundId}${view === 'reading' ? '' : `?view=${view}`}`,
  /** Drafts for the pages of a round. */
  roundDrafts: (siteId: number, roundId: number) => `/sites/${siteId}/wording/drafts?round=${roundId}`,
  routines: (siteId: number) => `/sites/${siteId}/routines`,
  saveRoutine: (siteId: number, routineId: number) => `/sites/${siteId}/routines/${routineId}/save`,
  /** A single reading as a report of one page. */
  readingReport: (siteId: number, changeId: number, as: 'html' | 'md') =>
    `/sites/${siteId}/ledger/${changeId}/report?as=${as}`,
  /** The spreadsheet in which a reading is worked out. */
  readingWorking: (changeId: number, asked: Readonly<Record<string, string | number | null | undefined>>) => {
    const given = Object.entries(asked).flatMap(([name, value]) =>
      value == null ? [] : [[name, String(value)]],
    );
    return `/api/v1/changes/${changeId}/working${given.length === 0 ? '' : `?${new URLSearchParams(given)}`}`;
  },
  reports: (siteId: number) => `/sites/${siteId}/reports`,
  newReport: (siteId: number) => `/sites/${siteId}/reports/new`,
  /** A report as it stands, or as an issue of it was sent. */
  report: (siteId: number, reportId: number, issue?: number) =>
    `/sites/${siteId}/reports/${reportId}${issue === undefined ? '' : `?issue=${issue}`}`,
  editReport: (siteId: number, reportId: number) => `/sites/${siteId}/reports/${reportId}/edit`,
  reportFile: (reportId: number, format: 'html' | 'md' | 'xlsx' | 'json', issue?: number) =>
    `/api/v1/reports/${reportId}?format=${format}${issue === undefined ? '' : `&issue=${issue}`}`,
  scorebook: (siteId: number, wish = '') => `/sites/${siteId}/scorebook${wish}`,
  groups: (siteId: number) => `/sites/${siteId}/groups`,
  almanac: (siteId: number) => `/sites/${siteId}/almanac`,
  event: (siteId: number, eventId: number) => `/sites/${siteId}/almanac/${eventId}`,
  eventEdits: (siteId: number, eventId: number, before: number) =>
    `/sites/${siteId}/almanac/${eventId}?edits=${before}#history`,
  intake: (siteId: number) => `/sites/${siteId}/intake`,
  /** The imports before one. */
  intakeBefore: (siteId: number, before: number) => `/sites/${siteId}/intake?before=${before}#so-far`,
  import: (siteId: number, importId: number) => `/sites/${siteId}/intake/${importId}`,
  addresses: (siteId: number) => `/sites/${siteId}/addresses`,
  /** The rules of addresses with others filled in, and what these would join. */
  addressesWith: (siteId: number, rules: AddressRules) =>
    `/sites/${siteId}/addresses?rules=${encodeURIComponent(JSON.stringify(rules))}`,
  deleted: (siteId: number) => `/sites/${siteId}/deleted`,
  settings: (siteId: number) => `/sites/${siteId}/settings`,
  newSite: () => '/sites/new',
  /** Where somebody signs in, and goes on to a path from there. */
  signIn: (to = '/') => (to === '/' ? '/sign-in' : `/sign-in?to=${encodeURIComponent(to)}`),
  account: () => '/account',
  /** Who has an account here at all. */
  accounts: () => '/accounts',
  /** An invitation, or the link by which a new password is chosen. */
  pass: (key: string) => `/pass/${key}`,
  people: (siteId: number) => `/sites/${siteId}/people`,
  deeds: (siteId: number, wish: Readonly<Record<string, string | number>> = {}) => {
    const query = new URLSearchParams(Object.entries(wish).map(([name, value]) => [name, String(value)]));
    return `/sites/${siteId}/people/deeds${query.size > 0 ? `?${query}` : ''}`;
  },
  saveDeeds: (siteId: number, query: string) =>
    `/sites/${siteId}/people/deeds/save${query === '' ? '' : `?${query}`}`,
  /** A screen that somebody may not see. */
  notYours: (siteId: number, right: string) => `/sites/${siteId}/not-yours?right=${right}`,
  /** What a read-only link shows. */
  shared: (key: string) => `/shared/${key}`,
};

/** The screens of a site in the order of the work, as the rail and the go-anywhere list show them. */
export const SCREENS = [
  { name: 'Desk', may: 'read', to: routes.desk, hint: 'what is due today', part: null },
  { name: 'Openings', may: 'read', to: routes.openings, hint: 'where work is likely to pay', part: 'where' },
  {
    name: 'Pages',
    may: 'read',
    to: routes.pages,
    hint: 'every page, any days against any others',
    part: 'where',
  },
  {
    name: 'Queries',
    may: 'read',
    to: routes.queries,
    hint: 'every search, any days against any others',
    part: 'where',
  },
  {
    name: 'Wording',
    may: 'read',
    to: routes.wording,
    hint: 'what the results say, and drafts held against them',
    part: 'where',
  },
  {
    name: 'Groups',
    may: 'read',
    to: routes.groups,
    hint: 'pages that rise and fall together',
    part: 'where',
  },
  {
    name: 'Sheets',
    may: 'read',
    to: routes.sheets,
    hint: 'the queries of chosen pages in one dated table',
    part: 'where',
  },
  { name: 'Ledger', may: 'read', to: routes.ledger, hint: 'changes and their readings', part: 'what' },
  {
    name: 'Rounds',
    may: 'read',
    to: routes.rounds,
    hint: 'pages taken on together, a random half first',
    part: 'what',
  },
  {
    name: 'Almanac',
    may: 'read',
    to: routes.almanac,
    hint: 'algorithm updates and other outside events',
    part: 'what',
  },
  {
    name: 'Deleted',
    may: 'edit',
    to: routes.deleted,
    hint: 'what was deleted, to be put back',
    part: 'what',
  },
  {
    name: 'Scorebook',
    may: 'read',
    to: routes.scorebook,
    hint: 'what each kind of change has brought',
    part: 'what came',
  },
  {
    name: 'Reports',
    may: 'read',
    to: routes.reports,
    hint: 'what was done and what came of it',
    part: 'what came',
  },
  {
    name: 'Routines',
    may: 'read',
    to: routes.routines,
    hint: 'what is done again and again',
    part: 'what came',
  },
  {
    name: 'Intake',
    may: 'log',
    to: routes.intake,
    hint: 'bring in figures, see what is there, undo',
    part: 'figures',
  },
  {
    name: 'Addresses',
    may: 'edit',
    to: routes.addresses,
    hint: 'which addresses are one page, and what does not match',
    part: 'figures',
  },
  {
    name: 'Settings',
    may: 'edit',
    to: routes.settings,
    hint: 'name, spans and settling days',
    part: 'figures',
  },
  { name: 'People', may: 'read', to: routes.people, hint: 'who may do what, and who did what', part: 'who' },
] as const satisfies readonly {
  readonly name: string;
  /** The right that the screen takes. */
  readonly may: Right;
  readonly to: (siteId: number) => string;
  readonly hint: string;
  readonly part: string | null;
}[];
