'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { z } from 'zod';
import type { Remark } from '@/core/model/report';
import type { Act } from '../kit/attempt';
import { EntityForm } from '../kit/EntityForm';
import type { FormResult } from '../kit/formResult';
import { AS_TYPED, useEntityForm } from '../kit/useEntityForm';
import { DeleteButton } from '../kit/DeleteButton';
import { useToast } from '../kit/Toast';
import { useAct } from '../kit/useAct';
import { routes } from '../shell/routes';

type Props = {
  siteId: number;
  reportId: number;
  sendable: boolean;
  /** Own remarks to be asked about before sending, where something is left out for a reader from outside. */
  remarks: readonly (Remark & { readonly heading: string; readonly text: string })[];
  send: Act<[siteId: number, reportId: number, dropped: Remark[]], number>;
  drop: Act<[siteId: number, reportId: number]>;
  putBack: Act<[siteId: number, reportId: number]>;
};

/** Keeps a report as it is sent, or deletes it. */
export function ReportActions({ siteId, reportId, sendable, remarks, send, drop, putBack }: Props) {
  const { act, busy } = useAct();
  const say = useToast();
  const router = useRouter();
  const [asking, setAsking] = useState(false);
  const sent = (issue: number) => {
    setAsking(false);
    say(`Kept as issue ${issue}. It stays as it is now.`);
    router.push(routes.report(siteId, reportId, issue));
  };
  return (
    <>
      {sendable && (
        <button
          type="button"
          className="inline-link"
          disabled={busy}
          aria-expanded={remarks.length > 0 ? asking : undefined}
          onClick={() =>
            remarks.length > 0 ? setAsking(!asking) : act(() => send(siteId, reportId, []), sent)
          }
        >
          Keep as sent
        </button>
      )}
      {asking && (
        <RemarksForm remarks={remarks} send={(dropped) => send(siteId, reportId, dropped)} done={sent} />
      )}
      <DeleteButton
        said="The report is deleted."
        drop={() => drop(siteId, reportId)}
        putBack={() => putBack(siteId, reportId)}
        dropped={() => router.push(routes.reports(siteId))}
        back={() => router.push(routes.report(siteId, reportId))}
      >
        Delete
      </DeleteButton>
    </>
  );
}

type RemarksProps = {
  remarks: Props['remarks'];
  send: (dropped: Remark[]) => Promise<FormResult<number>>;
  done: (issue: number) => void;
};
type Choices = { choices: ('keep' | 'leave-out' | '')[] };

/** Asks about each remark whether a reader from outside may see it. */
function RemarksForm({ remarks, send, done }: RemarksProps) {
  const form = useEntityForm<Choices, Choices, number>({
    ...{ what: null, initial: { choices: remarks.map(() => '') }, codec: AS_TYPED, editing: false },
    schema: z.object({ choices: z.array(z.enum(['keep', 'leave-out'])) }),
    send: (_, __, { given: { choices } }) =>
      send(
        remarks.filter((_one, i) => choices[i] === 'leave-out').map(({ part, place }) => ({ part, place })),
      ),
    done: (issue) => done(issue!),
  });
  const open = form.watch('choices').some((choice) => !choice);
  return (
    <EntityForm
      form={form}
      className="order-last w-full border-l-3 border-(--band) pl-3"
      body="space-y-2"
      buttons={
        <button type="submit" className="btn btn-primary btn-sm" disabled={form.busy || open}>
          Keep as sent
        </button>
      }
    >
      <p className="font-semibold">
        Names or figures are left out of this report. Your remarks may still mention them. Keep each one?
      </p>
      {remarks.map((remark, i) => (
        <fieldset key={`${remark.part}/${remark.place}`}>
          <legend className="text-[0.85rem]">
            {remark.heading}, {remark.place} the part
          </legend>
          <p className="font-serif">“{remark.text.slice(0, 300)}”</p>
          {(['keep', 'leave-out'] as const).map((choice) => (
            <label key={choice} className="mr-4 inline-flex items-baseline gap-1">
              <input type="radio" value={choice} {...form.register(`choices.${i}`)} />
              {choice === 'keep' ? 'Keep' : 'Leave out'}
            </label>
          ))}
        </fieldset>
      ))}
    </EntityForm>
  );
}
