import { may } from '@/core/access/rights';
import type { Shared } from '@/core/access/readOnlyLink';
import { askerNow } from '@/app/asker';
import { auditLine, listAuditEntries } from '@/store/access/auditEntries';
import { database } from '@/store/database';
import { DeedsOf } from '@/ui/access/DeedsOf';
import { ShareThing } from '@/ui/access/Links';
import { routes } from '@/ui/shell/routes';
import { shareThing, unshare } from './actions';
import { sharing } from './lines';

type Props = {
  siteId: number;
  /** Its kind among the deeds, and its number. */
  on: string;
  id: number;
  /** As what it can be shared; null where it cannot. */
  shared: Shared | null;
};

const SHOWN = 20;

/** What screens of a thing have in common: who did what with it, and read-only links to it. Nothing for whoever only reads. */
export async function ThingParts({ siteId, on, id, shared }: Props) {
  if (!may(await askerNow(), 'edit', siteId)) return null;
  const db = database();
  const { items, total } = listAuditEntries(db, { siteId, on, thingId: id }, SHOWN);
  return (
    <>
      <DeedsOf deeds={items.map(auditLine)} total={total} all={routes.deeds(siteId, { on, thing: id })} />
      {shared && <ShareThing {...sharing(db, siteId, shared, id)} share={shareThing} withdraw={unshare} />}
    </>
  );
}
