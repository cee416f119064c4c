'use client';

import { useRouter } from 'next/navigation';
import { useToast } from '../parts/Toast';
import { routes } from '../shell/routes';

type Props = {
  siteId: number;
  changeId: number;
  title: string;
  action: (siteId: number, changeId: number, deleted: boolean) => Promise<void>;
};

/** Deletes at once and offers to take it back, instead of asking beforehand. */
export function DeleteChange({ siteId, changeId, title, action }: Props) {
  const router = useRouter();
  const say = useToast();
  const remove = async () => {
    await action(siteId, changeId, true);
    router.push(routes.ledger(siteId));
    say(`“${title}” was deleted.`, async () => {
      await action(siteId, changeId, false);
      router.push(routes.change(siteId, changeId));
    });
  };
  return (
    <button type="button" className="inline-link" onClick={() => void remove()}>
      Delete
    </button>
  );
}
