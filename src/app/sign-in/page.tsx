import type { Metadata } from 'next';
import { redirect } from 'next/navigation';
import { ownPath } from '@/core/access/ownPath';
import { askerNow } from '@/app/asker';
import { Plain } from '@/ui/access/Plain';
import { SignIn } from '@/ui/access/SignIn';
import { enter, enterByCode } from './actions';

export const metadata: Metadata = { title: 'Sign in' };
export const dynamic = 'force-dynamic';

type Props = { searchParams: Promise<{ to?: string | string[] }> };

export default async function SignInPage({ searchParams }: Props) {
  const to = ownPath((await searchParams).to);
  if ((await askerNow()).kind !== 'nobody') redirect(to);
  return (
    <Plain title="Sign in">
      <div className="mt-5">
        <SignIn to={to} signIn={enter} giveCode={enterByCode} />
      </div>
      <p className="muted mt-6 text-[0.9rem]">
        Forgotten? An owner of the installation makes you a link for a new password. Whoever runs the machine
        can do so too: <code>npm run account -- recover you@your.example</code>
      </p>
    </Plain>
  );
}
