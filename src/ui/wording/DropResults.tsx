'use client';

import { useRouter } from 'next/navigation';
import type { Act } from '../kit/attempt';
import { DeleteButton } from '../kit/DeleteButton';
import { routes } from '../shell/routes';

type Props = {
  siteId: number;
  resultPageId: number;
  drop: Act<[siteId: number, id: number]>;
  putBack: Act<[siteId: number, id: number]>;
};

/** Deletes a result page; it can be put back. */
export function DropResults({ siteId, resultPageId, drop, putBack }: Props) {
  const router = useRouter();
  return (
    <DeleteButton
      said="The result page is deleted."
      drop={() => drop(siteId, resultPageId)}
      putBack={() => putBack(siteId, resultPageId)}
      dropped={() => router.push(routes.wording(siteId))}
      back={() => router.push(routes.resultPage(siteId, resultPageId))}
    >
      Delete
    </DeleteButton>
  );
}
