import { z } from 'zod';
import type { ZodOpenApiOperationObject, ZodOpenApiResponsesObject } from 'zod-openapi';
import type { Change, PageRef } from '@/core/model/change';
import type { OutsideEvent } from '@/core/model/event';
import type { Site } from '@/core/model/site';
import { findPage } from '@/store/addresses/pages';
import { database, type Db } from '@/store/database';
import { findSnapshot, pageOfSnapshot, type KeptSnapshot } from '@/store/evidence/snapshots';
import { findFeed, type FeedRow } from '@/store/figures/feeds';
import { findImport, type ImportRow } from '@/store/figures/imports';
import { findChange } from '@/store/ledger/changes';
import { findStandingEvent } from '@/store/ledger/events';
import { findSite } from '@/store/sites';
import { answering, Problem } from '@/app/problem';
import { asId, readJson } from './request';
import { problemJson } from './schemas';

/** What the address of a request is about, by the name of its number in the path; null where there is no such thing. */
const SUBJECTS = {
  nothing: { parameter: null, find: () => ({}) },
  site: {
    parameter: 'siteId',
    find: (db: Db, id: number) => {
      const site = findSite(db, id);
      return site && { site };
    },
  },
  page: {
    parameter: 'pageId',
    find: (db: Db, id: number) => {
      const siteId = db.$client.prepare<[number], number>('SELECT site_id FROM page WHERE id = ?').pluck();
      const site = findSite(db, siteId.get(id) ?? -1);
      const page = site && findPage(db, site.id, id);
      return site && page ? { site, page } : null;
    },
  },
  change: {
    parameter: 'changeId',
    find: (db: Db, id: number): { site: Site; change: Change } | null => {
      const change = findChange(db, id);
      const site = change && findSite(db, change.siteId);
      return change && site ? { site, change } : null;
    },
  },
  event: {
    parameter: 'eventId',
    find: (db: Db, id: number): { event: OutsideEvent } | null => {
      const event = findStandingEvent(db, id);
      return event && { event };
    },
  },
  import: {
    parameter: 'importId',
    find: (db: Db, id: number): { row: ImportRow } | null => {
      const row = findImport(db, id);
      return row && row.state !== 'draft' ? { row } : null;
    },
  },
  feed: {
    parameter: 'feedId',
    find: (db: Db, id: number): { site: Site; feed: FeedRow } | null => {
      const feed = findFeed(db, id);
      const site = feed && findSite(db, feed.siteId);
      return feed && site ? { site, feed } : null;
    },
  },
  snapshot: {
    parameter: 'snapshotId',
    find: (db: Db, id: number): { snapshot: KeptSnapshot; page: PageRef } | null => {
      const snapshot = findSnapshot(db, id);
      const page = snapshot && pageOfSnapshot(db, snapshot);
      return snapshot && page ? { snapshot, page } : null;
    },
  },
} as const;

type SubjectName = keyof typeof SUBJECTS;
type Subjects = { [S in SubjectName]: NonNullable<ReturnType<(typeof SUBJECTS)[S]['find']>> };

/** What an operation of the interface is, said once: by this it is described, and by this what comes in is checked. */
export type OperationSpec<S extends SubjectName, Q extends z.ZodType, B extends z.ZodType> = {
  readonly summary: string;
  readonly on: S;
  readonly query?: Q;
  readonly headers?: z.ZodObject;
  /** The schema of a JSON body. Without it the handler reads the body, if there is one, by itself. */
  readonly body?: B;
  /** How a body that the handler reads by itself may come, by its media type. */
  readonly content?: Readonly<Record<string, z.ZodType>>;
  readonly answers: ZodOpenApiResponsesObject;
};

/** What a handler is given: checked, and with the things that the address names. */
export type Asked<S extends SubjectName, Q, B> = Subjects[S] & {
  readonly request: Request;
  readonly db: Db;
  readonly query: Q;
  readonly body: B;
  /** The JSON body as it was sent, in which fields that were left out are not filled with defaults. */
  readonly given: Readonly<Record<string, unknown>>;
};

type Context = { params: Promise<Record<string, string>> };

/** A route handler that carries its own description. */
export type Operation = ((request: Request, context: Context) => Promise<Response>) & {
  readonly described: ZodOpenApiOperationObject;
};

/**
 * One operation of the interface. The request is checked by the schemas of its description before the handler sees it, and
 * whatever goes wrong is answered with a problem document, so that no route answers otherwise than it is described.
 */
export function operation<
  S extends SubjectName,
  Q extends z.ZodType = z.ZodUndefined,
  B extends z.ZodType = z.ZodUndefined,
>(
  spec: OperationSpec<S, Q, B>,
  handle: (asked: Asked<S, z.output<Q>, z.output<B>>) => Promise<Response> | Response,
): Operation {
  const answer = answering(async (request: Request, { params }: Context) => {
    const db = database();
    const subject = await subjectOf(db, spec.on, params);
    const asked = Object.fromEntries(new URL(request.url).searchParams);
    const query = spec.query?.parse(asked);
    const given = spec.body ? await readJson(request) : undefined;
    const body = spec.body?.parse(given);
    return handle({ ...subject, request, db, query, body, given } as Asked<S, z.output<Q>, z.output<B>>);
  });
  return Object.assign(answer, { described: describe(spec) });
}

async function subjectOf(db: Db, on: SubjectName, params: Context['params']): Promise<object> {
  const { parameter, find } = SUBJECTS[on];
  if (parameter === null) return {};
  const text = (await params)[parameter] ?? '';
  const found = find(db, asId(text));
  if (!found) throw new Problem(404, `There is no ${on} ${text}.`);
  return found;
}

function describe(spec: OperationSpec<SubjectName, z.ZodType, z.ZodType>): ZodOpenApiOperationObject {
  const { parameter } = SUBJECTS[spec.on];
  const content = spec.body
    ? json(spec.body)
    : spec.content &&
      Object.fromEntries(Object.entries(spec.content).map(([type, schema]) => [type, { schema }]));
  const parameters = {
    ...(parameter ? { path: z.object({ [parameter]: z.int() }) } : {}),
    ...(spec.query ? { query: spec.query as z.ZodObject } : {}),
    ...(spec.headers ? { header: spec.headers } : {}),
  };
  return {
    summary: spec.summary,
    ...(Object.keys(parameters).length > 0 ? { requestParams: parameters } : {}),
    ...(content ? { requestBody: { required: true, content } } : {}),
    responses: {
      ...(spec.body ? { '400': problem('The body is not JSON.') } : {}),
      ...(parameter ? { '404': problem('There is nothing of that number.') } : {}),
      ...(spec.body || spec.query ? { '422': problem('A field does not hold what it should.') } : {}),
      ...spec.answers,
    },
  };
}

const json = (schema: z.ZodType) => ({ 'application/json': { schema } });

/** An answer that holds JSON. */
export const answer = (description: string, schema: z.ZodType) => ({ description, content: json(schema) });

/** An answer without a body. */
export const empty = (description: string) => ({ description });

/** An answer that says what is wrong (RFC 9457). */
export const problem = (description: string) => ({
  description,
  content: { 'application/problem+json': { schema: problemJson } },
});

/** A calendar (RFC 5545). */
export const calendar = { description: 'The calendar', content: { 'text/calendar': { schema: z.string() } } };
