'use client';

import { useRouter } from 'next/navigation';
import type { Act } from '../kit/attempt';
import { DeleteButton } from '../kit/DeleteButton';
import { routes } from '../shell/routes';

type Props = {
  siteId: number;
  roundId: number;
  drop: Act<[siteId: number, id: number]>;
  putBack: Act<[siteId: number, id: number]>;
};

/** Deletes a round; what was logged of it stays, and it can be put back. */
export function DropRound({ siteId, roundId, drop, putBack }: Props) {
  const router = useRouter();
  return (
    <DeleteButton
      said="The round is deleted; its changes stay in the ledger."
      drop={() => drop(siteId, roundId)}
      putBack={() => putBack(siteId, roundId)}
      dropped={() => router.push(routes.rounds(siteId))}
      back={() => router.push(routes.round(siteId, roundId))}
    >
      Delete
    </DeleteButton>
  );
}
