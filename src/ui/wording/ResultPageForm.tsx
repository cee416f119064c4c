'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { ReadResult, ReadResults } from '@/core/wording/fromText';
import {
  ABOVE_KINDS,
  ABOVE_NAMES,
  newResultPageSchema,
  RESULT_EXTRAS,
  RESULT_EXTRA_NAMES,
  RESULT_KINDS,
  RESULT_KIND_NAMES,
  type AboveKind,
  type ResultExtra,
  type ResultKind,
} from '@/core/wording/resultPage';
import type { z } from 'zod';
import type { Act } from '../kit/attempt';
import { Field } from '../kit/Field';
import { useToast } from '../kit/Toast';
import { routes } from '../shell/routes';
import { FormDay } from '../kit/dates/FormDay';
import { EntityForm } from '../kit/EntityForm';
import { useEntityForm, type FormCodec } from '../kit/useEntityForm';
import { DropBox } from '../kit/DropBox';
import { SortableList } from '../kit/SortableList';

type Given = z.input<typeof newResultPageSchema>;
/** A line of the form; its rank is its place. */
type Row = Omit<ReadResult, 'rank'> & { readonly key: number };

type Props = {
  siteId: number;
  query: string;
  day: string;
  keep: Act<[siteId: number, given: Given], number>;
};

const lines = (text: string) =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean);
const DEVICE_CHOICES = [
  ['all', 'any device'],
  ['desktop', 'desktop'],
  ['mobile', 'mobile'],
] as const;

type Typed = {
  query: string;
  day: string;
  device: (typeof DEVICE_CHOICES)[number][0];
  pasted: string;
  rows: Row[];
  asked: string;
  related: string;
  ownQuestions: string;
  bold: string;
  /** What stood above the results, and whether the site's page is named in it. */
  above: Partial<Record<AboveKind, boolean | undefined>>;
};

const EMPTY: Typed = {
  ...{ query: '', day: '', device: 'all', pasted: '', rows: [], above: {} },
  ...{ asked: '', related: '', ownQuestions: '', bold: '' },
};

const CODEC: FormCodec<Typed, Given> = {
  toSent: ({ query, day, device, asked, related, ownQuestions, bold, rows, above }) => ({
    ...{ query, day, device, asked: lines(asked), related: lines(related) },
    ...{ ownQuestions: lines(ownQuestions), bold: lines(bold) },
    results: rows.map(({ title, address, description, kind, dateShown, extras }, i) => ({
      ...{ rank: i + 1, title, address, description, kind, dateShown },
      extras: [...extras],
    })),
    above: ABOVE_KINDS.flatMap((kind) => {
      const own = above[kind];
      return own === undefined ? [] : [{ kind, own }];
    }),
  }),
  toTyped: () => EMPTY,
  fieldOf: (field) => {
    const [name, place] = field.split('.');
    if (name !== 'results') return name!;
    return place === undefined ? 'rows' : `rows.${place}`;
  },
};

/** What a search showed: pasted, from a file or by hand, looked through line by line, and kept under its day. */
export function ResultPageForm({ siteId, query: first, day: today, keep }: Props) {
  const say = useToast();
  const router = useRouter();
  const initial: Typed = { ...EMPTY, query: first, day: today };
  const form = useEntityForm<Typed, Given, number>({
    ...{ what: `resultPage:new:${siteId}`, initial, codec: CODEC, schema: newResultPageSchema },
    editing: false,
    send: (_, __, { given }) => keep(siteId, given),
    done: (id) => {
      say('Kept.');
      router.push(routes.resultPage(siteId, id!));
    },
  });
  const { register, errorOf, watch, setValue, getValues } = form;
  const [problem, setProblem] = useState<string | null>(null);
  const [reading, setReading] = useState(false);
  const [rows, above, pasted] = watch(['rows', 'above', 'pasted']);
  const busy = reading || form.busy;

  const setRows = (now: readonly Row[]) => setValue('rows', [...now], { shouldDirty: true });
  const nextKey = () => Math.max(0, ...getValues('rows').map(({ key }) => key + 1));
  const read = async (body: Blob | string) => {
    setReading(true);
    setProblem(null);
    try {
      const answer = await fetch(routes.readResults(siteId), { method: 'POST', body });
      const found = (await answer.json()) as ReadResults & { asked?: string[]; detail?: string };
      if (!answer.ok || found.problem) setProblem(found.problem ?? found.detail ?? 'It could not be read.');
      else {
        const key = nextKey();
        setRows(found.results.map((row, i) => ({ ...row, key: key + i })));
        if (found.asked?.length) setValue('asked', found.asked.join('\n'));
        if (found.problem === null && found.related?.length) setValue('related', found.related.join('\n'));
      }
    } catch {
      setProblem('The server did not answer; try again. What you pasted is still here.');
    }
    setReading(false);
  };
  const edit = (key: number, change: Partial<Row>) =>
    setRows(rows.map((row) => (row.key === key ? { ...row, ...change } : row)));
  const add = () =>
    setRows([
      ...rows,
      { key: nextKey(), title: '', address: '', description: null, kind: null, dateShown: null, extras: [] },
    ]);
  return (
    <EntityForm
      form={form}
      body="max-w-6xl space-y-3"
      draftName={({ query }) => query || 'results'}
      buttons={null}
    >
      <div className="grid gap-x-10 gap-y-5 lg:grid-cols-[22rem_1fr]">
        <div className="space-y-3">
          <Field label="Query" error={errorOf('query')}>
            {(c) => <input {...c} className="input w-full" {...register('query')} />}
          </Field>
          <div className="flex gap-3">
            <Field label="Day" error={errorOf('day')}>
              {(c) => <FormDay {...c} control={form.control} name="day" className="w-40" />}
            </Field>
            <Field label="Device">
              {(c) => (
                <select {...c} className="select w-36" {...register('device')}>
                  {DEVICE_CHOICES.map(([code, name]) => (
                    <option key={code} value={code}>
                      {name}
                    </option>
                  ))}
                </select>
              )}
            </Field>
          </div>
          <Field
            label="Results, pasted"
            hint="Rows of a sheet (title, address, and rank, description, kind, extras where there are any), or each title with its address and description one below the other."
            error={problem ?? undefined}
          >
            {(c) => (
              <textarea {...c} rows={8} className="textarea w-full text-[0.85rem]" {...register('pasted')} />
            )}
          </Field>
          <div className="flex flex-wrap items-center gap-3">
            <button
              type="button"
              className="btn btn-sm"
              disabled={busy || pasted.trim() === ''}
              onClick={() => void read(pasted)}
            >
              Read what is pasted
            </button>
            <DropBox
              accept=".csv,.tsv,.txt,.xlsx,.html,.htm"
              disabled={busy}
              onFiles={([file]) => file && void read(file)}
              className="px-3 py-1.5 text-[0.85rem]"
            >
              or a file (CSV, XLSX, a saved page)
            </DropBox>
          </div>
          <Field label="Questions people ask" hint="One a line." error={errorOf('asked')}>
            {(c) => <textarea {...c} rows={3} className="textarea w-full" {...register('asked')} />}
          </Field>
          <Field label="Related searches" hint="One a line.">
            {(c) => <textarea {...c} rows={2} className="textarea w-full" {...register('related')} />}
          </Field>
          <Field label="Questions of yours that were shown" hint="One a line.">
            {(c) => <textarea {...c} rows={2} className="textarea w-full" {...register('ownQuestions')} />}
          </Field>
          <Field label="Words printed bold" hint="One a line.">
            {(c) => <textarea {...c} rows={2} className="textarea w-full" {...register('bold')} />}
          </Field>
          <fieldset>
            <legend className="text-[0.85rem] font-semibold">Above the results</legend>
            {ABOVE_KINDS.map((kind) => (
              <div key={kind} className="flex gap-4 text-[0.9rem]">
                <label className="flex min-h-7 w-40 items-center gap-2">
                  <input
                    type="checkbox"
                    className="checkbox checkbox-sm"
                    checked={above[kind] !== undefined}
                    onChange={({ target }) =>
                      setValue('above', { ...above, [kind]: target.checked ? false : undefined })
                    }
                  />
                  {ABOVE_NAMES[kind]}
                </label>
                {above[kind] !== undefined && (
                  <label className="flex min-h-7 items-center gap-2">
                    <input
                      type="checkbox"
                      className="checkbox checkbox-sm"
                      checked={above[kind]}
                      onChange={({ target }) => setValue('above', { ...above, [kind]: target.checked })}
                    />
                    your page is named in it
                  </label>
                )}
              </div>
            ))}
          </fieldset>
        </div>
        <div className="min-w-0">
          <div className="mb-1 flex items-baseline justify-between border-b">
            <h2 className="text-lg">The results, in their order</h2>
            <button type="button" className="inline-link text-[0.9rem]" onClick={add}>
              add one by hand
            </button>
          </div>
          {rows.length === 0 && (
            <p className="muted">
              Nothing yet. What is read is shown here first, so that lines can be dropped or moved.
            </p>
          )}
          <SortableList
            keys={rows.map(({ key }) => key)}
            nameOf={(_, i) => `result ${i + 1}`}
            onOrder={(keys) => setRows(keys.map((key) => rows.find((row) => row.key === key)!))}
            actions={(key, i) => (
              <button
                type="button"
                aria-label={`Drop: result ${i + 1}`}
                className="inline-link min-h-7 px-1"
                onClick={() => setRows(rows.filter((row) => row.key !== key))}
              >
                Drop
              </button>
            )}
          >
            {(_, i) => {
              const row = rows[i]!;
              return (
                <div className="flex gap-2 py-0.5">
                  <span className="w-6 shrink-0 pt-1 font-serif tabular-nums">{i + 1}</span>
                  <div className="min-w-0 flex-1 space-y-1">
                    <input
                      aria-label={`Title of result ${i + 1}`}
                      className="input input-sm w-full font-semibold"
                      value={row.title}
                      onChange={(e) => edit(row.key, { title: e.target.value })}
                    />
                    <input
                      aria-label={`Address of result ${i + 1}`}
                      className="input input-sm w-full"
                      value={row.address}
                      onChange={(e) => edit(row.key, { address: e.target.value })}
                    />
                    <textarea
                      aria-label={`Description of result ${i + 1}`}
                      rows={1}
                      className="textarea textarea-sm w-full"
                      value={row.description ?? ''}
                      onChange={(e) => edit(row.key, { description: e.target.value || null })}
                    />
                    <div className="flex flex-wrap items-center gap-x-3 gap-y-1 text-[0.8rem]">
                      <select
                        aria-label={`Kind of result ${i + 1}`}
                        className="select select-sm w-32"
                        value={row.kind ?? ''}
                        onChange={(e) =>
                          edit(row.key, { kind: (e.target.value || null) as ResultKind | null })
                        }
                      >
                        <option value="">kind guessed</option>
                        {RESULT_KINDS.map((kind) => (
                          <option key={kind} value={kind}>
                            {RESULT_KIND_NAMES[kind]}
                          </option>
                        ))}
                      </select>
                      <input
                        aria-label={`Date shown with result ${i + 1}`}
                        placeholder="date shown"
                        className="input input-sm w-28"
                        value={row.dateShown ?? ''}
                        onChange={(e) => edit(row.key, { dateShown: e.target.value || null })}
                      />
                      {RESULT_EXTRAS.map((extra) => (
                        <label key={extra} className="flex min-h-6 items-center gap-1">
                          <input
                            type="checkbox"
                            className="checkbox checkbox-xs"
                            checked={row.extras.includes(extra)}
                            onChange={(e) =>
                              edit(row.key, { extras: withExtra(row.extras, extra, e.target.checked) })
                            }
                          />
                          {RESULT_EXTRA_NAMES[extra]}
                        </label>
                      ))}
                    </div>
                    {errorOf(`rows.${i}`) && (
                      <p className="text-[0.8rem] font-medium text-error">{errorOf(`rows.${i}`)}</p>
                    )}
                  </div>
                </div>
              );
            }}
          </SortableList>
          {errorOf('rows') && (
            <p role="alert" className="mt-2 text-error">
              {errorOf('rows')}
            </p>
          )}
          <button type="submit" className="btn btn-primary btn-sm mt-3" disabled={busy || rows.length === 0}>
            {rows.length === 0
              ? 'Keep the results'
              : rows.length === 1
                ? 'Keep this result'
                : `Keep these ${rows.length} results`}
          </button>
        </div>
      </div>
    </EntityForm>
  );
}

function withExtra(extras: readonly ResultExtra[], extra: ResultExtra, on: boolean): ResultExtra[] {
  const others = extras.filter((one) => one !== extra);
  return on ? [...others, extra] : others;
}
