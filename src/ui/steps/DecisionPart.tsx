'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { isoDay, type Day } from '@/core/calendar/day';
import type { Change } from '@/core/model/change';
import { DECISIONS, type Decision } from '@/core/model/steps';
import { mediumDay } from '@/core/words/format';
import type { Act } from '../kit/attempt';
import { useAct } from '../kit/useAct';
import { useDraft } from '../kit/useDraft';
import { routes } from '../shell/routes';
import { useMay } from '../shell/May';

type Kind = Decision['decision'];

export type RecordDecision = Act<
  [siteId: number, changeId: number, input: { decision: Kind | null; reason: string; day: string }]
>;

type Props = { change: Change; today: Day; record: RecordDecision };

const WORDS: Record<Kind, string> = {
  keep: 'It stays as it is.',
  undo: 'It is taken back.',
  rework: 'It is worked on again.',
};

const NO_REASON = { reason: '' };

/** What is decided of a change, with its reason. Undoing and reworking lead on to the change that does it, filled in. */
export function DecisionPart({ change, today, record }: Props) {
  const router = useRouter();
  const [reason, setReason] = useState('');
  const { busy, act } = useAct();
  const kept = useDraft<{ reason: string }>({
    what: `decision:${change.id}`,
    base: NO_REASON,
    show: ({ reason: typed }) => setReason(typed),
  });
  const mayEdit = useMay('edit');
  const { decision, steps } = change;

  const decide = (kind: Kind | null) =>
    act(
      () => record(change.siteId, change.id, { decision: kind, reason, day: isoDay(today) }),
      () => {
        kept.forget();
        if (kind === 'undo' || kind === 'rework')
          router.push(routes.changeAfter(change.siteId, change.id, kind));
        else router.refresh();
      },
    );

  if (decision) {
    return (
      <p>
        <b>{DECISIONS[decision.decision]}</b>
        {steps.decided !== undefined && (
          <span className="muted">, decided {mediumDay(steps.decided)}</span>
        )}. {WORDS[decision.decision]} {decision.reason}
        {mayEdit && decision.decision !== 'keep' && (
          <>
            {' '}
            <a className="inline-link" href={routes.changeAfter(change.siteId, change.id, decision.decision)}>
              Log the change that does it
            </a>
          </>
        )}{' '}
        {mayEdit && (
          <button type="button" className="inline-link" disabled={busy} onClick={() => decide(null)}>
            Take the decision back
          </button>
        )}
      </p>
    );
  }
  if (!mayEdit) return <p className="muted">Nothing is decided yet.</p>;
  return (
    <div className="flex flex-wrap items-end gap-3">
      <label className="min-w-60 grow text-[0.85rem]">
        <span className="block font-semibold">Reason</span>
        <input
          className="input input-sm mt-0.5 w-full"
          value={reason}
          maxLength={2000}
          placeholder="may be left out"
          onChange={(e) => {
            setReason(e.target.value);
            kept.keep({ reason: e.target.value });
          }}
        />
      </label>
      {(Object.keys(DECISIONS) as Kind[]).map((kind) => (
        <button
          key={kind}
          type="button"
          className="btn btn-outline btn-sm"
          disabled={busy}
          title={WORDS[kind]}
          onClick={() => decide(kind)}
        >
          {DECISIONS[kind]}
        </button>
      ))}
    </div>
  );
}
