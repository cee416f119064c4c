'use client';

import { AppLink } from '../kit/AppLink';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { z } from 'zod';
import { pagePath } from '@/core/address/address';
import { PAGE_STEPS, type Half, type PageStep, type RoundPage } from '@/core/model/round';
import { count, plural } from '@/core/words/format';
import { measured, TITLE_ROOM } from '@/core/wording/room';
import type { Act } from '../kit/attempt';
import { useToast } from '../kit/Toast';
import { EntityForm } from '../kit/EntityForm';
import { useAct } from '../kit/useAct';
import { AS_TYPED, useEntityForm } from '../kit/useEntityForm';
import { FiguresTable } from '../kit/table/FiguresTable';
import { routes } from '../shell/routes';
import { stepsText, stepWord } from './halves';
import { useMay } from '../shell/May';
import { DayField } from '../kit/dates/DayField';

type Line = Pick<RoundPage, 'page' | 'half' | 'person' | 'oldText' | 'newText' | 'steps' | 'opening'> & {
  /** Why it is not compared; null where it is. */
  readonly leftOut: string | null;
};

type Texts = { newText: string; person: string };
/** The texts by the keys of their pages. */
type Typed = Record<string, Texts>;

const keyOf = (pageId: number) => `p${pageId}`;
const textsOf = ({ newText, person }: Line): Texts => ({ newText: newText ?? '', person: person ?? '' });

type Props = {
  siteId: number;
  roundId: number;
  lines: readonly Line[];
  today: string;
  /** The half that is to be worked on first. */
  turn: Half;
  texts: boolean;
  made: Act<[siteId: number, roundId: number, given: { half: Half; day: string; pageIds: number[] }]>;
  notMade: Act<[siteId: number, roundId: number, pageIds: number[]]>;
  step: Act<
    [
      siteId: number,
      roundId: number,
      given: { pageIds: number[]; step: Exclude<PageStep, 'made'>; day: string | null },
    ]
  >;
  keep: Act<[siteId: number, roundId: number, texts: { pageId: number; newText: string; person: string }[]]>;
};

/** The pages of a round as they are worked on: texts, who, and the steps of each. */
export function WorkTable(props: Props) {
  const { siteId, roundId, lines, today, turn, texts: hasTexts } = props;
  const say = useToast();
  const router = useRouter();
  const form = useEntityForm<Typed, Typed, null>({
    what: `round:${roundId}:texts`,
    initial: Object.fromEntries(lines.map((line) => [keyOf(line.page.id), textsOf(line)])),
    codec: AS_TYPED,
    schema: z.record(z.string(), z.object({ newText: z.string(), person: z.string() })),
    editing: true,
    send: (edit) =>
      props.keep(
        siteId,
        roundId,
        lines.flatMap(({ page }) => {
          const texts = edit[keyOf(page.id)];
          return texts ? [{ pageId: page.id, ...texts }] : [];
        }),
      ),
    done: () => {
      router.refresh();
      say('Kept.');
    },
  });
  const typed = form.watch();
  const measuredText = (line: Line) => {
    const now = typed[keyOf(line.page.id)] ?? textsOf(line);
    return { now, ...measured(now.newText, TITLE_ROOM) };
  };
  const ofHalf = (half: Half) => lines.filter((line) => line.half === half);
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set(ofHalf(turn).map(({ page }) => page.id)));
  const [kind, setKind] = useState<PageStep>('made');
  const [day, setDay] = useState(today);
  const { act, busy } = useAct();
  const mayEdit = useMay('edit');
  const edited = lines.filter((line) => {
    const { now } = measuredText(line);
    return now.newText.trim() !== (line.newText ?? '') || now.person.trim() !== (line.person ?? '');
  });
  const toggle = (ids: readonly number[], on: boolean) => {
    const next = new Set(chosen);
    for (const id of ids)
      if (on) next.add(id);
      else next.delete(id);
    setChosen(next);
  };
  const refresh = (text: string) => () => {
    router.refresh();
    say(text);
  };
  const record = (back: boolean) =>
    act(
      async () => {
        const ids = lines.filter(({ page }) => chosen.has(page.id));
        if (kind !== 'made')
          return props.step(siteId, roundId, {
            pageIds: ids.map(({ page }) => page.id),
            step: kind,
            day: back ? null : day,
          });
        if (back)
          return props.notMade(
            siteId,
            roundId,
            ids.map(({ page }) => page.id),
          );
        for (const half of ['first', 'second'] as const) {
          const pageIds = ids.filter((one) => one.half === half).map(({ page }) => page.id);
          if (pageIds.length === 0) continue;
          const done = await props.made(siteId, roundId, { half, day, pageIds });
          if (!done.ok) return done;
        }
        return { ok: true as const, value: null };
      },
      refresh(back ? 'Taken back.' : 'Recorded.'),
    );
  return (
    <EntityForm
      form={form}
      aria-label="Work"
      body="min-w-0 space-y-2"
      draftName={() => 'texts of the pages'}
      buttons={null}
    >
      {mayEdit && (
        <div className="mb-3 flex flex-wrap items-center gap-x-3 gap-y-2 text-[0.9rem]">
          <span>
            {plural(chosen.size, 'page')} {chosen.size === 1 ? 'was' : 'were'}
          </span>
          <select
            aria-label="Step"
            className="select select-sm w-40"
            value={kind}
            onChange={(e) => setKind(e.target.value as PageStep)}
          >
            {PAGE_STEPS.map((one) => (
              <option key={one} value={one}>
                {stepWord(one)}
              </option>
            ))}
          </select>
          <label className="flex items-center gap-2">
            on
            <DayField className="input-sm w-40" value={day} onChange={setDay} />
          </label>
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={busy || chosen.size === 0}
            onClick={() => record(false)}
          >
            Record it
          </button>
          <button
            type="button"
            className="inline-link"
            disabled={busy || chosen.size === 0}
            onClick={() => record(true)}
          >
            Take it back
          </button>
          {edited.length > 0 && (
            <button type="submit" className="btn btn-primary btn-sm ml-auto" disabled={form.busy}>
              Keep {plural(edited.length, 'edited line')}
            </button>
          )}
        </div>
      )}
      {(['first', 'second'] as const).map((half) => {
        const own = ofHalf(half);
        if (own.length === 0) return null;
        const ids = own.map(({ page }) => page.id);
        const all = ids.every((id) => chosen.has(id));
        return (
          <section key={half} className="mb-5" aria-label={`The ${half} half`}>
            <label className="flex items-baseline gap-2 font-serif text-[1.05rem]">
              <input
                type="checkbox"
                className="checkbox checkbox-xs translate-y-0.5"
                checked={all}
                disabled={!mayEdit}
                onChange={() => toggle(ids, !all)}
              />
              {half === 'first' ? 'First half' : 'Second half'}, {plural(own.length, 'page')}
            </label>
            <FiguresTable
              label={`Pages of the ${half} half`}
              className="dense table-fixed min-w-[62rem] text-[0.87rem]"
              rows={own.map((line) => ({
                ...line,
                ...measuredText(line),
                path: pagePath(line.page.address),
              }))}
              rowKey={({ page }) => page.id}
              columns={[
                {
                  id: 'chosen',
                  hideHead: true,
                  className: 'w-8',
                  cell: ({ page, path }) => (
                    <input
                      type="checkbox"
                      className="checkbox checkbox-xs"
                      aria-label={`Choose ${path}`}
                      checked={chosen.has(page.id)}
                      disabled={!mayEdit}
                      onChange={() => toggle([page.id], !chosen.has(page.id))}
                    />
                  ),
                },
                {
                  id: 'page',
                  text: true,
                  names: true,
                  className: 'w-48 max-w-44 truncate',
                  cell: ({ page, path, opening }) => (
                    <>
                      <AppLink href={routes.page(siteId, page.id)} className="hover:underline" title={path}>
                        {path}
                      </AppLink>
                      {opening && (
                        <span className="muted block text-[0.72rem]">
                          opening: {count(opening.clicks)} clicks a month
                        </span>
                      )}
                    </>
                  ),
                },
                hasTexts && {
                  id: 'before',
                  text: true,
                  cellClass: 'max-w-52 truncate',
                  cell: ({ oldText }) =>
                    oldText === null ? (
                      <span className="muted">not fetched then</span>
                    ) : (
                      <span title={oldText}>{oldText}</span>
                    ),
                },
                hasTexts && {
                  id: 'new',
                  text: true,
                  cell: ({ page, path }) => (
                    <input
                      aria-label={`New text of ${path}`}
                      className="input input-sm w-full"
                      maxLength={1000}
                      readOnly={!mayEdit}
                      {...form.register(`${keyOf(page.id)}.newText`)}
                    />
                  ),
                },
                hasTexts && {
                  id: 'characters',
                  className: 'w-20',
                  cell: ({ now, characters, cut }) =>
                    now.newText !== '' && (
                      <>
                        {count(characters)}
                        {cut.desktop !== null && <span className="muted"> cut</span>}
                      </>
                    ),
                },
                {
                  id: 'who',
                  text: true,
                  className: 'w-24',
                  cell: ({ page, path }) => (
                    <input
                      aria-label={`Who is at work on ${path}`}
                      className="input input-sm w-16"
                      maxLength={60}
                      readOnly={!mayEdit}
                      {...form.register(`${keyOf(page.id)}.person`)}
                    />
                  ),
                },
                {
                  id: 'how far',
                  text: true,
                  cellClass: 'whitespace-normal!',
                  cell: ({ steps, leftOut }) => (
                    <>
                      {stepsText(steps) || <span className="muted">waits</span>}
                      {leftOut && <span className="block text-(--band-text)">left out: {leftOut}</span>}
                    </>
                  ),
                },
              ]}
            />
          </section>
        );
      })}
    </EntityForm>
  );
}
