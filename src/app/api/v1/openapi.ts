import { z } from 'zod';
import { createDocument, type ZodOpenApiOperationObject, type ZodOpenApiResponsesObject } from 'zod-openapi';
import { changeEditSchema, newChangeSchema } from '@/core/model/change';
import { newEventSchema } from '@/core/model/event';
import { newSiteSchema } from '@/core/model/site';
import { newDecisionSchema, newStepSchema } from '@/core/model/steps';
import {
  changeJson,
  eventJson,
  importJson,
  importsJson,
  importWishSchema,
  problemJson,
  readingJson,
  readingsJson,
  readingWishSchema,
  siteJson,
  snapshotComparisonJson,
  snapshotJson,
  snapshotsJson,
  snapshotWishSchema,
  spanWishSchema,
} from './schemas';

const json = (schema: z.ZodType) => ({ 'application/json': { schema } });
const problem = (description: string) => ({
  description,
  content: { 'application/problem+json': { schema: problemJson } },
});
const NOT_FOUND = { '404': problem('There is nothing of that number.') };
const UNFIT = {
  '400': problem('The body is not JSON.'),
  '422': problem('A field does not hold what it should.'),
};

const siteId = z.object({ siteId: z.int() });
const importId = z.object({ importId: z.int() });
const changeId = z.object({ changeId: z.int() });
const snapshotId = z.object({ snapshotId: z.int() });
const eventId = z.object({ eventId: z.int() });

function operation(
  summary: string,
  path: z.ZodObject | null,
  responses: ZodOpenApiResponsesObject,
  body?: z.ZodType,
): ZodOpenApiOperationObject {
  return {
    summary,
    ...(path ? { requestParams: { path } } : {}),
    ...(body ? { requestBody: { required: true, content: json(body) } } : {}),
    responses: { ...responses, ...(path ? NOT_FOUND : {}), ...(body ? UNFIT : {}) },
  };
}

const calendar = (summary: string): ZodOpenApiOperationObject => ({
  summary,
  requestParams: { path: siteId },
  responses: {
    '200': { description: 'The calendar', content: { 'text/calendar': { schema: z.string() } } },
    ...NOT_FOUND,
  },
});
const ok = (description: string, schema: z.ZodType) => ({ '200': { description, content: json(schema) } });
const created = (description: string, schema: z.ZodType) => ({
  '201': { description, content: json(schema) },
});

/** The OpenAPI 3.1 document of the interface, made from the same schemas that validate what comes in. */
export function openApiDocument() {
  return createDocument({
    openapi: '3.1.0',
    info: {
      title: 'Modest Tally',
      version: '1',
      description:
        'Days are YYYY-MM-DD, ratios plain numbers (0.031 is 3.1%), errors problem details (RFC 9457).',
    },
    servers: [{ url: '/api/v1' }],
    paths: {
      '/sites': {
        get: operation('List the sites', null, ok('The sites', z.array(siteJson))),
        post: operation(
          'Add a site',
          null,
          { ...created('The site', siteJson), '409': problem('There is a site at this address already.') },
          newSiteSchema,
        ),
      },
      '/sites/{siteId}/imports': {
        get: operation('List what was brought in, newest first', siteId, ok('The imports', importsJson)),
        post: {
          summary: 'Bring in a file of figures: CSV, gzip or spreadsheet',
          requestParams: { path: siteId, query: importWishSchema },
          requestBody: {
            required: true,
            content: {
              'text/csv': { schema: z.string() },
              'application/gzip': { schema: z.string() },
              'multipart/form-data': {
                schema: z.object({ file: z.string().meta({ format: 'binary' }) }).loose(),
              },
            },
          },
          responses: {
            '202': {
              description: 'The file waits for its turn',
              content: json(z.object({ id: z.int(), ids: z.array(z.int()) })),
            },
            '413': problem('The file is too large.'),
            '415': problem('The body is of another type.'),
            '422': problem(
              'The file cannot be taken; `errors` names what to state (dateOrder, mapping, period) where that would help.',
            ),
            ...NOT_FOUND,
          },
        },
      },
      '/imports/{importId}': {
        get: operation('How far an import is', importId, ok('The import', importJson)),
      },
      '/imports/{importId}/undo': {
        post: operation('Take a file out of the figures again', importId, {
          ...ok('The import', importJson),
          '409': problem('It is not done, or undone already.'),
        }),
        delete: operation('Let an undone file count again', importId, {
          ...ok('The import', importJson),
          '409': problem('It is not undone.'),
        }),
      },
      '/sites/{siteId}/changes': {
        get: operation('List the changes, newest first', siteId, ok('The changes', z.array(changeJson))),
        post: {
          ...operation('Log a change', siteId, created('The change', changeJson), newChangeSchema),
          requestParams: {
            path: siteId,
            header: z.object({
              'Idempotency-Key': z.string().max(255).optional().meta({
                description: 'A name for this request: sent again under it, it logs nothing twice.',
              }),
            }),
          },
        },
      },
      '/changes/{changeId}': {
        get: operation('One change', changeId, ok('The change', changeJson)),
        patch: operation(
          'Edit those fields that are given',
          changeId,
          ok('The change', changeJson),
          changeEditSchema,
        ),
        delete: operation('Delete a change', changeId, { '204': { description: 'Deleted' } }),
      },
      '/changes/{changeId}/steps': {
        post: operation(
          'Record the day of a step, or take it back',
          changeId,
          ok('The change', changeJson),
          newStepSchema,
        ),
      },
      '/changes/{changeId}/decision': {
        put: operation(
          'Record what was decided, or take it back',
          changeId,
          ok('The change', changeJson),
          newDecisionSchema,
        ),
      },
      '/changes/{changeId}/reading': {
        get: {
          ...operation('Read a change before and after', changeId, {
            ...ok('The reading', readingJson),
            '422': problem('The spans cannot be read.'),
          }),
          requestParams: { path: changeId, query: readingWishSchema },
        },
      },
      '/sites/{siteId}/readings': {
        get: {
          ...operation('Read all changes of a site, newest first', siteId, {
            ...ok('The readings, without queries and reasons', readingsJson),
            '422': problem('The spans cannot be read.'),
          }),
          requestParams: { path: siteId, query: spanWishSchema },
        },
      },
      '/sites/{siteId}/snapshots': {
        get: {
          ...operation('List what a page said, the last first', siteId, ok('The snapshots', snapshotsJson)),
          requestParams: { path: siteId, query: snapshotWishSchema },
        },
        post: operation(
          'Fetch a page and keep what it says',
          siteId,
          {
            ...created('The snapshot; an earlier one where the page says the same as then', snapshotJson),
            '502': problem('The page could not be fetched.'),
          },
          snapshotWishSchema,
        ),
      },
      '/snapshots/{snapshotId}': {
        get: operation('One snapshot', snapshotId, ok('The snapshot', snapshotJson)),
      },
      '/snapshots/{snapshotId}/comparison': {
        get: {
          ...operation(
            'In what a snapshot differs from another, or from the one before it',
            snapshotId,
            ok('The comparison', snapshotComparisonJson),
          ),
          requestParams: {
            path: snapshotId,
            query: z.object({
              with: z.int().optional().meta({ description: 'Another snapshot of the site.' }),
            }),
          },
        },
      },
      '/sites/{siteId}/reviews.ics': { get: calendar('The review days as a calendar (RFC 5545)') },
      '/sites/{siteId}/events.ics': { get: calendar('The almanac as a calendar (RFC 5545)') },
      '/sites/{siteId}/events': {
        get: operation('List the almanac, newest first', siteId, ok('The events', z.array(eventJson))),
        post: operation('Note an outside event', siteId, created('The event', eventJson), newEventSchema),
      },
      '/events/{eventId}': {
        get: operation('One event', eventId, ok('The event', eventJson)),
        put: operation('Edit an event', eventId, ok('The event', eventJson), newEventSchema),
        delete: operation('Delete an event', eventId, { '204': { description: 'Deleted' } }),
      },
    },
  });
}
