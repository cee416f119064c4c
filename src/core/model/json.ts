/* Codecs from the model to the JSON of the API: one Zod schema both describes an answer and makes it. */

import { z } from 'zod';
import { isoDay, parseIsoDay, type Day } from '../calendar/day';

/** A day, as `YYYY-MM-DD`. */
export const dayJson = z.codec(z.custom<Day>(Number.isInteger), z.iso.date(), {
  decode: isoDay,
  encode: (text) => parseIsoDay(text)!,
});

/** The first and the last day of a span. */
export const spanJson = z.object({ firstDay: dayJson, lastDay: dayJson });

/** A thing that is answered with its address alone. */
export const addressJson = jsonFrom(z.string(), ({ address }: { readonly address: string }) => address);

/** A log ratio, as a ratio. */
export const ratioJson = jsonFrom(z.number(), (log: number) => Math.exp(log));

/** A bound of a log ratio, as a ratio; null if nothing bounds it. */
export const boundJson = jsonFrom(z.number().nullable(), (log: number) =>
  Number.isFinite(log) ? Math.exp(log) : null,
);

type Primitive = string | number | boolean | null | undefined;

/** `T` with everything in it read-only, as values of the model are. */
export type Immutable<T> = T extends Primitive
  ? T
  : T extends readonly (infer E)[]
    ? readonly Immutable<E>[]
    : { readonly [K in keyof T]: Immutable<T[K]> };

/**
 * A codec for values that hold their fields under other names than the API does: `fields` gives what
 * `schema` reads. Fields that `schema` doesn't name are left out of the answer.
 *
 * @example
 * const reportJson = jsonFrom(z.object({ from: dayJson }), (report: Report) => ({ from: report.firstDay }));
 */
export function jsonFrom<Model, S extends z.ZodType>(
  schema: S,
  fields: (model: Model) => Immutable<z.input<S>>,
): z.ZodType<z.output<S>, Model> {
  return z
    .custom<Model>()
    .transform(fields)
    .pipe(schema as never);
}

/**
 * The JSON of a value of the model. Throws an Error, which isn't a ZodError, if the value isn't what
 * its schema describes: then the program is wrong, not the request.
 *
 * @example toJson(siteJson, site) // { id: 1, name: 'Quillow Bee Yard', address: 'https://…' }
 */
export function toJson<S extends z.ZodType>(schema: S, model: Immutable<z.input<S>>): z.output<S> {
  const made = schema.safeParse(model);
  if (!made.success) throw new Error(`Not as described: ${z.prettifyError(made.error)}`);
  return made.data;
}
