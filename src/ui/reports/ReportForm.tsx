'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { ReportScope } from '@/core/model/report';
import {
  LEFT_OUT,
  REPORT_INKS,
  REPORT_PARTS,
  type LeftOutOfReport,
  type ReportInk,
  type ReportPartKey,
  type ReportWords,
} from '@/core/model/reportContent';
import { DraftNote } from '../kit/DraftNote';
import type { Act } from '../kit/attempt';
import { Field } from '../kit/Field';
import { EditConflictChoice } from '../kit/EditConflictChoice';
import { useToast } from '../kit/Toast';
import { useAct } from '../kit/useAct';
import { useConflict } from '../kit/useConflict';
import { useDraft } from '../kit/useDraft';
import { routes } from '../shell/routes';
import { ChangeChoice, type ChangeOffered } from './ChangeChoice';
import { DayRangeField } from '../kit/dates/DayRangeField';
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
    | { readonly edit: Act<[values: ReportValues, base: ReportValues], number> };
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

/** What a report is about, which parts it has in which order, one's own words, and how it looks. */
export function ReportForm({ siteId, initial, scopes, changes, what, save, button }: Props) {
  const [values, setValues] = useState(initial);
  // A logo is as large as all else that is typed anywhere: it is chosen again.
  const kept = useDraft<ReportValues>({ what, base: initial, show: setValues });
  const [errors, setErrors] = useState<Readonly<Record<string, string>>>({});
  const { act, busy } = useAct();
  const say = useToast();
  const router = useRouter();
  const set = (edit: Partial<ReportValues>) => {
    const now = { ...values, ...edit };
    setValues(now);
    kept.keep({ ...now, logo: initial.logo });
  };
  const conflict = useConflict<ReportValues>({
    initial,
    set: (chosen) => set(chosen),
    inWords: (field, of) => ({
      name: FIELD_NAMES[field as keyof ReportValues],
      text: fieldText(field as keyof ReportValues, of),
    }),
  });
  const rest = (Object.keys(REPORT_PARTS) as ReportPartKey[]).filter((key) => !values.parts.includes(key));
  const wordsOf = (key: ReportPartKey) => values.words[key] ?? { before: '', after: '' };
  const setWords = (key: ReportPartKey, edit: Partial<{ before: string; after: string }>) =>
    set({ words: { ...values.words, [key]: { ...wordsOf(key), ...edit } } });
  const chooseLogo = async (file: File | undefined) => {
    if (!file) return;
    if (file.size > MOST_LOGO_BYTES) return setErrors({ logo: 'The logo is too large: at most 200 kB.' });
    const reader = new FileReader();
    reader.onload = () => {
      setErrors({});
      set({ logo: String(reader.result) });
    };
    reader.readAsDataURL(file);
  };
  return (
    <form
      className="max-w-4xl space-y-4"
      onSubmit={(e) => {
        e.preventDefault();
        act(
          async () => {
            const done = await conflict.save(values, (given, base) =>
              'make' in save ? save.make(given) : save.edit(given, base),
            );
            setErrors(
              done.ok ? {} : Object.fromEntries(done.errors.map(({ field, message }) => [field, message])),
            );
            return done;
          },
          (id) => {
            kept.forget();
            say('The report is kept.');
            router.push(routes.report(siteId, id));
          },
        );
      }}
    >
      <DraftNote kept={kept} nameOf={({ title }) => title} />
      <Field label="Title" error={errors.title}>
        {(c) => (
          <input
            {...c}
            required
            className="input w-full"
            maxLength={200}
            value={values.title}
            onChange={(e) => set({ title: e.target.value })}
          />
        )}
      </Field>
      <div className="flex flex-wrap gap-4">
        <Field label="About" error={errors.scope} className="w-72">
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
        <Field label="Days" error={errors.from ?? errors.to}>
          {({ id }) => (
            <DayRangeField
              id={id}
              labels={['From', 'To']}
              invalid={{ from: Boolean(errors.from), to: Boolean(errors.to) }}
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
          error={errors['scope.changeIds']}
        />
      )}
      <fieldset>
        <legend className="text-[0.85rem] font-semibold">Parts, in their order</legend>
        {errors.parts && <p className="text-[0.85rem] font-medium text-error">{errors.parts}</p>}
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
        <Field label="Logo" hint="PNG, JPEG or WebP, at most 200 kB." error={errors.logo} className="w-80">
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
      <EditConflictChoice meanwhile={conflict.meanwhile} onChoose={conflict.choose} />
      {errors.root && (
        <p role="alert" className="font-medium text-error">
          {errors.root}
        </p>
      )}
      <button type="submit" className="btn btn-primary btn-sm" disabled={busy}>
        {button}
      </button>
    </form>
  );
}
