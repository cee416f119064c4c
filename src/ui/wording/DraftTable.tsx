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
import { FiguresTable } from '../kit/table/FiguresTable';

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

/** Whether a draft is shown whole, and whether it stands alone. */
function roomText(cut: ReturnType<typeof measured>['cut'], twice: boolean): string {
  if (cut.desktop !== null) return 'cut';
  if (cut.mobile !== null) return 'cut in the hand';
  return twice ? 'another page has it too' : 'whole';
}

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
      <FiguresTable
        label="Drafts"
        className="dense max-w-6xl text-[0.88rem]"
        rows={pages.map((page) => {
          const text = texts.get(page.id) ?? '';
          return { ...page, text, ...measured(text, TITLE_ROOM) };
        })}
        rowKey={({ id }) => id}
        columns={[
          { id: 'page', cellClass: 'max-w-48 truncate', value: ({ path }) => path },
          {
            id: 'title as it is',
            text: true,
            cellClass: 'max-w-64 truncate',
            cell: ({ present }) =>
              present === null ? (
                <span className="muted">not fetched</span>
              ) : (
                <span title={present}>{present}</span>
              ),
          },
          {
            id: 'draft',
            text: true,
            cellClass: 'min-w-80',
            cell: ({ id, path, text }) => (
              <input
                aria-label={`Draft for ${path}`}
                className="input input-sm w-full"
                maxLength={500}
                value={text}
                onChange={(e) => setTexts(new Map(texts).set(id, e.target.value))}
              />
            ),
          },
          { id: 'characters', cell: ({ text, characters }) => text !== '' && count(characters) },
          {
            id: 'room',
            text: true,
            cell: ({ text, cut }) => text !== '' && roomText(cut, twice.has(text.trim())),
          },
        ]}
      />
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
