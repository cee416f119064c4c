'use client';

import { useRouter } from 'next/navigation';
import { useRef } from 'react';
import { Controller } from 'react-hook-form';
import { changeEditSchema, newChangeSchema, type NewChangeInput } from '@/core/model/change';
import { MEASURE_NAMES, METRICS } from '@/core/measures/registry';
import { count } from '@/core/words/format';
import { suggestedKind } from '@/core/model/suggestedKind';
import { ADDRESS_KIND } from '@/core/model/movedAddress';
import type { Act } from '../kit/attempt';
import { EntityForm } from '../kit/EntityForm';
import { useEntityForm } from '../kit/useEntityForm';
import { Field } from '../kit/Field';
import { useToast } from '../kit/Toast';
import { routes } from '../shell/routes';
import {
  CHANGE_CODEC,
  fieldInWords,
  OWN_KIND,
  usualReviewDay,
  type ChangeFormValues,
  type PastedPages,
} from './formValues';
import { PartsField } from './PartsField';
import { PlainFields } from './PlainFields';
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
  const form = useEntityForm<ChangeFormValues, NewChangeInput, number>({
    ...draftOf(siteId, changeId, initial),
    ...{ initial, codec: CHANGE_CODEC, inWords: fieldInWords },
    ...{ schema: newChangeSchema, editSchema: changeEditSchema, editing: changeId !== null },
    send: (edit, base) =>
      changeId === null ? log(siteId, edit as NewChangeInput) : save(siteId, changeId, edit, base),
    done: (id, typed) => {
      if (changeId === null) rememberChoices(typed);
      say(changeId === null ? 'Logged.' : 'Saved.');
      router.push(routes.change(siteId, id ?? changeId!));
    },
  });
  const { register, setValue, getValues, watch, control, errorOf, busy, submit } = form;
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

  const unit = metric === 'position' ? 'places' : '%';
  return (
    <EntityForm
      form={form}
      draftName={({ title }) => title}
      heading={
        <h2 className="text-[1.6rem] leading-tight">
          {changeId === null ? 'Log a change' : 'Edit the change'}
        </h2>
      }
      onKeyDownCapture={(e) => {
        if (e.key !== 'Enter' || !(e.ctrlKey || e.metaKey)) return;
        // Before the list of pages takes it for a choice.
        e.stopPropagation();
        if (!busy) void submit(e);
      }}
      className="max-w-[46rem] px-5 pt-4 pb-10"
      buttons={
        <>
          <button type="submit" className="btn btn-primary" disabled={busy}>
            {changeId === null ? 'Log the change' : 'Save'}
          </button>
          <button
            type="button"
            className="btn btn-ghost"
            onClick={() => {
              // Given up on purpose.
              if (changeId !== null) form.draft.forget();
              router.back();
            }}
          >
            {changeId === null ? 'Not now' : 'Leave it as it was'}
          </button>
          <span className="muted text-[0.8rem]">
            Ctrl Enter {changeId === null ? 'logs' : 'saves'} it from any field. What you type is kept until
            then.
          </span>
        </>
      }
    >
      <Field label="What was changed" error={errorOf('title')}>
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
        error={errorOf('pages')}
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
        <Field label="Kind" error={errorOf('kind')}>
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
          <Field label="Name of the kind" error={errorOf('ownKind')}>
            {(c) => (
              <input {...c} {...register('ownKind')} className="input w-full" placeholder="Price table" />
            )}
          </Field>
        )}
        <Field label="Day" error={errorOf('day')}>
          {(c) => <FormDay {...c} control={control} name="day" />}
        </Field>
        <Field label="Who" error={errorOf('person')}>
          {(c) => <input {...c} {...register('person')} className="input w-full" placeholder="initials" />}
        </Field>
      </div>
      <BroughtSoFar siteId={siteId} kind={kind} ask={broughtSoFar} />
      <label className="flex items-baseline gap-2 text-[0.85rem]">
        <input type="checkbox" className="checkbox checkbox-sm translate-y-0.5" {...register('planned')} />
        still to be made: the day is the one it is planned for
      </label>
      <div className="grid gap-3 sm:grid-cols-2">
        <Field label={kind === ADDRESS_KIND ? 'Old address' : 'Old text'} error={errorOf('oldText')}>
          {(c) => <textarea {...c} {...register('oldText')} rows={2} className="textarea w-full" />}
        </Field>
        <Field
          label={kind === ADDRESS_KIND ? 'New address' : 'New text'}
          hint={
            kind === ADDRESS_KIND &&
            'Once it is logged, the two can be joined, so that the reading follows the page.'
          }
          error={errorOf('newText')}
        >
          {(c) => <textarea {...c} {...register('newText')} rows={2} className="textarea w-full" />}
        </Field>
      </div>
      <PartsField form={form} kinds={kinds} />

      <fieldset className="grid grid-cols-2 gap-3 sm:grid-cols-4">
        <legend className="mb-1 font-serif text-[1.1rem]">
          What is expected, written down before the result is known
        </legend>
        <Field label="Metric" error={errorOf('metric')}>
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
        <Field label="Direction" error={errorOf('direction')}>
          {(c) => (
            <select {...c} {...register('direction')} disabled={!metric} className="select w-full">
              <option value="up">{metric === 'position' ? 'up (better rank)' : 'up'}</option>
              <option value="down">{metric === 'position' ? 'down (worse rank)' : 'down'}</option>
            </select>
          )}
        </Field>
        <Field label={`By how much, in ${unit}`} error={errorOf('amount')}>
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
        <Field label="Review day" error={errorOf('reviewDay')}>
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
        <Field label="Queries it is about" hint="One a line; may be left out." error={errorOf('queries')}>
          {(c) => <textarea {...c} {...register('queries')} rows={2} className="textarea w-full" />}
        </Field>
        <PlainFields form={form} lines site={site} />
      </div>
      <div className="grid gap-3 sm:grid-cols-4">
        <Field label="Tags" error={errorOf('tags')}>
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
        <PlainFields form={form} lines={false} site={site} />
      </div>
    </EntityForm>
  );
}
