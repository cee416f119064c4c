'use client';

import { useRouter } from 'next/navigation';
import { z } from 'zod';
import { isoDaySchema } from '@/core/model/fields';
import { filledIn, PATTERN_NAMES, patternProblem, type PatternValues } from '@/core/wording/patterns';
import { measured, TITLE_ROOM } from '@/core/wording/room';
import { count, plural } from '@/core/words/format';
import type { Act } from '../kit/attempt';
import { Field } from '../kit/Field';
import { useToast } from '../kit/Toast';
import { AS_TYPED, useEntityForm } from '../kit/useEntityForm';
import { routes } from '../shell/routes';
import { EntityForm } from '../kit/EntityForm';
import { FormDay } from '../kit/dates/FormDay';
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
  /** Names these pages and what was pasted for them: drafts typed over it are kept under that name. */
  about: string;
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

type Typed = {
  /** The drafts by the keys of their pages. */
  readonly texts: Record<string, string>;
  readonly pattern: string;
  readonly what: string;
  readonly day: string;
};

const keyOf = (id: number) => `p${id}`;
const typedSchema = z.object({
  texts: z.record(z.string(), z.string()),
  pattern: z.string(),
  what: z.string(),
  day: isoDaySchema,
});

/** Drafts of several pages, each measured as it is typed; a pattern fills in those that are empty. */
export function DraftTable({ siteId, about, day, pages, plan, round }: Props) {
  const say = useToast();
  const router = useRouter();
  const draftsIn = (texts: Typed['texts']) =>
    pages.flatMap(({ id, present }) => {
      const text = (texts[keyOf(id)] ?? '').trim();
      return text === '' || text === present ? [] : [{ pageId: id, text }];
    });
  const form = useEntityForm<Typed, Typed, number | null>({
    what: `titles:${siteId}:${about}`,
    initial: {
      texts: Object.fromEntries(pages.map(({ id, draft }) => [keyOf(id), draft])),
      pattern: '{target} · {what} ({year})',
      what: '',
      day,
    },
    codec: AS_TYPED,
    schema: typedSchema,
    editing: false,
    send: async (_edit, _base, { given }) => {
      const drafts = draftsIn(given.texts);
      if (!round) return plan(siteId, drafts, given.day);
      const kept = await round.keep(
        siteId,
        round.id,
        drafts.map(({ pageId, text }) => ({ pageId, newText: text })),
      );
      return kept.ok ? { ok: true, value: null } : kept;
    },
    done: (changeId) => {
      say(round ? 'The drafts are kept with the round.' : 'The drafts are kept, and the change is planned.');
      if (round) router.push(routes.round(siteId, round.id, 'work'));
      else if (changeId !== null) router.push(routes.change(siteId, changeId));
    },
  });
  const { texts } = form.watch();
  const fill = (all: boolean) => {
    const { pattern, what } = form.getValues();
    const wrong = patternProblem(pattern);
    if (wrong) return form.setError('pattern', { message: wrong });
    form.clearErrors('pattern');
    for (const { id, values } of pages) {
      if (!all && (texts[keyOf(id)] ?? '').trim() !== '') continue;
      const named = { ...values, ...(what.trim() !== '' && { what: what.trim() }) };
      form.setValue(`texts.${keyOf(id)}`, filledIn(pattern, named));
    }
  };
  const drafts = draftsIn(texts);
  const twice = new Set(drafts.map(({ text }) => text).filter((text, i, all) => all.indexOf(text) !== i));
  const titles = drafts.length === 0 ? 'the titles' : plural(drafts.length, 'title');
  return (
    <EntityForm
      form={form}
      aria-label="Drafts"
      body="min-w-0 space-y-3"
      draftName={() => 'titles'}
      buttons={
        <>
          {!round && (
            <label className="flex items-center gap-2 text-[0.9rem]">
              to be made on
              <FormDay control={form.control} name="day" className="input-sm w-40" />
            </label>
          )}
          <button
            type="submit"
            className="btn btn-primary btn-sm"
            disabled={form.busy || drafts.length === 0}
          >
            {round ? `Keep ${titles} with the round` : `Plan ${titles}`}
          </button>
          {!round && (
            <span className="muted text-[0.85rem]">
              One planned change with the old and the new title of each page.
            </span>
          )}
        </>
      }
    >
      <div className="flex flex-wrap items-start gap-3">
        <Field
          label="Pattern"
          hint={`It can name ${PATTERN_NAMES.map((name) => `{${name}}`).join(', ')}.`}
          error={form.errorOf('pattern')}
          className="w-80"
        >
          {(c) => <input {...c} {...form.register('pattern')} className="input w-full" />}
        </Field>
        <Field label="{what}" hint="The same for all of them." className="w-56">
          {(c) => <input {...c} {...form.register('what')} className="input w-full" />}
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
          const text = texts[keyOf(page.id)] ?? '';
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
            cell: ({ id, path }) => (
              <input
                aria-label={`Draft for ${path}`}
                className="input input-sm w-full"
                maxLength={500}
                {...form.register(`texts.${keyOf(id)}`)}
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
    </EntityForm>
  );
}
