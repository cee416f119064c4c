'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { DatedTitle, TitleCheck } from '@/core/markup/titleCheck';
import { mediumDay } from '@/core/words/format';
import type { Act } from '../kit/attempt';
import { useToast } from '../kit/Toast';
import { useAct } from '../kit/useAct';
import { InlineForm } from '../kit/InlineForm';
import { IfMay, useMay } from '../shell/May';

/** The title of one page, and of its result. */
export type CheckedTitle = {
  readonly pageId: number;
  readonly path: string;
  readonly onPage: DatedTitle | null;
  readonly inResults: DatedTitle | null;
  readonly check: TitleCheck;
  /** What is offered as seen: the title that should be there by now. */
  readonly likely: string;
};

type Props = {
  siteId: number;
  checked: readonly CheckedTitle[];
  record: Act<[siteId: number, pageId: number, title: string]>;
  /** Fetches the pages, and asks an index about them where one answers; gives a sentence of what came of it. */
  lookAll?: { readonly label: string; readonly run: Act<[], string> };
};

/** The title on each page against the one in the results, and which of the two is old. */
export function TitleCheckPart({ siteId, checked, record, lookAll }: Props) {
  const router = useRouter();
  const say = useToast();
  const { busy, act } = useAct();
  const mayLog = useMay('log');
  return (
    <div className="space-y-3">
      {checked.map((one) => (
        <CheckOf key={one.pageId} siteId={siteId} one={one} named={checked.length > 1} record={record} />
      ))}
      {lookAll && mayLog && (
        <button
          type="button"
          className="btn btn-outline btn-sm"
          disabled={busy}
          onClick={() =>
            act(lookAll.run, (said) => {
              say(said);
              router.refresh();
            })
          }
        >
          {busy ? 'Looking …' : lookAll.label}
        </button>
      )}
    </div>
  );
}

type OneProps = { one: CheckedTitle; named: boolean } & Pick<Props, 'siteId' | 'record'>;

function CheckOf({ siteId, one, named, record }: OneProps) {
  const { path, onPage, inResults, check } = one;
  const old = check.state === 'results-old' || check.state === 'page-old';
  return (
    <div>
      {named && <p className="text-[0.85rem] font-semibold">{path}</p>}
      <p className={old ? 'font-semibold' : ''}>{check.sentence}</p>
      <dl className="mt-0.5 grid grid-cols-[6.5rem_1fr] gap-x-2 text-[0.93rem]">
        <dt className="muted text-[0.85rem]">on the page</dt>
        <dd className="break-words">
          {onPage ? (
            <>
              {onPage.title || <span className="muted">no title</span>}{' '}
              <span className="muted text-[0.85rem] whitespace-nowrap">{mediumDay(onPage.day)}</span>
            </>
          ) : (
            <span className="muted">not fetched yet</span>
          )}
        </dd>
        <dt className="muted text-[0.85rem]">in the results</dt>
        <dd className="break-words">
          {inResults ? (
            <>
              {inResults.title}{' '}
              <span className="muted text-[0.85rem] whitespace-nowrap">{mediumDay(inResults.day)}</span>
            </>
          ) : (
            <span className="muted">nobody looked</span>
          )}{' '}
          <IfMay right="log">
            <Sighting siteId={siteId} one={one} record={record} />
          </IfMay>
        </dd>
      </dl>
    </div>
  );
}

/** Writes down which title the results show today. */
function Sighting({ siteId, one, record }: Omit<OneProps, 'named'>) {
  const router = useRouter();
  const say = useToast();
  const [open, setOpen] = useState(false);
  if (!open) {
    return (
      <button
        type="button"
        className="inline-link text-[0.85rem]"
        onClick={() => setOpen(true)}
        aria-label={`Write down the title seen in the results for ${one.path}`}
      >
        write down what they show today
      </button>
    );
  }
  return (
    <InlineForm
      label={`Title seen in the results for ${one.path}`}
      className="min-w-60 grow"
      draft={`sighting:${one.pageId}`}
      initial={one.likely}
      maxLength={2000}
      submit="seen today"
      run={(title) => record(siteId, one.pageId, title)}
      done={() => {
        say('Written down.');
        setOpen(false);
        router.refresh();
      }}
      cancel={{ text: 'leave it', run: () => setOpen(false) }}
    />
  );
}
