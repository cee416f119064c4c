'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { Remark } from '@/core/model/report';
import type { Act } from '../kit/attempt';
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
  const sendWithout = (dropped: Remark[]) =>
    act(
      () => send(siteId, reportId, dropped),
      (number) => {
        setAsking(false);
        say(`Kept as issue ${number}. It stays as it is now.`);
        router.push(routes.report(siteId, reportId, number));
      },
    );
  return (
    <>
      {sendable && (
        <button
          type="button"
          className="inline-link"
          disabled={busy}
          aria-expanded={remarks.length > 0 ? asking : undefined}
          onClick={() => (remarks.length > 0 ? setAsking(!asking) : sendWithout([]))}
        >
          Keep as sent
        </button>
      )}
      {asking && <RemarksForm remarks={remarks} busy={busy} send={sendWithout} />}
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

type RemarksProps = { remarks: Props['remarks']; busy: boolean; send: (dropped: Remark[]) => void };

/** Asks about each remark whether a reader from outside may see it. */
function RemarksForm({ remarks, busy, send }: RemarksProps) {
  const [kept, setKept] = useState<Readonly<Record<string, boolean>>>({});
  const keyOf = ({ part, place }: Remark) => `${part}/${place}`;
  const open = remarks.filter((one) => kept[keyOf(one)] === undefined).length;
  return (
    <form
      className="order-last w-full border-l-3 border-(--band) pl-3"
      onSubmit={(e) => {
        e.preventDefault();
        send(remarks.filter((one) => kept[keyOf(one)] === false).map(({ part, place }) => ({ part, place })));
      }}
    >
      <p className="font-semibold">
        Names or figures are left out of this report. Your remarks may still mention them. Keep each one?
      </p>
      {remarks.map((remark) => (
        <fieldset key={keyOf(remark)} className="mt-2">
          <legend className="text-[0.85rem]">
            {remark.heading}, {remark.place} the part
          </legend>
          <p className="font-serif">“{remark.text.slice(0, 300)}”</p>
          {([true, false] as const).map((keep) => (
            <label key={String(keep)} className="mr-4 inline-flex items-baseline gap-1">
              <input
                type="radio"
                name={keyOf(remark)}
                checked={kept[keyOf(remark)] === keep}
                onChange={() => setKept({ ...kept, [keyOf(remark)]: keep })}
              />
              {keep ? 'Keep' : 'Leave out'}
            </label>
          ))}
        </fieldset>
      ))}
      <button type="submit" className="btn btn-primary btn-sm mt-2" disabled={busy || open > 0}>
        Keep as sent
      </button>
    </form>
  );
}
