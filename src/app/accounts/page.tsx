import type { Metadata } from 'next';
import { AppLink } from '@/ui/kit/AppLink';
import { redirect } from 'next/navigation';
import { knownAsker } from '@/app/sites/[siteId]/site';
import { mayInGeneral } from '@/core/access/rights';
import { plural } from '@/core/words/format';
import { auditLine, listAuditEntries } from '@/store/access/auditEntries';
import { listPeople, siteNamesOf } from '@/store/access/people';
import { openPasses } from '@/store/access/passes';
import { database } from '@/store/database';
import { Accounts } from '@/ui/access/Accounts';
import { DeedsOf } from '@/ui/access/DeedsOf';
import { Plain } from '@/ui/access/Plain';
import { routes } from '@/ui/shell/routes';
import { invitationLine } from './lines';
import {
  dropFactor,
  inviteOwner,
  makeAdministrator,
  recoverPassword,
  removeAccount,
  signOutEverywhere,
  withdraw,
} from './actions';

export const metadata: Metadata = { title: 'Accounts' };
export const dynamic = 'force-dynamic';

/** Everybody with an account, for owners of the whole installation. */
export default async function AccountsPage() {
  const asker = await knownAsker();
  if (!mayInGeneral(asker, 'administer') || asker.kind !== 'person') redirect(routes.account());
  const db = database();
  const people = listPeople(db);
  const deeds = listAuditEntries(db, { siteId: null }, 100);
  return (
    <Plain
      wide
      title="Accounts"
      lead={`${plural(people.length, 'person', 'people')} can sign in here. Whom a site belongs to is said on the site.`}
    >
      <p className="mb-4">
        <AppLink href={routes.account()} className="inline-link">
          Your own account
        </AppLink>
      </p>
      <Accounts
        accounts={people.map(({ id, name, email, administrator, secondFactor }) => ({
          ...{ id, name, email, administrator, secondFactor, self: id === asker.id },
          sites: siteNamesOf(db, id)
            .map(({ name: site, role }) => `${site} (${role})`)
            .join(', '),
        }))}
        invitations={openPasses(db, 'invitation', null).map(invitationLine)}
        invite={inviteOwner}
        recoveries={openPasses(db, 'recovery', null).map(invitationLine)}
        withdraw={withdraw}
        recover={recoverPassword}
        dropFactor={dropFactor}
        makeAdministrator={makeAdministrator}
        signOut={signOutEverywhere}
        remove={removeAccount}
      />
      <DeedsOf
        deeds={deeds.items.map((one) => ({
          ...auditLine(one),
          did: one.title ? `${one.did}: ${one.title}` : one.did,
        }))}
        total={deeds.total}
        all={null}
      />
    </Plain>
  );
}
