'use client';

import { useRouter } from 'next/navigation';
import type { Act } from '../kit/attempt';
import { DeleteButton } from '../kit/DeleteButton';

type Props = {
  siteId: number;
  id: number;
  name: string;
  drop: Act<[siteId: number, id: number, deleted: boolean]>;
};

/** Takes a sheet away; that can be undone. */
export function DropSheet({ siteId, id, name, drop }: Props) {
  const router = useRouter();
  return (
    <DeleteButton
      said={`“${name}” was taken away.`}
      drop={() => drop(siteId, id, true)}
      putBack={() => drop(siteId, id, false)}
      dropped={router.refresh}
      back={router.refresh}
    >
      Take away<span className="sr-only"> {name}</span>
    </DeleteButton>
  );
}
