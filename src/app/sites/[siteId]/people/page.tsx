import type { Metadata } from 'next';
import { AppLink } from '@/ui/kit/AppLink';
import { invitationLine } from '@/app/accounts/lines';
import { may } from '@/core/access/rights';
import { plural } from '@/core/words/format';
import { membersOf } from '@/store/access/people';
import { listLinks } from '@/store/access/links';
import { openPasses } from '@/store/access/passes';
import { listTokens } from '@/store/access/tokens';
import { LinksTable } from '@/ui/access/Links';
import { People } from '@/ui/access/People';
import { Tokens } from '@/ui/access/Tokens';
import { Screen } from '@/ui/kit/Screen';
import { routes } from '@/ui/shell/routes';
import { siteFromPath, type SitePageProps } from '../site';
import { giveRole, inviteTo, newToken, stopToken, unshare, withdrawFrom } from './actions';
import { linkLine, tokenLine } from './lines';

export const metadata: Metadata = { title: 'People' };

/** Who may do what with a site: people, scripts, and whoever has a link. */
export default async function PeoplePage({ params }: SitePageProps) {
  const { db, site, asker } = await siteFromPath((await params).siteId);
  const owner = may(asker, 'own', site.id);
  const members = membersOf(db, site.id);
  const links = may(asker, 'edit', site.id) ? listLinks(db, site.id).map(linkLine) : [];
  const open = links.filter(({ state }) => state === 'open').length;
  return (
    <Screen
      title="People"
      lead={
        asker.kind === 'alone'
          ? 'You are alone: nobody has an account, so anyone at this machine may do everything.'
          : `${members.length === 0 ? 'Nobody is a member' : plural(members.length, 'member')} of ${site.name}${members.length === 0 ? ' yet' : ''}${owner ? '' : '; its owners say who may do what'}.`
      }
      aside={
        may(asker, 'edit', site.id) && (
          <AppLink href={routes.deeds(site.id)} className="inline-link min-h-7">
            Who did what
          </AppLink>
        )
      }
    >
      <div className="max-w-5xl space-y-9">
        {asker.kind === 'alone' ? (
          <p className="max-w-2xl">
            To work with others, to let a client read, or to listen for other machines,{' '}
            <AppLink href={routes.account()} className="inline-link">
              make the first account
            </AppLink>
            . After that, people are invited here, and scripts are given tokens.
          </p>
        ) : (
          <>
            <People
              siteId={site.id}
              owner={owner}
              members={members.map(({ id, name, email, role, since }) => ({
                ...{ id, name, email, role, since: since.slice(0, 10) },
              }))}
              invitations={owner ? openPasses(db, 'invitation', site.id).map(invitationLine) : []}
              giveRole={giveRole}
              invite={inviteTo}
              withdraw={withdrawFrom}
            />
            {owner && (
              <Tokens
                siteId={site.id}
                tokens={listTokens(db, site.id).map(tokenLine)}
                make={newToken}
                end={stopToken}
              />
            )}
          </>
        )}
        {may(asker, 'edit', site.id) && (
          <section aria-labelledby="links">
            <h2 id="links" className="text-lg">
              Read-only links
            </h2>
            <p className="muted mt-0.5 mb-2 text-[0.9rem]">
              {links.length === 0
                ? 'None yet. They are made on a report, a reading or a round, and show that alone.'
                : `${plural(open, 'link')} open. They are made on a report, a reading or a round, and show that alone.`}
            </p>
            <LinksTable siteId={site.id} links={links} withdraw={unshare} />
          </section>
        )}
      </div>
    </Screen>
  );
}
