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
import { attempt, type Act } from '../kit/attempt';
import { Field } from '../kit/Field';
import { useToast } from '../kit/Toast';
import { routes } from '../shell/routes';
import { DayField } from '../kit/dates/DayField';
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

/** What a search showed: pasted, from a file or by hand, looked through line by line, and kept under its day. */
export function ResultPageForm({ siteId, query: first, day: today, keep }: Props) {
  const [query, setQuery] = useState(first);
  const [day, setDay] = useState(today);
  const [device, setDevice] = useState<(typeof DEVICE_CHOICES)[number][0]>('all');
  const [pasted, setPasted] = useState('');
  const [rows, setRows] = useState<readonly Row[]>([]);
  const [asked, setAsked] = useState('');
  const [related, setRelated] = useState('');
  const [ownQuestions, setOwnQuestions] = useState('');
  const [bold, setBold] = useState('');
  const [above, setAbove] = useState<ReadonlyMap<AboveKind, boolean>>(new Map());
  const [problem, setProblem] = useState<string | null>(null);
  const [errors, setErrors] = useState<readonly { field: string; message: string }[]>([]);
  const [busy, setBusy] = useState(false);
  const say = useToast();
  const router = useRouter();
  const [next, setNext] = useState(0);

  const read = async (body: Blob | string) => {
    setBusy(true);
    setProblem(null);
    try {
      const answer = await fetch(routes.readResults(siteId), { method: 'POST', body });
      const found = (await answer.json()) as ReadResults & { asked?: string[]; detail?: string };
      if (!answer.ok || found.problem) setProblem(found.problem ?? found.detail ?? 'It could not be read.');
      else {
        setRows(found.results.map((row, i) => ({ ...row, key: next + i })));
        setNext(next + found.results.length);
        if (found.asked?.length) setAsked(found.asked.join('\n'));
        if (found.problem === null && found.related?.length) setRelated(found.related.join('\n'));
      }
    } catch {
      setProblem('The server did not answer; try again. What you pasted is still here.');
    }
    setBusy(false);
  };
  const edit = (key: number, change: Partial<Row>) =>
    setRows((all) => all.map((row) => (row.key === key ? { ...row, ...change } : row)));
  const add = () => {
    setRows([
      ...rows,
      { key: next, title: '', address: '', description: null, kind: null, dateShown: null, extras: [] },
    ]);
    setNext(next + 1);
  };
  const save = async () => {
    const given: Given = {
      ...{ query, day, device, asked: lines(asked), related: lines(related) },
      ...{ ownQuestions: lines(ownQuestions), bold: lines(bold) },
      results: rows.map(({ title, address, description, kind, dateShown, extras }, i) => ({
        ...{ rank: i + 1, title, address, description, kind, dateShown },
        extras: [...extras],
      })),
      above: [...above].map(([kind, own]) => ({ kind, own })),
    };
    const checked = newResultPageSchema.safeParse(given);
    if (!checked.success) {
      setErrors(
        checked.error.issues.map(({ path, message }) => ({
          field: path.join('.'),
          message: told(path, message),
        })),
      );
      return;
    }
    setBusy(true);
    const result = await attempt(() => keep(siteId, given));
    setBusy(false);
    if (result.ok) {
      say('Kept.');
      router.push(routes.resultPage(siteId, result.value));
    } else setErrors(result.errors);
  };
  const errorOf = (field: string) => errors.find((one) => one.field === field)?.message;
  return (
    <div className="grid max-w-6xl gap-x-10 gap-y-5 lg:grid-cols-[22rem_1fr]">
      <div className="space-y-3">
        <Field label="Query" error={errorOf('query')}>
          {(c) => (
            <input {...c} className="input w-full" value={query} onChange={(e) => setQuery(e.target.value)} />
          )}
        </Field>
        <div className="flex gap-3">
          <Field label="Day" error={errorOf('day')}>
            {(c) => <DayField {...c} className="w-40" value={day} onChange={setDay} />}
          </Field>
          <Field label="Device">
            {(c) => (
              <select
                {...c}
                className="select w-36"
                value={device}
                onChange={(e) => setDevice(e.target.value as typeof device)}
              >
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
            <textarea
              {...c}
              rows={8}
              className="textarea w-full text-[0.85rem]"
              value={pasted}
              onChange={(e) => setPasted(e.target.value)}
            />
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
          {(c) => (
            <textarea
              {...c}
              rows={3}
              className="textarea w-full"
              value={asked}
              onChange={(e) => setAsked(e.target.value)}
            />
          )}
        </Field>
        <Field label="Related searches" hint="One a line.">
          {(c) => (
            <textarea
              {...c}
              rows={2}
              className="textarea w-full"
              value={related}
              onChange={(e) => setRelated(e.target.value)}
            />
          )}
        </Field>
        <Field label="Questions of yours that were shown" hint="One a line.">
          {(c) => (
            <textarea
              {...c}
              rows={2}
              className="textarea w-full"
              value={ownQuestions}
              onChange={(e) => setOwnQuestions(e.target.value)}
            />
          )}
        </Field>
        <Field label="Words printed bold" hint="One a line.">
          {(c) => (
            <textarea
              {...c}
              rows={2}
              className="textarea w-full"
              value={bold}
              onChange={(e) => setBold(e.target.value)}
            />
          )}
        </Field>
        <fieldset>
          <legend className="text-[0.85rem] font-semibold">Above the results</legend>
          {ABOVE_KINDS.map((kind) => (
            <div key={kind} className="flex gap-4 text-[0.9rem]">
              <label className="flex min-h-7 w-40 items-center gap-2">
                <input
                  type="checkbox"
                  className="checkbox checkbox-sm"
                  checked={above.has(kind)}
                  onChange={(e) => {
                    const now = new Map(above);
                    if (e.target.checked) now.set(kind, false);
                    else now.delete(kind);
                    setAbove(now);
                  }}
                />
                {ABOVE_NAMES[kind]}
              </label>
              {above.has(kind) && (
                <label className="flex min-h-7 items-center gap-2">
                  <input
                    type="checkbox"
                    className="checkbox checkbox-sm"
                    checked={above.get(kind)}
                    onChange={(e) => setAbove(new Map(above).set(kind, e.target.checked))}
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
                      onChange={(e) => edit(row.key, { kind: (e.target.value || null) as ResultKind | null })}
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
                  {errors
                    .filter(({ field }) => field.startsWith(`results.${i}.`))
                    .map(({ field, message }) => (
                      <p key={field} className="text-[0.8rem] font-medium text-error">
                        {message}
                      </p>
                    ))}
                </div>
              </div>
            );
          }}
        </SortableList>
        {errors
          .filter(({ field }) => ['results', 'root', ''].includes(field))
          .map(({ message }) => (
            <p key={message} role="alert" className="mt-2 text-error">
              {message}
            </p>
          ))}
        <button
          type="button"
          className="btn btn-primary btn-sm mt-3"
          disabled={busy || rows.length === 0}
          onClick={() => void save()}
        >
          {rows.length === 0
            ? 'Keep the results'
            : rows.length === 1
              ? 'Keep this result'
              : `Keep these ${rows.length} results`}
        </button>
      </div>
    </div>
  );
}

function withExtra(extras: readonly ResultExtra[], extra: ResultExtra, on: boolean): ResultExtra[] {
  const others = extras.filter((one) => one !== extra);
  return on ? [...others, extra] : others;
}

/** A complaint with the number of the result it is about. */
function told(path: readonly PropertyKey[], message: string): string {
  return path[0] === 'results' && typeof path[1] === 'number' ? `Result ${path[1] + 1}: ${message}` : message;
}
