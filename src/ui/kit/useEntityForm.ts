'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import { useEffect, useRef, type SyntheticEvent } from 'react';
import {
  get,
  set,
  useForm,
  type DefaultValues,
  type FieldErrors,
  type FieldValues,
  type Path,
  type Resolver,
  type UseFormReturn,
} from 'react-hook-form';
import type { ZodType } from 'zod';
import { editedFields, fieldsOf } from '@/core/model/edits';
import { attempt } from './attempt';
import type { FormResult } from './formResult';
import { useDraft, type Kept } from './useDraft';
import { useEditConflict } from './useEditConflict';

/** Where values are typed otherwise than they are sent: how to get from one to the other. */
export type FormCodec<Typed, Sent> = {
  readonly toSent: (typed: Typed) => Sent;
  readonly toTyped: (sent: Sent) => Typed;
  /** The field in which a complaint about a field that is sent is shown; the same by default. */
  readonly fieldOf?: (field: string, typed: Typed) => string;
  /** The fields in which a field that is sent is typed; the same by default. */
  readonly typedIn?: (field: string) => readonly (keyof Typed & string)[];
};

/** The codec of a form whose values are sent as they are typed. */
export const AS_TYPED = {
  toSent: <T>(typed: T): T => typed,
  toTyped: <T>(sent: T): T => sent,
};

type Options<Typed extends FieldValues, Sent extends object, Result> = {
  /** What the form is about, under which its draft is kept: `change:12`; null keeps none. */
  readonly what: string | null;
  /** What is saved, as it is typed. */
  readonly initial: Typed;
  /** What a new form begins with in this browser. */
  readonly begin?: (() => Typed) | undefined;
  /** What of the form its draft keeps; all of it by default. */
  readonly draftOf?: (typed: Typed) => Typed;
  readonly codec: FormCodec<Typed, Sent>;
  /** Checks all that the form says. */
  readonly schema: ZodType;
  /** Checks the edited fields alone in its place, where others may hold what is no longer allowed. */
  readonly editSchema?: ZodType;
  /**
   * Saves it. Of something that is there, `edit` has the fields that were changed, and `base` the
   * same fields as they were when the edit began; of something new, `edit` is all of it. `whole` has
   * both with all of their fields.
   */
  readonly send: (
    edit: Partial<Sent>,
    base: Partial<Sent>,
    whole: { readonly given: Sent; readonly base: Sent },
  ) => Promise<FormResult<Result>>;
  /** Whether something that is there is edited, rather than made. */
  readonly editing: boolean;
  /** Done after saving; null where nothing had been changed. */
  readonly done: (result: Result | null, typed: Typed) => void;
  /** A field's label and value, for choosing between two versions. Only needed when editing. */
  readonly inWords?: (field: string, typed: Typed) => { readonly name: string; readonly text: string };
};

export type EntityForm<Typed extends FieldValues> = UseFormReturn<Typed> & {
  readonly submit: (event?: SyntheticEvent) => Promise<void>;
  /** The complaint about a field. */
  readonly errorOf: (field: string) => string | undefined;
  readonly busy: boolean;
  readonly draft: Kept<Typed>;
  readonly conflict: ReturnType<typeof useEditConflict>;
  readonly choose: (field: string, choice: 'mine' | 'theirs') => void;
};

/** Said where somebody saves before having chosen. */
export const CHOOSE_FIRST = 'Choose first what shall stand, above.';

/**
 * A form for something that is stored: checks by a schema, focuses the first field that is wrong, keeps
 * what is typed until it is saved, and where somebody else changed the same fields meanwhile, offers
 * both versions.
 */
export function useEntityForm<Typed extends FieldValues, Sent extends object, Result>(
  options: Options<Typed, Sent, Result>,
): EntityForm<Typed> {
  const { what, initial, begin, codec, schema, editSchema, editing } = options;
  const fieldOf = codec.fieldOf ?? ((field) => field.split('.')[0]!);
  const inWords = options.inWords ?? ((field) => ({ name: field, text: '' }));
  const typedIn = codec.typedIn ?? ((field: string) => [field as keyof Typed & string]);
  /** What is edited from: as saved when the edit began, and in contested fields as saved by somebody else since. */
  const base = useRef(initial);
  /** What this person had typed when somebody else's edit was met. */
  const mine = useRef(initial);
  const conflict = useEditConflict();

  const sentOf = (typed: Typed): Partial<Sent> =>
    editing ? editedFields(codec.toSent(base.current), codec.toSent(typed)) : codec.toSent(typed);
  const resolver: Resolver<Typed> = async (typed, context, resolverOptions) => {
    const edit = sentOf(typed);
    if (editing && Object.keys(edit).length === 0) return { values: typed, errors: {} };
    const [by, checked] = editing && editSchema ? [editSchema, edit] : [schema, codec.toSent(typed)];
    const check = zodResolver(by as never) as unknown as Resolver<FieldValues>;
    const { errors } = await check(checked, context, resolverOptions as never);
    const problems: FieldErrors<Typed> = {};
    for (const [field, error] of Object.entries(errors))
      set(problems, fieldOf(pathOf(field, error), typed), firstError(error));
    return Object.keys(problems).length === 0
      ? { values: typed, errors: {} }
      : { values: {}, errors: problems };
  };
  const form = useForm<Typed>({ defaultValues: initial as DefaultValues<Typed>, resolver });
  const { watch, reset, setValue, setError, handleSubmit, formState } = form;

  const draft = useDraft<Typed>({
    ...{ what: what ?? '', base: initial },
    ...(begin ? { begin } : {}),
    show: (typed, from) => {
      base.current = from;
      reset({ ...initial, ...typed } as DefaultValues<Typed>);
    },
  });
  const { keep, forget } = draft;
  const draftOf = useRef(options.draftOf);
  useEffect(() => {
    if (what === null) return;
    const { unsubscribe } = watch((typed) => keep((draftOf.current ?? ((all) => all))(typed as Typed)));
    return unsubscribe;
  }, [watch, keep, what]);

  const saved = (result: Result | null, typed: Typed) => {
    base.current = typed;
    conflict.over();
    forget(typed);
    options.done(result, typed);
  };
  const submit = handleSubmit(async (values) => {
    const typed = values as Typed;
    if (conflict.open) return setError('root', { message: CHOOSE_FIRST });
    const edit = sentOf(typed);
    if (editing && Object.keys(edit).length === 0) return saved(null, typed);
    const whole = { given: codec.toSent(typed), base: codec.toSent(base.current) };
    const from = editing ? fieldsOf(whole.base, Object.keys(edit)) : {};
    const result = await attempt(() => options.send(edit, from, whole));
    if (result.ok) return saved(result.value, typed);
    if (!result.meanwhile) {
      result.errors.forEach(({ field, message }, i) =>
        setError(
          (field === '' ? 'root' : fieldOf(field, typed)) as Path<Typed>,
          { message },
          { shouldFocus: i === 0 },
        ),
      );
      return;
    }
    const theirs = codec.toTyped(result.meanwhile.now as Sent);
    conflict.begin(result.meanwhile, (field) => {
      const { name, text } = inWords(field, typed);
      return { name, mine: text, theirs: inWords(field, theirs).text };
    });
    mine.current = typed;
    // What they wrote is known now; whatever is chosen is chosen over it.
    base.current = { ...base.current, ...fieldsOf(theirs, result.meanwhile.fields.flatMap(typedIn)) };
  });

  return {
    ...form,
    ...{ submit, draft, conflict },
    busy: formState.isSubmitting,
    errorOf: (field) => (get(formState.errors, field) as { message?: string } | undefined)?.message,
    choose: (field, choice) => {
      const from = choice === 'mine' ? mine.current : base.current;
      for (const name of typedIn(field)) setValue(name as unknown as Path<Typed>, from[name]);
    },
  };
}

type Problem = { readonly message?: string; readonly type?: unknown } & Record<string, unknown>;

/** The first complaint about a field, or about something in it. */
function firstError(error: unknown): Problem | undefined {
  const problem = error as Problem;
  if (typeof problem?.message === 'string') return problem;
  return Object.values(problem ?? {})
    .map((inner) => (typeof inner === 'object' ? firstError(inner) : undefined))
    .find(Boolean);
}

/** The path of that complaint: `expectation.amount`. */
function pathOf(field: string, error: unknown): string {
  const problem = error as Problem;
  if (typeof problem?.message === 'string') return field;
  const inner = Object.entries(problem ?? {}).find(([, one]) => typeof one === 'object' && firstError(one));
  return inner ? pathOf(`${field}.${inner[0]}`, inner[1]) : field;
}
