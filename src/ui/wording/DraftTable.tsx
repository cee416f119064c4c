'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { filledIn, PATTERN_NAMES, patternProblem, type PatternValues } from '@/core/wording/patterns';
import { measured, TITLE_ROOM } from '@/core/wording/room';
import { count, plural } from '@/core/words/format';
import type { Act } from '../kit/attempt';
import { Field } from '../kit/Field';
import { useToast } from '../kit/Toast';
import { useAct } from '../kit/useAct';
import { routes } from '../shell/routes';
import { DayField } from '../kit/dates/DayField';

type Page = {
  readonly id: number;
  readonly path: string;
  readonly present: string | null;
  readonly values: PatternValues;
  readonly draft: string;
};

type Props = {
  siteId: number;
  day: string;
  pages: readonly Page[];
  /** Logs the drafts as one planned change, and gives its number. */
  plan: Act<[siteId: number, drafts: { pageId: number; text: string }[], day: string], number>;
  /** Where the pages are those of a round: keeps the drafts as its new texts. */
  round?: {
    readonly id: number;
    readonly keep: Act<[siteId: number, roundId: number, texts: { pageId: number; newText: string }[]]>;
  };
};

/** Drafts of several pages, each measured as it is typed; a pattern fills in those that are empty. */
export function DraftTable({ siteId, day: today, pages, plan, round }: Props) {
  const [texts, setTexts] = useState<ReadonlyMap<number, string>>(
    new Map(pages.map(({ id, draft }) => [id, draft])),
  );
  const [pattern, setPattern] = useState('{target} · {what} ({year})');
  const [what, setWhat] = useState('');
  const [day, setDay] = useState(today);
  const [problem, setProblem] = useState<string | null>(null);
  const { act, busy } = useAct();
  const say = useToast();
  const router = useRouter();
  const fill = (all: boolean) => {
    const wrong = patternProblem(pattern);
    setProblem(wrong);
    if (wrong) return;
    setTexts(
      new Map(
        pages.map(({ id, values }) => {
          const now = texts.get(id) ?? '';
          const made = filledIn(pattern, { ...values, ...(what.trim() === '' ? {} : { what: what.trim() }) });
          return [id, all || now.trim() === '' ? made : now];
        }),
      ),
    );
  };
  const drafts = pages.flatMap(({ id, present }) => {
    const text = (texts.get(id) ?? '').trim();
    return text === '' || text === present ? [] : [{ pageId: id, text }];
  });
  const twice = new Set(drafts.map(({ text }) => text).filter((text, i, all) => all.indexOf(text) !== i));
  return (
    <>
      <div className="mb-3 flex flex-wrap items-start gap-3">
        <Field
          label="Pattern"
          hint={`It can name ${PATTERN_NAMES.map((name) => `{${name}}`).join(', ')}.`}
          error={problem ?? undefined}
          className="w-80"
        >
          {(c) => (
            <input
              {...c}
              className="input w-full"
              value={pattern}
              onChange={(e) => setPattern(e.target.value)}
            />
          )}
        </Field>
        <Field label="{what}" hint="The same for all of them." className="w-56">
          {(c) => (
            <input {...c} className="input w-full" value={what} onChange={(e) => setWhat(e.target.value)} />
          )}
        </Field>
        <div className="flex gap-2 pt-6">
          <button type="button" className="btn btn-sm" onClick={() => fill(false)}>
            Fill in empty drafts
          </button>
          <button type="button" className="btn btn-sm" onClick={() => fill(true)}>
            Fill in all
          </button>
        </div>
      </div>
      <div className="overflow-x-auto">
        <table className="figures dense w-full max-w-6xl text-[0.88rem]">
          <thead>
            <tr>
              <th scope="col">page</th>
              <th scope="col" className="text-left!">
                title as it is
              </th>
              <th scope="col" className="text-left!">
                draft
              </th>
              <th scope="col">characters</th>
              <th scope="col" className="text-left!">
                room
              </th>
            </tr>
          </thead>
          <tbody>
            {pages.map(({ id, path, present }) => {
              const text = texts.get(id) ?? '';
              const { characters, cut } = measured(text, TITLE_ROOM);
              return (
                <tr key={id}>
                  <th scope="row" className="max-w-48 truncate">
                    {path}
                  </th>
                  <td className="max-w-64 truncate text-left!" title={present ?? ''}>
                    {present ?? <span className="muted">not fetched</span>}
                  </td>
                  <td className="min-w-80 text-left!">
                    <input
                      aria-label={`Draft for ${path}`}
                      className="input input-sm w-full"
                      maxLength={500}
                      value={text}
                      onChange={(e) => setTexts(new Map(texts).set(id, e.target.value))}
                    />
                  </td>
                  <td>{text === '' ? '' : count(characters)}</td>
                  <td className="text-left! whitespace-nowrap">
                    {text === ''
                      ? ''
                      : cut.desktop !== null
                        ? 'cut'
                        : cut.mobile !== null
                          ? 'cut in the hand'
                          : twice.has(text.trim())
                            ? 'another page has it too'
                            : 'whole'}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      {round ? (
        <button
          type="button"
          className="btn btn-primary btn-sm mt-3"
          disabled={busy || drafts.length === 0}
          onClick={() =>
            act(
              () =>
                round.keep(
                  siteId,
                  round.id,
                  drafts.map(({ pageId, text }) => ({ pageId, newText: text })),
                ),
              () => {
                say('The drafts are kept with the round.');
                router.push(routes.round(siteId, round.id, 'work'));
              },
            )
          }
        >
          Keep {drafts.length === 0 ? 'the titles' : plural(drafts.length, 'title')} with the round
        </button>
      ) : (
        <div className="mt-3 flex flex-wrap items-center gap-3">
          <label className="flex items-center gap-2 text-[0.9rem]">
            to be made on
            <DayField className="input-sm w-40" value={day} onChange={setDay} />
          </label>
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={busy || drafts.length === 0}
            onClick={() =>
              act(
                () => plan(siteId, drafts, day),
                (id) => {
                  say('The drafts are kept, and the change is planned.');
                  router.push(routes.change(siteId, id));
                },
              )
            }
          >
            Plan {drafts.length === 0 ? 'the titles' : plural(drafts.length, 'title')}
          </button>
          <span className="muted text-[0.85rem]">
            One planned change with the old and the new title of each page.
          </span>
        </div>
      )}
    </>
  );
}
