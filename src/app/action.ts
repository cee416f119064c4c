import { revalidatePath } from 'next/cache';
import { headers } from 'next/headers';
import { z } from 'zod';
import type { FormResult } from '@/ui/kit/formResult';
import { exceedsJsonLimits } from '@/core/parseJson';
import { authorize, authorizeInGeneral, audited, type Access } from '@/app/authorize';
import { askerNow } from '@/app/asker';
import { asFormResult } from '@/app/formResult';
import { Problem } from '@/app/problem';
import { resourceOf, type ResourceName, type Resources } from '@/app/resources';
import type { Principal } from '@/core/access/rights';
import { ACTION_HEADER } from '@/store/access/toldHeaders';
import { withAuditContext } from '@/store/acting';
import { markActionStarted } from '@/store/startedActions';
import { database, type Db } from '@/store/database';

/*
 * The one doorway of server actions. What a screen sends is as little to be trusted as what a script sends: it is checked by
 * schemas, and the site and the thing that it names are found before anything is done. A test walks all actions.
 */

/** What an action says of itself, so that a test can walk them all. */
export type Described = Access<ResourceName | 'nothing'> & { readonly args: readonly z.ZodType[] };

type Inputs<A extends readonly z.ZodType[]> = { [I in keyof A]: z.input<A[I]> };
type Outputs<A extends readonly z.ZodType[]> = { [I in keyof A]: z.output<A[I]> };
type Ids<S extends ResourceName> = S extends 'site' ? [siteId: number] : [siteId: number, id: number];

/** An action of a screen, with what it takes. */
export type Action<P extends readonly unknown[], T> = ((...asked: P) => Promise<FormResult<T>>) & {
  readonly described: Described;
};

const idSchema = z.int().positive();

type Work<S, A extends readonly z.ZodType[], T> = (
  asked: S & { db: Db; asker: Principal },
  ...args: Outputs<A>
) => Promise<T> | T;

/**
 * An action on a site, or on something of a site. It is called with their numbers and then with what the schemas describe; the
 * work is given the things themselves, and may throw InputError or Problem for what a person can mend.
 */
export function action<S extends ResourceName, const A extends readonly z.ZodType[], T>(
  wish: Access<S>,
  args: A,
  work: Work<Resources[S], A, T>,
): Action<[...Ids<S>, ...Inputs<A>], T> {
  return made(wish, args, work, true);
}

/** The same where the screen stays as it is: nothing is changed, or the component that asked keeps what it changed. */
export function question<S extends ResourceName, const A extends readonly z.ZodType[], T>(
  wish: Access<S>,
  args: A,
  work: Work<Resources[S], A, T>,
): Action<[...Ids<S>, ...Inputs<A>], T> {
  return made(wish, args, work, false);
}

function made<S extends ResourceName, const A extends readonly z.ZodType[], T>(
  wish: Access<S>,
  args: A,
  work: Work<Resources[S], A, T>,
  redraws: boolean,
): Action<[...Ids<S>, ...Inputs<A>], T> {
  const { on } = wish;
  const run = async (...asked: unknown[]) =>
    answered(redraws, async () => {
      const db = database();
      const asker = await askerNow();
      const siteId = idSchema.safeParse(asked[0]).data ?? -1;
      const id = on === 'site' ? siteId : (idSchema.safeParse(asked[1]).data ?? -1);
      const subject = authorize(
        db,
        asker,
        wish,
        id,
        `There is no such ${resourceOf(on).name} any more.`,
        siteId,
      );
      const given = parsed(args, asked.slice(on === 'site' ? 1 : 2));
      return audited(asker, wish, id, subject, () => work({ ...subject, db, asker }, ...given));
    });
  return Object.assign(run as (...asked: [...Ids<S>, ...Inputs<A>]) => Promise<FormResult<T>>, {
    described: { ...wish, args } as Described,
  });
}

/** An action that is about nothing of a site. */
export function actionOnNothing<const A extends readonly z.ZodType[], T>(
  wish: Omit<Access<'nothing'>, 'on'>,
  args: A,
  work: Work<object, A, T>,
): Action<Inputs<A>, T> {
  const run = async (...asked: unknown[]) =>
    answered(true, async () => {
      const asker = await askerNow();
      authorizeInGeneral(asker, wish.may);
      const given = parsed(args, asked);
      return withAuditContext(
        { asker, auditAction: wish.auditAction ?? null, siteId: null, thing: null },
        () => work({ db: database(), asker }, ...given),
      );
    });
  return Object.assign(run as (...asked: Inputs<A>) => Promise<FormResult<T>>, {
    described: { on: 'nothing' as const, ...wish, args } as Described,
  });
}

/** Throws ZodError; its paths are those of the fields of the form. */
function parsed<A extends readonly z.ZodType[]>(args: A, asked: readonly unknown[]): Outputs<A> {
  if (asked.length > args.length) throw new Problem(422, 'There is more than was asked for.');
  if (exceedsJsonLimits(asked)) throw new Problem(400, 'The data sent is nested too deeply or too large.');
  return args.map((schema, i) => schema.parse(asked[i])) as unknown as Outputs<A>;
}

async function answered<T>(redraws: boolean, work: () => Promise<T> | T): Promise<FormResult<T>> {
  markActionStarted((await headers()).get(ACTION_HEADER));
  try {
    const result = await asFormResult(async () => work());
    if (result.ok && redraws) revalidatePath('/', 'layout');
    return result;
  } catch (error) {
    console.error(error);
    const message = 'Something went wrong in the program itself; the log of the server says more.';
    return { ok: false, errors: [{ field: 'root', message }] };
  }
}
