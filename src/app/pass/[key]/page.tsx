import type { Metadata } from 'next';
import { askerNow } from '@/app/asker';
import { personByEmail } from '@/store/access/people';
import { openPass } from '@/store/access/passes';
import { database } from '@/store/database';
import { findSite } from '@/store/sites';
import { AcceptForm, JoinButton, NewPasswordForm } from '@/ui/access/PassForms';
import { Plain } from '@/ui/access/Plain';
import { routes } from '@/ui/shell/routes';
import { accept, choosePassword, join } from './actions';

export const metadata: Metadata = { title: 'Come in', robots: { index: false } };
export const dynamic = 'force-dynamic';

type Props = { params: Promise<{ key: string }> };

const ROLE_SAYS = {
  reader: 'read it',
  editor: 'work on it',
  owner: 'work on it and say who else may',
} as const;

/** What a link that opens once is for: an invitation, or a new password. */
export default async function PassPage({ params }: Props) {
  const { key } = await params;
  const db = database();
  const pass = openPass(db, key);
  if (!pass)
    return (
      <Plain
        title="This link is over"
        lead="It was used, withdrawn, or is too old. Ask whoever sent it for a new one."
      />
    );
  if (pass.kind === 'recovery')
    return (
      <Plain title="A new password" lead={`For ${pass.email}. Everywhere you are signed in, that ends.`}>
        <NewPasswordForm run={choosePassword.bind(null, key)} />
      </Plain>
    );
  const site = pass.siteId === null ? null : findSite(db, pass.siteId);
  const to = site
    ? `${pass.madeBy ?? 'Somebody'} invites ${pass.email} to ${site.name}, to ${ROLE_SAYS[pass.role ?? 'reader']}.`
    : `${pass.madeBy ?? 'Somebody'} invites ${pass.email} to own the whole installation.`;
  const asker = await askerNow();
  const known = personByEmail(db, pass.email) !== null;
  return (
    <Plain title="You are invited" lead={to}>
      {asker.kind === 'person' && asker.email === pass.email ? (
        <JoinButton run={join.bind(null, key)} />
      ) : known ? (
        <p>
          There is an account of {pass.email}.{' '}
          <a href={routes.signIn(routes.pass(key))} className="inline-link">
            Sign in with it
          </a>{' '}
          to take the invitation up.
        </p>
      ) : (
        <AcceptForm run={accept.bind(null, key)} />
      )}
    </Plain>
  );
}
