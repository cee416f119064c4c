'use client';

import { useEffect, useState } from 'react';
import type { NewChangeInput } from '@/core/model/change';
import type { Act } from '../kit/attempt';
import type { FormResult } from '../kit/formResult';
import type { Day } from '@/core/calendar/day';
import { emptyForm, inputOf, type ChangeFormValues } from './formValues';

export type InTheWay = Act<
  [siteId: number, changeId: number | null, pages: string[], day: string],
  readonly string[]
>;
export type Foresee = Act<[siteId: number, thought: NewChangeInput], string | null>;

/** Sentences on other changes that could not be told apart from one on these pages and day. */
export function useOverlaps(
  inTheWay: InTheWay,
  siteId: number,
  changeId: number | null,
  pages: readonly string[],
  day: string,
): readonly string[] {
  const [warnings, setWarnings] = useState<readonly string[]>([]);
  const named = pages.join('\n');
  useEffect(() => {
    let gone = false;
    const list = named === '' ? [] : named.split('\n');
    const look = list.length === 0 ? Promise.resolve([]) : valueOf(inTheWay(siteId, changeId, list, day));
    look.then((found) => !gone && setWarnings(found ?? [])).catch(() => null);
    return () => {
      gone = true;
    };
  }, [siteId, changeId, named, day, inTheWay]);
  return warnings;
}

/** The fields of the form that decide whether pages could show what is expected. */
export const FORESEEN_BY = [
  'pages',
  'day',
  'metric',
  'direction',
  'amount',
  'reviewDay',
  'settlingDays',
] as const satisfies readonly (keyof ChangeFormValues)[];
type Deciding = [string[], string, ChangeFormValues['metric'], 'up' | 'down', string, string, string];

/** Typing goes on for a moment before it is asked about. */
const PAUSE_MS = 300;

/** A sentence on whether the pages could show what is expected of the change by its review; null where nothing is. */
export function useForesight(foresee: Foresee, siteId: number, deciding: Deciding): string | null {
  const [said, setSaid] = useState<{ of: string; sentence: string | null } | null>(null);
  const key = JSON.stringify(deciding);
  useEffect(() => {
    const [pages, day, metric, direction, amount, reviewDay, settlingDays] = JSON.parse(key) as Deciding;
    if (pages.length === 0 || metric === '' || reviewDay === '') return;
    const thought = { pages, day, metric, direction, amount, reviewDay, settlingDays };
    let gone = false;
    const timer = setTimeout(() => {
      valueOf(foresee(siteId, inputOf({ ...BLANK, ...thought })))
        .then((sentence) => !gone && setSaid({ of: key, sentence }))
        .catch(() => null);
    }, PAUSE_MS);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [foresee, siteId, key]);
  return said?.of === key ? said.sentence : null;
}

/** Advice that cannot be had is none, and nothing to complain about. */
async function valueOf<T>(asked: Promise<FormResult<T>>): Promise<T | null> {
  const result = await asked;
  return result.ok ? result.value : null;
}

/** The rest of a change that is only thought of. */
const BLANK: ChangeFormValues = { ...emptyForm(0 as Day), title: 'Thought of', kind: 'other' };
