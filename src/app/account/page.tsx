import type { Metadata } from 'next';
import { AppLink } from '@/ui/kit/AppLink';
import { knownAsker } from '@/app/sites/[siteId]/site';
import { mayInGeneral } from '@/core/access/rights';
import { sitesOf } from '@/services/access/sites';
import { findPerson, sessionsOf } from '@/store/access/people';
import { database } from '@/store/database';
import { FirstAccount, NameAndPassword, SecondFactor, Sessions } from '@/ui/access/AccountParts';
import { Plain } from '@/ui/access/Plain';
import { routes } from '@/ui/shell/routes';
import { leave } from '../sign-in/actions';
import {
  beginFactor,
  confirmFactor,
  endFactor,
  endOtherSessions,
  endSession,
  makeFirst,
  newPassword,
  renameMe,
} from './actions';

export const metadata: Metadata = { title: 'Your account' };
export const dynamic = 'force-dynamic';

const moment = (at: Date) => at.toISOString().slice(0, 16).replace('T', ' ');

/** One's own account; where nobody has one, how the first is made. */
export default async function AccountPage() {
  const asker = await knownAsker();
  const db = database();
  const person = asker.kind === 'person' ? findPerson(db, asker.id) : null;
  if (asker.kind !== 'person' || !person)
    return (
      <Plain
        title="You are alone here"
        lead="Nobody has an account, and the program answers this machine only: anyone sitting here may do everything. With a first account everybody signs in, others can be invited, and the program may listen for other machines."
      >
        <FirstAccount run={makeFirst} />
        <p className="mt-6">
          <AppLink href="/" className="inline-link">
            Back to the sites
          </AppLink>
        </p>
      </Plain>
    );
  const sites = sitesOf(db, asker);
  return (
    <Plain
      wide
      title={person.name}
      lead={
        <>
          {person.email}
          {person.administrator
            ? ', an owner of the whole installation.'
            : sites.length === 0
              ? ', a member of no site yet: an owner of one has to invite you.'
              : `, a member of ${sites.map(({ name }) => name).join(', ')}.`}
        </>
      }
    >
      <nav aria-label="From here" className="mb-6 flex flex-wrap gap-x-5">
        {sites.length > 0 && (
          <AppLink href="/" className="inline-link min-h-7">
            To the sites
          </AppLink>
        )}
        {mayInGeneral(asker, 'administer') && (
          <AppLink href={routes.accounts()} className="inline-link min-h-7">
            All accounts
          </AppLink>
        )}
      </nav>
      <div className="grid grid-cols-1 gap-x-14 gap-y-8 wide:grid-cols-2">
        <NameAndPassword name={person.name} rename={renameMe} change={newPassword} />
        <SecondFactor on={person.secondFactor} begin={beginFactor} confirm={confirmFactor} end={endFactor} />
        <div className="wide:col-span-2">
          <Sessions
            sessions={sessionsOf(db, person.id).map(({ id, since, lastSeen, ends, from, browser }) => ({
              ...{ id, from, browser, here: id === asker.sessionId },
              ...{ since: moment(since), lastSeen: moment(lastSeen), ends: moment(ends) },
            }))}
            end={endSession}
            endOthers={endOtherSessions}
            leave={leave}
          />
        </div>
      </div>
    </Plain>
  );
}
