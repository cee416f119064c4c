'use client';

import { useRouter } from 'next/navigation';
import { newReportSchema, type ReportScope } from '@/core/model/report';
import {
  LEFT_OUT,
  REPORT_INKS,
  REPORT_PARTS,
  type LeftOutOfReport,
  type ReportInk,
  type ReportPartKey,
  type ReportWords,
} from '@/core/model/reportContent';
import type { Act } from '../kit/attempt';
import { Field } from '../kit/Field';
import { useToast } from '../kit/Toast';
import { routes } from '../shell/routes';
import { ChangeChoice, type ChangeOffered } from './ChangeChoice';
import { DayRangeField } from '../kit/dates/DayRangeField';
import { EntityForm } from '../kit/EntityForm';
import { AS_TYPED, useEntityForm } from '../kit/useEntityForm';
import { DropBox } from '../kit/DropBox';
import { SortableList } from '../kit/SortableList';

/** A report as its form holds it. */
export type ReportValues = {
  title: string;
  from: string;
  to: string;
  scope: ReportScope;
  parts: ReportPartKey[];
  leaveOut: LeftOutOfReport[];
  words: ReportWords;
  ink: ReportInk;
  logo: string | null;
};

type Props = {
  siteId: number;
  initial: ReportValues;
  scopes: readonly { readonly name: string; readonly scope: ReportScope }[];
  changes: readonly ChangeOffered[];
  /** What the form is about, by which its draft is kept. */
  what: string;
  /** Keeps a new report, or edits one from what it said when that began. */
  save:
    | { readonly make: Act<[values: ReportValues], number> }
    | { readonly id: number; readonly edit: Act<[values: ReportValues, base: ReportValues], number> };
  button: string;
};

const INK_NAMES: Readonly<Record<ReportInk, string>> = {
  ink: 'ink',
  petrol: 'petrol',
  rust: 'rust',
  ochre: 'ochre',
};
/** Stands for changes that are chosen one by one. */
const CHOSEN = 'chosen';
const MOST_LOGO_BYTES = 200_000;

const FIELD_NAMES: Readonly<Record<keyof ReportValues, string>> = {
  ...{ title: 'Title', from: 'From', to: 'To', scope: 'About', parts: 'Parts' },
  ...{ leaveOut: 'Left out', words: 'Your remarks', ink: 'Colour', logo: 'Logo' },
};

/** What stands in a field, for somebody who has to choose between two. */
function fieldText(field: keyof ReportValues, values: ReportValues): string {
  if (field === 'logo') return values.logo === null ? 'no logo' : 'a logo';
  if (field === 'parts') return values.parts.map((key) => REPORT_PARTS[key]).join(', ');
  if (field === 'leaveOut') return values.leaveOut.map((key) => LEFT_OUT[key]).join(', ');
  if (field === 'words')
    return Object.values(values.words)
      .flatMap(({ before, after }) => [before, after])
      .filter((text) => text !== '')
      .join('\n');
  const value = values[field];
  return typeof value === 'string' ? value : JSON.stringify(value);
}

/** A complaint about the chosen changes stands with their list. */
const REPORT_CODEC = {
  ...AS_TYPED,
  fieldOf: (field: string) => (field.startsWith('scope.') ? 'scope.changeIds' : field.split('.')[0]!),
};

/** What a report is about, which parts it has in which order, one's own words, and how it looks. */
export function ReportForm({ siteId, initial, scopes, changes, what, save, button }: Props) {
  const say = useToast();
  const router = useRouter();
  const form = useEntityForm<ReportValues, ReportValues, number>({
    ...{ what, initial, codec: REPORT_CODEC, schema: newReportSchema, editing: 'edit' in save },
    // A logo is as large as all else that is typed anywhere: it is chosen again.
    draftOf: (typed) => ({ ...typed, logo: initial.logo }),
    send: (_, __, { given, base }) => ('make' in save ? save.make(given) : save.edit(given, base)),
    inWords: (field, typed) => ({
      name: FIELD_NAMES[field as keyof ReportValues],
      text: fieldText(field as keyof ReportValues, typed),
    }),
    done: (id) => {
      say('The report is kept.');
      router.push(routes.report(siteId, id ?? ('id' in save ? save.id : 0)));
    },
  });
  const { register, setValue, setError, clearErrors, errorOf } = form;
  const values = form.watch();
  const set = (edit: Partial<ReportValues>) => {
    for (const [name, value] of Object.entries(edit)) setValue(name as keyof ReportValues, value);
  };
  const rest = (Object.keys(REPORT_PARTS) as ReportPartKey[]).filter((key) => !values.parts.includes(key));
  const wordsOf = (key: ReportPartKey) => values.words[key] ?? { before: '', after: '' };
  const setWords = (key: ReportPartKey, edit: Partial<{ before: string; after: string }>) =>
    set({ words: { ...values.words, [key]: { ...wordsOf(key), ...edit } } });
  const chooseLogo = async (file: File | undefined) => {
    if (!file) return;
    if (file.size > MOST_LOGO_BYTES)
      return setError('logo', { message: 'The logo is too large: at most 200 kB.' });
    const reader = new FileReader();
    reader.onload = () => {
      clearErrors('logo');
      set({ logo: String(reader.result) });
    };
    reader.readAsDataURL(file);
  };
  return (
    <EntityForm
      form={form}
      draftName={({ title }) => title}
      className="max-w-4xl"
      body="space-y-4"
      buttons={
        <button type="submit" className="btn btn-primary btn-sm" disabled={form.busy}>
          {button}
        </button>
      }
    >
      <Field label="Title" error={errorOf('title')}>
        {(c) => <input {...c} {...register('title')} className="input w-full" maxLength={200} />}
      </Field>
      <div className="flex flex-wrap gap-4">
        <Field label="About" error={errorOf('scope')} className="w-72">
          {(c) => (
            <select
              {...c}
              className="select w-full"
              value={values.scope.kind === 'changes' ? CHOSEN : JSON.stringify(values.scope)}
              onChange={(e) =>
                set({
                  scope:
                    e.target.value === CHOSEN
                      ? { kind: 'changes', changeIds: [] }
                      : (JSON.parse(e.target.value) as ReportScope),
                })
              }
            >
              {scopes.map(({ name, scope }) => (
                <option key={name} value={JSON.stringify(scope)}>
                  {name}
                </option>
              ))}
              <option value={CHOSEN}>changes that I choose</option>
            </select>
          )}
        </Field>
        <Field label="Days" error={errorOf('from') ?? errorOf('to')}>
          {({ id }) => (
            <DayRangeField
              id={id}
              labels={['From', 'To']}
              invalid={{ from: Boolean(errorOf('from')), to: Boolean(errorOf('to')) }}
              value={values}
              onChange={(days) => set(days)}
            />
          )}
        </Field>
      </div>
      {values.scope.kind === 'changes' && (
        <ChangeChoice
          changes={changes}
          chosen={values.scope.changeIds}
          choose={(changeIds) => set({ scope: { kind: 'changes', changeIds } })}
          error={errorOf('scope.changeIds')}
        />
      )}
      <fieldset>
        <legend className="text-[0.85rem] font-semibold">Parts, in their order</legend>
        {errorOf('parts') && <p className="text-[0.85rem] font-medium text-error">{errorOf('parts')}</p>}
        <SortableList
          keys={values.parts}
          nameOf={(key) => REPORT_PARTS[key]}
          onOrder={(parts) => set({ parts })}
          actions={(key) => (
            <button
              type="button"
              aria-label={`Leave out: ${REPORT_PARTS[key]}`}
              className="inline-link min-h-7 px-1"
              onClick={() => set({ parts: values.parts.filter((one) => one !== key) })}
            >
              Leave out
            </button>
          )}
        >
          {(key) => (
            <>
              <span className="leading-7">{REPORT_PARTS[key]}</span>
              <details className="text-[0.85rem]">
                <summary className="muted min-h-7">
                  your own words {wordsOf(key).before || wordsOf(key).after ? '(some)' : ''}
                </summary>
                <div className="grid gap-2 py-1 md:grid-cols-2">
                  {(['before', 'after'] as const).map((place) => (
                    <label key={place}>
                      {place} “{REPORT_PARTS[key]}”
                      <textarea
                        rows={3}
                        maxLength={10_000}
                        className="textarea w-full"
                        value={wordsOf(key)[place]}
                        onChange={(e) => setWords(key, { [place]: e.target.value })}
                      />
                    </label>
                  ))}
                </div>
              </details>
            </>
          )}
        </SortableList>
        {rest.length > 0 && (
          <p className="mt-1 text-[0.9rem]">
            Left out:{' '}
            {rest.map((key) => (
              <button
                key={key}
                type="button"
                className="inline-link mr-3 min-h-6"
                onClick={() => set({ parts: [...values.parts, key] })}
              >
                {REPORT_PARTS[key]}
              </button>
            ))}
          </p>
        )}
      </fieldset>
      <fieldset>
        <legend className="text-[0.85rem] font-semibold">Not for a reader from outside</legend>
        {(Object.keys(LEFT_OUT) as LeftOutOfReport[]).map((key) => (
          <label key={key} className="mr-5 inline-flex items-baseline gap-2 text-[0.93rem]">
            <input
              type="checkbox"
              className="checkbox checkbox-xs translate-y-0.5"
              checked={values.leaveOut.includes(key)}
              onChange={() =>
                set({
                  leaveOut: values.leaveOut.includes(key)
                    ? values.leaveOut.filter((one) => one !== key)
                    : [...values.leaveOut, key],
                })
              }
            />
            leave out {LEFT_OUT[key]}
          </label>
        ))}
      </fieldset>
      <div className="flex flex-wrap items-start gap-4">
        <Field label="Colour" className="w-36">
          {(c) => (
            <select
              {...c}
              className="select w-full"
              value={values.ink}
              onChange={(e) => set({ ink: e.target.value as ReportInk })}
            >
              {(Object.keys(REPORT_INKS) as ReportInk[]).map((one) => (
                <option key={one} value={one}>
                  {INK_NAMES[one]}
                </option>
              ))}
            </select>
          )}
        </Field>
        <Field
          label="Logo"
          hint="PNG, JPEG or WebP, at most 200 kB."
          error={errorOf('logo')}
          className="w-80"
        >
          {(c) => (
            <DropBox
              {...c}
              accept="image/png,image/jpeg,image/webp"
              onFiles={([file]) => void chooseLogo(file)}
            >
              {values.logo ? 'Choose another image, or drop it here' : 'Choose an image, or drop it here'}
            </DropBox>
          )}
        </Field>
        {values.logo && (
          <button type="button" className="inline-link mt-7" onClick={() => set({ logo: null })}>
            No logo
          </button>
        )}
      </div>
    </EntityForm>
  );
}
