'use client';

import { AppLink } from '../kit/AppLink';
import { Fragment, useEffect, useRef, useState } from 'react';
import { z } from 'zod';
import { count, plural } from '@/core/words/format';
import type { DraftReport, QueryPlace } from '@/core/wording/draft';
import { TITLE_MARK_NAMES } from '@/core/wording/marks';
import type { Worded } from '@/core/wording/resultPage';
import { DESCRIPTION_ROOM, measured, TITLE_ROOM, type Measured } from '@/core/wording/room';
import type { FormResult } from '../kit/formResult';
import type { Act } from '../kit/attempt';
import { EntityForm } from '../kit/EntityForm';
import { useToast } from '../kit/Toast';
import { useAct } from '../kit/useAct';
import { AS_TYPED, useEntityForm } from '../kit/useEntityForm';
import { useMay } from '../shell/May';

type Draft = { readonly id: number; readonly text: string };

type Props = {
  siteId: number;
  resultPageId: number;
  pageId: number;
  of: Worded;
  /** The text as it is; null where the page has none or was not fetched. */
  present: string | null;
  /** The page's description beside a title, its title beside a description. */
  other: string | null;
  drafts: readonly Draft[];
  /** The form for the change that takes a draft, but for the draft. */
  takeOn: string;
  begin: Act<[siteId: number, pageId: number, of: Worded, text: string], number>;
  write: Act<[siteId: number, id: number, text: string, base: string]>;
  drop: Act<[siteId: number, id: number, dropped: boolean]>;
  hold: (siteId: number, id: number, of: Worded, texts: string[]) => Promise<FormResult<DraftReport[]>>;
};

const HOLD_MS = 200;
const WRITE_MS = 700;

/** The text as it is and drafts of another side by side, each held against the results while it is typed. */
export function DraftBench(props: Props) {
  const { siteId, resultPageId, pageId, of, present, other, takeOn, begin, write, drop, hold } = props;
  const [drafts, setDrafts] = useState(props.drafts);
  const [reports, setReports] = useState<ReadonlyMap<string, DraftReport>>(new Map());
  const { act, busy } = useAct();
  const mayEdit = useMay('edit');
  const say = useToast();
  const texts = [present ?? '', ...drafts.map(({ text }) => text)];
  const wanted = JSON.stringify(texts.filter((text) => text.trim() !== ''));
  useEffect(() => {
    let gone = false;
    const timer = setTimeout(async () => {
      const asked = JSON.parse(wanted) as string[];
      if (asked.length === 0) return;
      const result = await hold(siteId, resultPageId, of, asked).catch(() => null);
      if (!gone && result?.ok) setReports(new Map(asked.map((text, i) => [text, result.value[i]!])));
    }, HOLD_MS);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [wanted, siteId, resultPageId, of, hold]);
  const add = () =>
    act(
      () => begin(siteId, pageId, of, present ?? ''),
      (id) => setDrafts([...drafts, { id, text: present ?? '' }]),
    );
  return (
    <section aria-label="Drafts">
      <div className="flex flex-wrap items-baseline gap-x-4 border-b pb-1">
        <h2 className="text-lg">Drafts</h2>
        <p className="muted flex-1 text-[0.85rem]">
          does it say what the page is about? does it match what people want? could a machine tell from the{' '}
          {of} alone?
        </p>
        {mayEdit && drafts.length > 0 && (
          <button type="button" className="inline-link text-[0.9rem]" disabled={busy} onClick={add}>
            another draft
          </button>
        )}
      </div>
      <div className="mt-2 grid gap-3 md:grid-cols-2 xl:grid-cols-3">
        <article className="hairline border p-2.5" aria-label="as it is">
          <p className="muted text-[0.8rem]">as it is</p>
          {present === null ? (
            <p>The page has not been fetched, so its {of} is not known.</p>
          ) : (
            <>
              <p className="font-semibold">{present}</p>
              <Report of={of} text={present} report={reports.get(present) ?? null} other={other} own />
            </>
          )}
        </article>
        {mayEdit && drafts.length === 0 && (
          <article className="hairline border border-dashed p-2.5">
            <p className="muted mb-2">
              A draft is held against the results, the {of} as it is and the queries of the page while you
              type it. It is kept with the page.
            </p>
            <button type="button" className="btn btn-sm" disabled={busy} onClick={add}>
              Begin a draft
            </button>
          </article>
        )}
        {drafts.map((draft, i) => (
          <DraftCard
            key={draft.id}
            name={String.fromCharCode(65 + (i % 26))}
            of={of}
            draft={draft}
            report={reports.get(draft.text) ?? null}
            takeOn={takeOn}
            other={other}
            edit={(text) =>
              setDrafts((all) => all.map((one) => (one.id === draft.id ? { ...one, text } : one)))
            }
            keep={(text, base) => write(siteId, draft.id, text, base)}
            drop={() =>
              act(
                () => drop(siteId, draft.id, true),
                () => {
                  setDrafts((all) => all.filter(({ id }) => id !== draft.id));
                  say('The draft is dropped.', () =>
                    act(
                      () => drop(siteId, draft.id, false),
                      () => setDrafts((all) => [...all, draft].sort((a, b) => a.id - b.id)),
                    ),
                  );
                },
              )
            }
          />
        ))}
      </div>
    </section>
  );
}

type Text = { text: string };

type CardProps = {
  name: string;
  of: Worded;
  draft: Draft;
  report: DraftReport | null;
  takeOn: string;
  other: string | null;
  edit: (text: string) => void;
  keep: (text: string, base: string) => Promise<FormResult<null>>;
  drop: () => void;
};

function DraftCard({ name, of, draft, report, takeOn, other, edit, keep, drop }: CardProps) {
  const mayEdit = useMay('edit');
  const form = useEntityForm<Text, Text, null>({
    ...{ what: null, initial: { text: draft.text }, codec: AS_TYPED, schema: z.object({ text: z.string() }) },
    editing: true,
    send: (_, __, { given, base }) => keep(given.text, base.text),
    done: () => undefined,
    inWords: (_, typed) => ({ name: 'This draft', text: typed.text }),
  });
  const { open } = form.conflict;
  const text = form.watch('text');
  const now = useRef({ edit, submit: form.submit });
  useEffect(() => {
    now.current = { edit, submit: form.submit };
  });
  useEffect(() => {
    now.current.edit(text);
    // While somebody has to choose between two texts, nothing is written.
    if (open) return;
    const timer = setTimeout(() => void now.current.submit(), WRITE_MS);
    return () => clearTimeout(timer);
  }, [text, open]);
  return (
    <article className="border p-2.5" aria-label={`draft ${name}`}>
      <div className="flex items-baseline justify-between">
        <p className="muted text-[0.8rem]">{name}</p>
        {mayEdit && (
          <button type="button" className="inline-link text-[0.8rem]" onClick={drop}>
            drop<span className="sr-only"> draft {name}</span>
          </button>
        )}
      </div>
      <EntityForm form={form} body="" buttons={null}>
        <textarea
          aria-label={`Draft ${name} of the ${of}`}
          className="textarea w-full font-semibold"
          rows={of === 'title' ? 2 : 4}
          readOnly={!mayEdit}
          {...form.register('text', { setValueAs: (typed: string) => typed.replace(/\n/g, ' ') })}
        />
      </EntityForm>
      <Report of={of} text={text} report={report} other={other} />
      {mayEdit && text.trim() !== '' && (
        <AppLink
          href={`${takeOn}&new=${encodeURIComponent(text.trim())}`}
          className="btn btn-primary btn-sm mt-2"
        >
          Take this draft
        </AppLink>
      )}
    </article>
  );
}

const PLACES: Readonly<Record<QueryPlace, string>> = {
  front: 'the query in front',
  within: 'the query further on',
  words: 'the words of the query, in another order',
  parts: 'not all of the query: without',
  absent: 'nothing of the query',
};

type ReportProps = {
  of: Worded;
  text: string;
  report: DraftReport | null;
  /** The page's description beside a title, its title beside a description. */
  other: string | null;
  own?: boolean;
};

/** What a text is held to, line by line. */
function Report({ of, text, report, other, own = false }: ReportProps) {
  const length = measured(text, of === 'title' ? TITLE_ROOM : DESCRIPTION_ROOM);
  const lines = report ? linesOf(report, own) : [];
  return (
    <div className="mt-1 text-[0.85rem]" aria-live="polite">
      <p>
        {plural(length.characters, 'character')}, {count(length.pixels)} pixels
        <Room {...length} />
      </p>
      {lines.map(([before, names]) => (
        <p key={before}>
          {before} {names !== '' && <b>{names}</b>}
        </p>
      ))}
      <Shown of={of} text={text} other={other} />
    </div>
  );
}

/** How the text would be shown at the width of a desk and of a hand, title above description. */
function Shown({ of, text, other }: Pick<ReportProps, 'of' | 'text' | 'other'>) {
  const [title, description] = of === 'title' ? [text, other ?? ''] : [other ?? '', text];
  const cut = {
    title: measured(title, TITLE_ROOM).cut,
    description: measured(description, DESCRIPTION_ROOM).cut,
  };
  const shown = (whole: string, part: string | null) => (part === null ? whole : `${part} …`);
  return (
    <dl className="hairline my-1 grid grid-cols-[4.2rem_1fr] gap-x-2 border-t pt-1 text-[0.75rem]">
      {(['desktop', 'mobile'] as const).map((width) => (
        <Fragment key={width}>
          <dt className="muted">{width === 'desktop' ? 'on a desk' : 'in hand'}</dt>
          <dd>
            <span className="font-serif text-[0.9rem]">{shown(title, cut.title[width])}</span>{' '}
            <span className="muted">{shown(description, cut.description[width])}</span>
          </dd>
        </Fragment>
      ))}
    </dl>
  );
}

function Room({ cut: { desktop, mobile } }: Measured) {
  if (desktop === null && mobile === null) return <>, whole</>;
  const last = (shown: string) => shown.split(/\s+/).at(-1);
  return (
    <>
      {desktop === null ? ', whole on a desk, ' : ', '}
      <b className="text-error">
        {desktop === null ? 'cut in the hand' : 'cut'} after “{last(desktop ?? mobile!)}”
      </b>
    </>
  );
}

function linesOf(report: DraftReport, own: boolean): [string, string][] {
  const { says, lacks, query, alone, loses, stopsSaying, unsaid, marks, entities, ballast } = report;
  const list = (names: readonly string[], most = 6) => names.slice(0, most).join(', ');
  const stopped = stopsSaying.reduce((sum, { impressions }) => sum + impressions, 0);
  const lines: ([string, string] | null)[] = [
    says.length > 0 ? ['says', list(says)] : null,
    lacks.length > 0 ? ['not', list(lacks)] : null,
    [PLACES[query.place], query.place === 'parts' ? list(query.missing) : ''],
    ballast.length > 0 ? [ballast.join('; '), ''] : null,
    alone.length > 0 && !own ? ['says what no other says:', list(alone)] : null,
    entities.length > 0 ? ['names', list(entities)] : null,
    marks.length > 0 ? [`has ${marks.map((mark) => TITLE_MARK_NAMES[mark]).join(', ')}`, ''] : null,
    loses.length > 0 && !own ? ['loses', list(loses)] : null,
    stopped > 0 && !own
      ? [
          `stops saying ${plural(stopsSaying.length, 'query', 'queries')} of the page (${plural(stopped, 'showing')}):`,
          list(
            stopsSaying.map((one) => `“${one.query}”`),
            2,
          ),
        ]
      : null,
    unsaid > 0 ? [`queries of the page that it leaves unsaid: ${plural(unsaid, 'showing')}`, ''] : null,
  ];
  return lines.filter((line) => line !== null);
}
