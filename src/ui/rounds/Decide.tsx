'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { ROUND_DECISIONS, type RoundDecision } from '@/core/model/round';
import { mediumDay } from '@/core/words/format';
import type { Act } from '../kit/attempt';
import { useToast } from '../kit/Toast';
import { useAct } from '../kit/useAct';
import { useMay } from '../shell/May';

type Kind = keyof typeof ROUND_DECISIONS;
type Props = {
  siteId: number;
  roundId: number;
  decision: RoundDecision | null;
  /** What going on is called: with how many others. */
  goOn: string | null;
  today: string;
  decide: Act<
    [siteId: number, roundId: number, decision: { decision: Kind | null; reason: string; day: string }]
  >;
};

/** Go on with the other half, stop, or rework: with a reason, and taken back as easily. */
export function Decide({ siteId, roundId, decision, goOn, today, decide }: Props) {
  const [asking, setAsking] = useState<Kind | null>(null);
  const [reason, setReason] = useState('');
  const { act, busy } = useAct();
  const say = useToast();
  const router = useRouter();
  const mayEdit = useMay('edit');
  const record = (kind: Kind | null, why: string) =>
    act(
      () => decide(siteId, roundId, { decision: kind, reason: why, day: today }),
      () => {
        setAsking(null);
        setReason('');
        router.refresh();
        say(kind === null ? 'It is to be decided again.' : 'That is decided.');
      },
    );
  if (decision) {
    return (
      <span className="text-[0.93rem]">
        <b>{ROUND_DECISIONS[decision.decision]}</b>, decided {mediumDay(decision.day)}
        {decision.reason && <>: {decision.reason}</>}{' '}
        {mayEdit && (
          <button type="button" className="inline-link" disabled={busy} onClick={() => record(null, '')}>
            Take back
          </button>
        )}
      </span>
    );
  }
  if (!mayEdit) return null;
  if (asking) {
    return (
      <form
        className="flex flex-wrap items-center gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          record(asking, reason.trim());
        }}
      >
        <label className="text-[0.9rem]">
          {ROUND_DECISIONS[asking]}, because{' '}
          <input
            autoFocus
            className="input input-sm w-72"
            maxLength={2000}
            value={reason}
            onChange={(e) => setReason(e.target.value)}
          />
        </label>
        <button type="submit" className="btn btn-primary btn-sm" disabled={busy}>
          Decide
        </button>
        <button type="button" className="inline-link" onClick={() => setAsking(null)}>
          Leave it
        </button>
      </form>
    );
  }
  return (
    <>
      {goOn && (
        <button type="button" className="btn btn-primary btn-sm" onClick={() => setAsking('go-on')}>
          {goOn}
        </button>
      )}
      <button type="button" className="btn btn-sm" onClick={() => setAsking('stop')}>
        Stop here
      </button>
      <button type="button" className="btn btn-sm" onClick={() => setAsking('rework')}>
        Rework
      </button>
    </>
  );
}
