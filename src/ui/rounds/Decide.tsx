'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { ROUND_DECISIONS, type RoundDecision } from '@/core/model/round';
import { mediumDay } from '@/core/words/format';
import type { Act } from '../kit/attempt';
import { InlineForm } from '../kit/InlineForm';
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
  const { act, busy } = useAct();
  const say = useToast();
  const router = useRouter();
  const mayEdit = useMay('edit');
  const decided = (kind: Kind | null) => {
    setAsking(null);
    router.refresh();
    say(kind === null ? 'It is to be decided again.' : 'That is decided.');
  };
  const takeBack = () =>
    act(
      () => decide(siteId, roundId, { decision: null, reason: '', day: today }),
      () => decided(null),
    );
  if (decision) {
    return (
      <span className="text-[0.93rem]">
        <b>{ROUND_DECISIONS[decision.decision]}</b>, decided {mediumDay(decision.day)}
        {decision.reason && <>: {decision.reason}</>}{' '}
        {mayEdit && (
          <button type="button" className="inline-link" disabled={busy} onClick={takeBack}>
            Take back
          </button>
        )}
      </span>
    );
  }
  if (!mayEdit) return null;
  if (asking) {
    return (
      <InlineForm
        label={`${ROUND_DECISIONS[asking]}, because`}
        before={<span className="text-[0.9rem]">{ROUND_DECISIONS[asking]}, because</span>}
        className="w-72"
        maxLength={2000}
        optional
        submit="Decide"
        button="btn btn-primary btn-sm"
        cancel={{ text: 'Leave it', run: () => setAsking(null) }}
        run={(reason) => decide(siteId, roundId, { decision: asking, reason, day: today })}
        done={() => decided(asking)}
      />
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
