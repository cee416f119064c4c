import { z, type ZodType } from 'zod';
import type { Operation } from '@/app/api/v1/doorway';
import { operationsByPath } from '@/app/api/v1/routes';

/** An answer of the interface, checked against its published description. */
export type Answered = { readonly status: number; readonly body: never };

type Responses = Readonly<
  Record<string, { readonly content?: Readonly<Record<string, { readonly schema?: unknown }>> }>
>;

/**
 * Calls an operation as a script would, by its path under /api/v1. A JSON answer has to match the schema
 * under which it is described, and may hold no field that the schema does not name.
 */
export async function callApi(method: string, path: string, body?: unknown): Promise<Answered> {
  const url = new URL(path, 'http://127.0.0.1');
  const { operation, params } = operationAt(method, url.pathname);
  const request = new Request(url, {
    method,
    headers: { 'Content-Type': 'application/json' },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  const response = await operation(request, { params: Promise.resolve(params) });
  const text = await response.text();
  const answered = text === '' ? null : (JSON.parse(text) as unknown);
  const described = (operation.described.responses as unknown as Responses)[String(response.status)];
  const schema = described?.content?.['application/json']?.schema as ZodType | undefined;
  // The schema reads values of the model, so the answer is held against its JSON Schema, which allows no other fields.
  if (schema) {
    const { error } = z.fromJSONSchema(z.toJSONSchema(schema, { io: 'output' }) as never).safeParse(answered);
    expect({ path, error: error && z.prettifyError(error) }).toEqual({ path, error: undefined });
  }
  return { status: response.status, body: answered as never };
}

function operationAt(method: string, path: string): { operation: Operation; params: Record<string, string> } {
  for (const [template, operations] of operationsByPath()) {
    const names = [...template.matchAll(/\{(\w+)\}/g)].map((match) => match[1]!);
    const match = new RegExp(`^${template.replace(/\{\w+\}/g, '([^/]+)')}$`).exec(path);
    const operation = match && operations.find(([name]) => name === method)?.[1];
    if (match && operation)
      return { operation, params: Object.fromEntries(names.map((name, i) => [name, match[i + 1]!])) };
  }
  throw new Error(`No operation ${method} ${path}`);
}
