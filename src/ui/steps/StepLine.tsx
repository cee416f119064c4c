'use client';

import { useState } from 'react';
import { isoDay, parseIsoDay, type Day } from '@/core/calendar/day';
import type { Change } from '@/core/model/change';
import { isMade, STEP_NAMES, STEPS, type Step } from '@/core/model/steps';
import { stepEffect, type UsualSpans } from '@/core/reading/stepEffect';
import { shortDay } from '@/core/words/format';
import type { Act } from '../kit/attempt';
import { useToast } from '../kit/Toast';
import { useAct } from '../kit/useAct';
import { useMay } from '../shell/May';
import type { FormResult } from '../kit/formResult';
import { InlineForm } from '../kit/InlineForm';

export type RecordStep = Act<
  [siteId: number, changeId: number, step: Exclude<Step, 'decided'>, day: string | null]
>;

type Props = { change: Change; today: Day; usual: UsualSpans; record: RecordStep };

/** The day of a step; a change that nobody planned was made on its own day, once that has come. */
function dayOf(change: Change, step: Step, today: Day): Day | null {
  if (step === 'made')
    return change.steps.made ?? (isMade(change) && change.day <= today ? change.day : null);
  return change.steps[step] ?? null;
}

/** The steps of a change on one line, with their days. Recording one asks for the day and says what it does to the reading. */
export function StepLine({ change, today, usual, record }: Props) {
  const say = useToast();
  const [open, setOpen] = useState<Exclude<Step, 'decided'> | null>(null);
  // The step whose form was closed: its button takes the focus back.
  const [closed, setClosed] = useState<Step | null>(null);
  const close = (step: Step) => {
    setClosed(step);
    setOpen(null);
  };
  const { busy, act } = useAct();
  const mayLog = useMay('log');
  const recordDay = (step: Exclude<Step, 'decided'>, day: string | null) =>
    record(change.siteId, change.id, step, day);
  const recorded = (step: Exclude<Step, 'decided'>, what: string) => {
    const before = dayOf(change, step, today);
    close(step);
    say(`${STEP_NAMES[step]}: ${what}.`, () =>
      act(() => recordDay(step, before === null ? null : isoDay(before))),
    );
  };
  const shown = STEPS.map((step) => ({ step, day: dayOf(change, step, today) })).filter(
    ({ step, day }) => day !== null || (mayLog && step !== 'planned' && step !== 'decided'),
  );
  return (
    <ol aria-label="Steps" className="mt-2 flex flex-wrap items-center gap-y-1 text-[0.85rem]">
      {shown.map(({ step, day }, i) => (
        <li key={step} className="flex items-center">
          {i > 0 && (
            <span
              aria-hidden
              className={`mx-2 inline-block w-4 border-t ${day === null ? 'border-dashed border-(--muted)' : ''}`}
            />
          )}
          {step === 'decided' || (!mayLog && day !== null) ? (
            <span>
              {STEP_NAMES[step]} <b>{shortDay(day!)}</b>
            </span>
          ) : open === step ? (
            <DayForm
              step={step}
              day={day ?? today}
              recorded={day !== null}
              busy={busy}
              effectOf={(on) => stepEffect(change, step, on, today, usual)}
              record={(on) => recordDay(step, on)}
              recordedOn={() => recorded(step, 'recorded')}
              remove={() =>
                act(
                  () => recordDay(step, null),
                  () => recorded(step, 'removed'),
                )
              }
              leave={() => close(step)}
            />
          ) : day === null ? (
            <button
              type="button"
              autoFocus={closed === step}
              className="muted border-b border-dashed border-(--muted) hover:text-base-content"
              title={`Record the day: ${STEP_NAMES[step]}`}
              onClick={() => setOpen(step)}
            >
              {STEP_NAMES[step]}?
            </button>
          ) : (
            <button
              type="button"
              autoFocus={closed === step}
              className="hover:underline"
              title="Change the day, or remove it"
              onClick={() => setOpen(step)}
            >
              {STEP_NAMES[step]} <b>{shortDay(day)}</b>
            </button>
          )}
        </li>
      ))}
    </ol>
  );
}

type DayFormProps = {
  step: Step;
  day: Day;
  /** Whether the step has been recorded, so that it can be removed. */
  recorded: boolean;
  busy: boolean;
  effectOf: (day: Day) => string;
  record: (day: string) => Promise<FormResult<null>>;
  recordedOn: () => void;
  remove: () => void;
  leave: () => void;
};

/** Asks for the day of a step. */
function DayForm({ step, day, recorded, busy, effectOf, record, recordedOn, remove, leave }: DayFormProps) {
  return (
    <InlineForm
      type="day"
      label={`Day of “${STEP_NAMES[step]}”`}
      before={STEP_NAMES[step]}
      initial={isoDay(day)}
      submit="Save"
      run={record}
      done={recordedOn}
      cancel={{ text: 'Cancel', run: leave }}
      note={(typed) => {
        const on = parseIsoDay(typed);
        return on !== null && effectOf(on);
      }}
    >
      {recorded && step !== 'made' && (
        <button type="button" className="inline-link" disabled={busy} onClick={remove}>
          Remove
        </button>
      )}
    </InlineForm>
  );
}
