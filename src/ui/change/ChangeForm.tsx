'use client';

import { useRouter } from 'next/navigation';
import { useRef } from 'react';
import { Controller, useForm } from 'react-hook-form';
import { changeEditSchema, newChangeSchema, type NewChangeInput } from '@/core/model/change';
import { MEASURE_NAMES, METRICS } from '@/core/measures/registry';
import { editedFields, fieldsOf } from '@/core/model/edits';
import { count } from '@/core/words/format';
import { suggestedKind } from '@/core/model/suggestedKind';
import { ADDRESS_KIND } from '@/core/model/movedAddress';
import { attempt, type Act } from '../kit/attempt';
import { DraftNote } from '../kit/DraftNote';
import { Field } from '../kit/Field';
import { FormBody } from '../kit/FormBody';
import type { FormResult } from '../kit/formResult';
import { EditConflictChoice } from '../kit/EditConflictChoice';
import { useToast } from '../kit/Toast';
import { CHOOSE_FIRST, useEdit } from '../kit/useEdit';
import { routes } from '../shell/routes';
import {
  fieldInWords,
  formField,
  inputOf,
  OWN_KIND,
  typedIn,
  usualReviewDay,
  type ChangeFormValues,
  type PastedPages,
} from './formValues';
import { PartsField } from './PartsField';
import { FORESEEN_BY, useForesight, useOverlaps, type Foresee, type InTheWay } from './useFormAdvice';
import { BroughtSoFar, type AskBrought } from './BroughtSoFar';
import { PagePicker, type PageChoice } from './PagePicker';
import { draftOf, rememberChoices } from './changeDraft';
import { FormDay } from '../kit/dates/FormDay';

type Props = {
  siteId: number;
  /** Null for a new change. */
  changeId: number | null;
  initial: ChangeFormValues;
  knownPages: readonly PageChoice[];
  kinds: readonly { value: string; name: string }[];
  knownTags: readonly string[];
  site: { windowDays: number; settlingDays: number };
  log: Act<[siteId: number, input: NewChangeInput], number>;
  /** Saves those fields that were changed, from what stood there when the edit began. */
  save: Act<
    [siteId: number, changeId: number, edit: Partial<NewChangeInput>, base: Record<string, unknown>],
    number
  >;
  /** A sentence for each other change that could not be told apart from one on these pages and day. */
  inTheWay: InTheWay;
  /** A sentence on whether the pages could show what is expected by the review; null where nothing is. */
  foresee: Foresee;
  broughtSoFar: AskBrought;
};

/** Logs a change, or edits one. */
export function ChangeForm(props: Props) {
  const { siteId, changeId, initial, knownPages, kinds, knownTags, site, log, save } = props;
  const { inTheWay, foresee, broughtSoFar } = props;
  const router = useRouter();
  const say = useToast();
  const form = useForm<ChangeFormValues>({ defaultValues: initial });
  const { base, kept, meanwhile, met, choose, saved } = useEdit(form, {
    ...draftOf(siteId, changeId, initial),
    ...{ initial, typedIn },
    inWords: fieldInWords,
  });
  const { register, handleSubmit, setError, setValue, getValues, watch, control } = form;
  const { errors, isSubmitting } = form.formState;
  const kindChosen = useRef(false);
  const metric = watch('metric');
  const kind = watch('kind');
  const [pages, day] = watch(['pages', 'day']);
  const warnings = useOverlaps(inTheWay, siteId, changeId, pages, day);
  const foreseen = useForesight(foresee, siteId, watch(FORESEEN_BY));
  /** Texts pasted with a list of pages; those of pages that had some already are replaced. */
  const takeTexts = (texts: PastedPages['texts']) => {
    const others = getValues('parts').filter(({ page }) => !texts.some((text) => text.page === page));
    const partKind = getValues('kind') === OWN_KIND ? 'title-rewrite' : getValues('kind');
    setValue('parts', [...others, ...texts.map((text) => ({ kind: partKind, ...text }))]);
  };

  /** Texts of pages that are taken off go with them. */
  const takeOff = (before: readonly string[], after: readonly string[]) => {
    const left = new Set(after);
    const gone = new Set(before.filter((page) => !left.has(page)));
    if (gone.size > 0)
      setValue(
        'parts',
        getValues('parts').filter(({ page }) => !gone.has(page)),
      );
  };

  const complain = (problems: readonly { field: string; message: string }[]) => {
    problems.forEach(({ field, message }, i) =>
      setError(formField(field, getValues('kind') === OWN_KIND), { message }, { shouldFocus: i === 0 }),
    );
  };

  const submit = handleSubmit(async (values) => {
    if (meanwhile.open) {
      complain([{ field: '', message: CHOOSE_FIRST }]);
      return;
    }
    const result = changeId === null ? await sendNew(values) : await sendEdit(changeId, values);
    if (!result.ok) {
      if (result.meanwhile) met(result.meanwhile, values);
      else complain(result.errors);
      return;
    }
    saved(values);
    if (changeId === null) rememberChoices(values);
    say(changeId === null ? 'Logged.' : 'Saved.');
    router.push(routes.change(siteId, result.value));
  });

  const sendNew = async (values: ChangeFormValues): Promise<FormResult<number>> => {
    const checked = newChangeSchema.safeParse(inputOf(values));
    return checked.success ? attempt(() => log(siteId, inputOf(values))) : complaints(checked.error);
  };
  const sendEdit = async (id: number, values: ChangeFormValues): Promise<FormResult<number>> => {
    const [before, wished] = [inputOf(base.current), inputOf(values)];
    const edit = editedFields<NewChangeInput>(before, wished);
    if (Object.keys(edit).length === 0) return { ok: true, value: id };
    const checked = changeEditSchema.safeParse(edit);
    return checked.success
      ? attempt(() => save(siteId, id, edit, fieldsOf(before, Object.keys(edit))))
      : complaints(checked.error);
  };

  const unit = metric === 'position' ? 'places' : '%';
  return (
    <form
      onSubmit={(e) => void submit(e)}
      onKeyDownCapture={(e) => {
        if (e.key !== 'Enter' || !(e.ctrlKey || e.metaKey)) return;
        // Before the list of pages takes it for a choice.
        e.stopPropagation();
        if (!isSubmitting) void submit(e);
      }}
      noValidate
      className="max-w-[46rem] px-5 pt-4 pb-10"
    >
      <FormBody className="space-y-3">
        <h2 className="text-[1.6rem] leading-tight">
          {changeId === null ? 'Log a change' : 'Edit the change'}
        </h2>
        <DraftNote kept={kept} nameOf={({ title }) => title} />

        <Field label="What was changed" error={errors.title?.message}>
          {(c) => (
            <input
              {...c}
              {...register('title', {
                // A new change takes the type that its words suggest, until somebody chooses one.
                onChange: () => {
                  const kind = suggestedKind(getValues('title'));
                  const open = changeId === null && initial.title === '' && !kindChosen.current;
                  if (open && kind && kinds.some(({ value }) => value === kind)) setValue('kind', kind);
                },
              })}
              autoFocus
              className="input w-full"
              placeholder="Shorter title on the smoker guide"
            />
          )}
        </Field>
        <Field
          label="Pages"
          hint={pages.length === 0 ? 'The clicks are those of the last 28 days.' : undefined}
          error={errors.pages?.message}
        >
          {(c) => (
            <Controller
              control={control}
              name="pages"
              render={({ field }) => (
                <PagePicker
                  id={c.id}
                  describedBy={c['aria-describedby']}
                  invalid={c['aria-invalid']}
                  value={field.value}
                  onChange={(next) => {
                    takeOff(field.value, next);
                    field.onChange(next);
                  }}
                  known={knownPages}
                  onTexts={takeTexts}
                />
              )}
            />
          )}
        </Field>
        {warnings.length > 0 && (
          <ul role="status" className="border-l-3 border-(--band) pl-3 text-[0.9rem]">
            {warnings.map((warning) => (
              <li key={warning}>{warning}</li>
            ))}
          </ul>
        )}
        <div className="grid gap-3 sm:grid-cols-3">
          <Field label="Kind" error={errors.kind?.message}>
            {(c) => (
              <select
                {...c}
                {...register('kind', { onChange: () => (kindChosen.current = true) })}
                className="select w-full"
              >
                {kinds.map(({ value, name }) => (
                  <option key={value} value={value}>
                    {name}
                  </option>
                ))}
                <option value={OWN_KIND}>another kind …</option>
              </select>
            )}
          </Field>
          {kind === OWN_KIND && (
            <Field label="Name of the kind" error={errors.ownKind?.message}>
              {(c) => (
                <input {...c} {...register('ownKind')} className="input w-full" placeholder="Price table" />
              )}
            </Field>
          )}
          <Field label="Day" error={errors.day?.message}>
            {(c) => <FormDay {...c} control={control} name="day" />}
          </Field>
          <Field label="Who" error={errors.person?.message}>
            {(c) => <input {...c} {...register('person')} className="input w-full" placeholder="initials" />}
          </Field>
        </div>
        <BroughtSoFar siteId={siteId} kind={kind} ask={broughtSoFar} />
        <label className="flex items-baseline gap-2 text-[0.85rem]">
          <input type="checkbox" className="checkbox checkbox-sm translate-y-0.5" {...register('planned')} />
          still to be made: the day is the one it is planned for
        </label>
        <div className="grid gap-3 sm:grid-cols-2">
          <Field label={kind === ADDRESS_KIND ? 'Old address' : 'Old text'} error={errors.oldText?.message}>
            {(c) => <textarea {...c} {...register('oldText')} rows={2} className="textarea w-full" />}
          </Field>
          <Field
            label={kind === ADDRESS_KIND ? 'New address' : 'New text'}
            hint={
              kind === ADDRESS_KIND &&
              'Once it is logged, the two can be joined, so that the reading follows the page.'
            }
            error={errors.newText?.message}
          >
            {(c) => <textarea {...c} {...register('newText')} rows={2} className="textarea w-full" />}
          </Field>
        </div>
        <PartsField form={form} kinds={kinds} />

        <fieldset className="grid grid-cols-2 gap-3 sm:grid-cols-4">
          <legend className="mb-1 font-serif text-[1.1rem]">
            What is expected, written down before the result is known
          </legend>
          <Field label="Metric" error={errors.metric?.message}>
            {(c) => (
              <select
                {...c}
                {...register('metric', {
                  onChange: () => {
                    if (getValues('metric') && !getValues('reviewDay'))
                      setValue('reviewDay', usualReviewDay(getValues('day')));
                  },
                })}
                className="select w-full"
              >
                <option value="">nothing stated</option>
                {METRICS.map((m) => (
                  <option key={m} value={m}>
                    {MEASURE_NAMES[m]}
                  </option>
                ))}
              </select>
            )}
          </Field>
          <Field label="Direction" error={errors.direction?.message}>
            {(c) => (
              <select {...c} {...register('direction')} disabled={!metric} className="select w-full">
                <option value="up">{metric === 'position' ? 'up (better rank)' : 'up'}</option>
                <option value="down">{metric === 'position' ? 'down (worse rank)' : 'down'}</option>
              </select>
            )}
          </Field>
          <Field label={`By how much, in ${unit}`} error={errors.amount?.message}>
            {(c) => (
              <input
                {...c}
                {...register('amount')}
                disabled={!metric}
                inputMode="decimal"
                className="input w-full"
                placeholder={metric ? '25' : ''}
              />
            )}
          </Field>
          <Field label="Review day" error={errors.reviewDay?.message}>
            {(c) => <FormDay {...c} control={control} name="reviewDay" disabled={!metric} />}
          </Field>
        </fieldset>
        {initial.opening && (
          <p className="muted text-[0.9rem]">
            The opening’s estimate is +{count(initial.opening.clicks)} clicks a month (likely{' '}
            {count(initial.opening.low)} to {count(initial.opening.high)}) if the whole gap closes. The amount
            above is what this type of change has brought here so far
            {initial.amount === '' ? '; too few have been read to fill it in' : ''}.
          </p>
        )}
        {foreseen && (
          <p role="status" className="text-[0.9rem]">
            {foreseen}
          </p>
        )}

        <div className="grid gap-3 sm:grid-cols-2">
          <Field
            label="Queries it is about"
            hint="One a line; may be left out."
            error={errors.queries?.message}
          >
            {(c) => <textarea {...c} {...register('queries')} rows={2} className="textarea w-full" />}
          </Field>
          <Field label="Note" error={errors.note?.message}>
            {(c) => <textarea {...c} {...register('note')} rows={2} className="textarea w-full" />}
          </Field>
        </div>
        <div className="grid gap-3 sm:grid-cols-4">
          <Field label="Tags" error={errors.tags?.message}>
            {(c) => (
              <>
                <input
                  {...c}
                  {...register('tags')}
                  list="known-tags"
                  className="input w-full"
                  placeholder="autumn round, …"
                />
                <datalist id="known-tags">
                  {knownTags.map((tag) => (
                    <option key={tag} value={tag} />
                  ))}
                </datalist>
              </>
            )}
          </Field>
          <Field label="Ticket or other link" error={errors.link?.message}>
            {(c) => (
              <input
                {...c}
                {...register('link')}
                type="url"
                className="input w-full"
                placeholder="https://…"
              />
            )}
          </Field>
          <Field label="Days in each span" error={errors.windowDays?.message}>
            {(c) => (
              <input
                {...c}
                {...register('windowDays')}
                inputMode="numeric"
                className="input w-full"
                placeholder={`${site.windowDays}, as the site`}
              />
            )}
          </Field>
          <Field label="Settling days" error={errors.settlingDays?.message}>
            {(c) => (
              <input
                {...c}
                {...register('settlingDays')}
                inputMode="numeric"
                className="input w-full"
                placeholder={`${site.settlingDays}, as the site`}
              />
            )}
          </Field>
        </div>

        <EditConflictChoice meanwhile={meanwhile} onChoose={choose} />
        {errors.root?.message && (
          <p role="alert" className="text-error">
            {errors.root.message}
          </p>
        )}
        <div className="flex items-center gap-3 pt-1">
          <button type="submit" className="btn btn-primary" disabled={isSubmitting}>
            {changeId === null ? 'Log the change' : 'Save'}
          </button>
          <button
            type="button"
            className="btn btn-ghost"
            onClick={() => {
              // Given up on purpose.
              if (changeId !== null) kept.forget();
              router.back();
            }}
          >
            {changeId === null ? 'Not now' : 'Leave it as it was'}
          </button>
          <span className="muted text-[0.8rem]">
            Ctrl Enter {changeId === null ? 'logs' : 'saves'} it from any field. What you type is kept until
            then.
          </span>
        </div>
      </FormBody>
    </form>
  );
}

function complaints(error: {
  issues: readonly { path: PropertyKey[]; message: string }[];
}): FormResult<never> {
  const errors = error.issues.map(({ path, message }) => ({ field: path.join('.'), message }));
  return { ok: false, errors };
}
