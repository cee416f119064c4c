'use client';

import { useState, useTransition } from 'react';
import { plural } from '@/core/words/format';
import { attempt, type Act } from '../kit/attempt';
import { useToast } from '../kit/Toast';
import { DropBox } from '../kit/DropBox';

/** Reads a file of events and notes those that are new. */
export type BringIn = Act<
  [siteId: number, text: string],
  { added: number; known: number; problems: string[] }
>;

/** Larger files are no almanacs. */
const MOST_BYTES = 1024 * 1024;
const PROBLEMS_SHOWN = 5;

/** Takes a calendar, CSV or JSON file of events into the almanac. */
export function BringInEvents({ siteId, bringIn }: { siteId: number; bringIn: BringIn }) {
  const say = useToast();
  const [busy, start] = useTransition();
  const [problems, setProblems] = useState<readonly string[]>([]);
  const take = (file: File | undefined) => {
    if (!file) return;
    start(async () => {
      if (file.size > MOST_BYTES) {
        setProblems(['The file is larger than a megabyte.']);
        return;
      }
      const text = await file.text();
      const result = await attempt(() => bringIn(siteId, text));
      if (!result.ok) {
        setProblems(result.errors.map(({ message }) => message));
        return;
      }
      const { added, known } = result.value;
      setProblems(result.value.problems);
      say(`${plural(added, 'event')} noted${known > 0 ? `, ${known} noted already` : ''}.`);
    });
  };
  return (
    <>
      <DropBox
        accept=".ics,.csv,.json,text/calendar,text/csv,application/json"
        disabled={busy}
        onFiles={([file]) => take(file)}
        className="px-2 text-[0.85rem]"
      >
        {busy ? 'Reading …' : 'Bring in a file'}
      </DropBox>
      {problems.length > 0 && (
        <ul role="alert" className="basis-full text-[0.85rem] text-error">
          {problems.slice(0, PROBLEMS_SHOWN).map((problem) => (
            <li key={problem}>{problem}</li>
          ))}
          {problems.length > PROBLEMS_SHOWN && <li>and {problems.length - PROBLEMS_SHOWN} more.</li>}
        </ul>
      )}
    </>
  );
}
