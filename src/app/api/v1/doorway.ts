import { isDeepStrictEqual } from 'node:util';
import { z } from 'zod';
import type { ZodOpenApiOperationObject, ZodOpenApiResponsesObject } from 'zod-openapi';
import { database, type Db } from '@/store/database';
import type { Guard } from '@/store/write';
import { answering, Problem } from '@/app/problem';
import { authorize, authorizeInGeneral, audited, type Access } from '@/app/authorize';
import type { Principal, Right } from '@/core/access/rights';
import { askerFrom } from '@/services/access/asker';
import { withAuditContext } from '@/store/acting';
import { represented, type ResourceName, type Resources } from '@/app/resources';
import { asId, readJson } from './request';
import { guardOf, isKnown, tagOf, tagOfResource } from './versions';
import { problemJson } from './schemas';

/** What the address of a request is about, by the name of its number in the path. */
type Addressed = 'nothing' | Exclude<ResourceName, 'draft'>;
type Found<S extends Addressed> = S extends ResourceName ? Resources[S] : object;

const parameterOf = (on: Addressed) => (on === 'nothing' ? null : `${on}Id`);

/** What an operation of the interface is, said once: by this it is described, and by this what comes in is checked. */
export type OperationSpec<S extends Addressed, Q extends z.ZodType, B extends z.ZodType> = Access<S> & {
  readonly summary: string;
  readonly query?: Q;
  readonly headers?: z.ZodObject;
  /** The schema of a JSON body. Without it the handler reads the body, if there is one, by itself. */
  readonly body?: B;
  /** How a body that the handler reads by itself may come, by its media type. */
  readonly content?: Readonly<Record<string, z.ZodType>>;
  readonly answers: ZodOpenApiResponsesObject;
};

/** What a handler is given: checked, and with the things that the address names. */
export type OperationRequest<S extends Addressed, Q, B> = Found<S> & {
  readonly request: Request;
  readonly db: Db;
  readonly asker: Principal;
  /** What the address names besides its subject. */
  readonly path: Readonly<Record<string, string>>;
  readonly query: Q;
  readonly body: B;
  /** The JSON body as it was sent, in which fields that were left out are not filled with defaults. */
  readonly given: Readonly<Record<string, unknown>>;
  /** Throws where the asker began from another version (If-Match). To be called in the transaction that writes. */
  readonly guard: Guard;
};

type Context = { params: Promise<Record<string, string>> };

/** A route handler that carries its own description. */
export type Operation = ((request: Request, context: Context) => Promise<Response>) & {
  readonly described: ZodOpenApiOperationObject;
  readonly wish: Access<Addressed>;
};

/**
 * One operation of the interface. The request is checked by the schemas of its description before the handler sees it, and
 * whatever goes wrong is answered with a problem document, so that no route answers otherwise than it is described.
 */
export function operation<
  S extends Addressed,
  Q extends z.ZodType = z.ZodUndefined,
  B extends z.ZodType = z.ZodUndefined,
>(
  spec: OperationSpec<S, Q, B>,
  handle: (asked: OperationRequest<S, z.output<Q>, z.output<B>>) => Promise<Response> | Response,
): Operation {
  const answer = answering(async (request: Request, { params }: Context) => {
    const db = database();
    const path = await params;
    const asker = await askerFrom(db, request.headers);
    const { id, subject } = challenging(spec, () => subjectOf(db, asker, spec, path));
    const guard = spec.on === 'nothing' ? () => {} : guardOf(request, db, spec.on, id);
    guard();
    const asked = Object.fromEntries(new URL(request.url).searchParams);
    const query = spec.query?.parse(asked);
    const given = spec.body ? await readJson(request) : undefined;
    const body =
      spec.body &&
      parsedBody(spec.body, given, () =>
        spec.on === 'nothing' ? {} : represented(db, spec.on, subject as never),
      );
    const wanted = { ...subject, request, db, asker, path, query, body, given, guard };
    const work = async () => handle(wanted as unknown as OperationRequest<S, z.output<Q>, z.output<B>>);
    const answered = await (spec.on === 'nothing'
      ? withAuditContext({ asker, auditAction: spec.auditAction ?? null, siteId: null, thing: null }, work)
      : audited(
          asker,
          { on: spec.on, ...(spec.auditAction && { auditAction: spec.auditAction }) },
          id,
          subject as never,
          work,
        ));
    return request.method === 'GET' || request.method === 'HEAD'
      ? withVersion(request, answered)
      : withVersionOf(db, spec.on, id, answered);
  });
  const { on, may, auditAction } = spec;
  const wish = { on, may, ...(auditAction && { auditAction }) } as Access<Addressed>;
  return Object.assign(answer, { described: describe(spec), wish });
}

/** Calendar programs ask for a name and a password where they are told to, and browsers would ask everywhere. */
function challenging<T>({ answers }: { answers: object }, work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (!(error instanceof Problem) || error.status !== 401 || !Object.values(answers).includes(calendar))
      throw error;
    const headers = {
      'WWW-Authenticate': 'Basic realm="Modest Tally: any name, and a token as the password"',
    };
    throw new Problem(401, error.message, [], headers);
  }
}

/** What the address is about, for whoever may do with it what the operation does. */
function subjectOf(
  db: Db,
  asker: Principal,
  { on, may }: Access<Addressed>,
  path: Readonly<Record<string, string>>,
): { id: number; subject: object } {
  if (on === 'nothing') {
    authorizeInGeneral(asker, may as Access<'nothing'>['may']);
    return { id: -1, subject: {} };
  }
  const text = path[parameterOf(on)!] ?? '';
  const id = asId(text);
  // Addresses of screens name the site as well: it has to be the one of the thing.
  const siteId = path.siteId === undefined ? undefined : asId(path.siteId);
  const wish = { on, may: may as Right };
  return { id, subject: authorize(db, asker, wish, id, `There is no ${on} ${text.slice(0, 40)}.`, siteId) };
}

/**
 * A body by its schema. What is answered with can be sent back with some of it edited: fields that are not to be edited, such as
 * the number, are passed over as long as they say what is so anyway. Throws ZodError.
 */
function parsedBody(schema: z.ZodType, given: unknown, now: () => object): unknown {
  const parsed = schema.safeParse(given);
  if (parsed.success) return parsed.data;
  const unknown = parsed.error.issues.flatMap((issue) =>
    issue.code === 'unrecognized_keys' && issue.path.length === 0 ? issue.keys : [],
  );
  if (unknown.length === 0 || typeof given !== 'object' || given === null) throw parsed.error;
  const current = new Map(Object.entries(now()));
  const said = Object.entries(given).filter(
    ([field, value]) =>
      !unknown.includes(field) || !isDeepStrictEqual(toPlain(current.get(field)), toPlain(value)),
  );
  return schema.parse(Object.fromEntries(said));
}

const toPlain = (value: unknown): unknown =>
  value === undefined ? undefined : JSON.parse(JSON.stringify(value));

const isJson = (response: Response) =>
  response.status === 200 && response.headers.get('content-type')?.startsWith('application/json') === true;

/** What was asked for, with its version; nothing again where the asker has that one. */
async function withVersion(request: Request, answered: Response): Promise<Response> {
  if (!isJson(answered)) return answered;
  const body = await answered.text();
  const tag = tagOf(body);
  const headers = new Headers(answered.headers);
  headers.set('ETag', tag);
  // Answers change with every figure that comes in: they may be kept, and have to be asked about.
  headers.set('Cache-Control', 'private, no-cache');
  return isKnown(request, tag)
    ? new Response(null, { status: 304, headers })
    : new Response(body, { headers });
}

/** An answer to a write, with the version that the thing has now, where it is still there. */
function withVersionOf(db: Db, on: Addressed, id: number, answered: Response): Response {
  const tag = on === 'nothing' || on === 'site' || !answered.ok ? null : tagOfResource(db, on, id);
  if (tag !== null) answered.headers.set('ETag', tag);
  return answered;
}

const conditionSchema = z.object({
  'If-Match': z.string().optional().meta({
    description: 'The version (ETag) that the request begins from; of another one nothing is done (412).',
  }),
});

function describe(spec: OperationSpec<Addressed, z.ZodType, z.ZodType>): ZodOpenApiOperationObject {
  const parameter = parameterOf(spec.on);
  const content = spec.body
    ? json(spec.body)
    : spec.content &&
      Object.fromEntries(Object.entries(spec.content).map(([type, schema]) => [type, { schema }]));
  const versioned = spec.on !== 'nothing' && spec.on !== 'site';
  const header = versioned ? conditionSchema.extend(spec.headers?.shape ?? {}) : spec.headers;
  const parameters = {
    ...(parameter ? { path: z.object({ [parameter]: z.int() }) } : {}),
    ...(spec.query ? { query: spec.query as z.ZodObject } : {}),
    ...(header ? { header } : {}),
  };
  return {
    summary: spec.summary,
    ...(Object.keys(parameters).length > 0 ? { requestParams: parameters } : {}),
    ...(content ? { requestBody: { required: true, content } } : {}),
    responses: {
      ...(spec.may === 'anybody' ? {} : { '401': problem('Nobody is signed in, and no token was sent.') }),
      ...(spec.may === 'anybody' || spec.may === 'read'
        ? {}
        : { '403': problem('This takes another right.') }),
      ...(spec.body ? { '400': problem('The body is not JSON.') } : {}),
      ...(parameter ? { '404': problem('There is nothing of that number.') } : {}),
      ...(versioned ? { '412': problem('It was changed since the version of If-Match.') } : {}),
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
