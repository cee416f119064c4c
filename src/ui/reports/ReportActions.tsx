'use client';

import { useRouter } from 'next/navigation';
import type { Act } from '../parts/attempt';
import { DeleteButton } from '../parts/DeleteButton';
import { useToast } from '../parts/Toast';
import { useAct } from '../parts/useAct';
import { routes } from '../shell/routes';

type Props = {
  siteId: number;
  reportId: number;
  sendable: boolean;
  send: Act<[siteId: number, reportId: number], number>;
  drop: Act<[siteId: number, reportId: number]>;
  putBack: Act<[siteId: number, reportId: number]>;
};

/** Keeps a report as it is sent, or deletes it. */
export function ReportActions({ siteId, reportId, sendable, send, drop, putBack }: Props) {
  const { act, busy } = useAct();
  const say = useToast();
  const router = useRouter();
  return (
    <>
      {sendable && (
        <button
          type="button"
          className="inline-link"
          disabled={busy}
          onClick={() =>
            act(
              () => send(siteId, reportId),
              (number) => {
                say(`Kept as issue ${number}. It stays as it is now.`);
                router.push(routes.report(siteId, reportId, number));
              },
            )
          }
        >
          Keep as sent
        </button>
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
