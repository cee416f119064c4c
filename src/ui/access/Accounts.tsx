'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { Act } from '../kit/attempt';
import { ActButton } from './ActButton';
import { AskForm } from './AskForm';
import { FiguresTable } from '../kit/table/FiguresTable';
import { ShownOnce } from './ShownOnce';

export type AccountLine = {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly administrator: boolean;
  readonly secondFactor: boolean;
  /** “Quillow Bee Yard (editor)”, one after the other. */
  readonly sites: string;
  readonly self: boolean;
};
export type InvitationLine = {
  readonly id: number;
  readonly email: string;
  readonly role: string | null;
  readonly until: string;
  readonly madeBy: string | null;
};

type Props = {
  accounts: readonly AccountLine[];
  invitations: readonly InvitationLine[];
  /** Links for a new password. */
  recoveries: readonly InvitationLine[];
  invite: Act<[email: string], string>;
  withdraw: Act<[id: number]>;
  recover: Act<[id: string], string>;
  dropFactor: Act<[id: string]>;
  makeAdministrator: Act<[id: string, administrator: boolean]>;
  signOut: Act<[id: string]>;
  remove: Act<[id: string]>;
};

/** Who has an account, what they may do, and what an owner of the installation can do for them. */
export function Accounts(props: Props) {
  const { accounts, invitations, invite, withdraw, recover, dropFactor, makeAdministrator } = props;
  const router = useRouter();
  const [made, setMade] = useState<{ label: string; text: string; goodFor: string } | null>(null);
  return (
    <>
      <FiguresTable
        label="Accounts"
        className="text-[0.9rem] [&_:is(th,td)]:align-top"
        rows={accounts}
        rowKey={({ id }) => id}
        columns={[
          {
            id: 'who',
            value: ({ name }) => name,
            cell: ({ name, email }) => (
              <>
                {name}
                <span className="muted block font-normal">{email}</span>
              </>
            ),
          },
          {
            id: 'sites',
            text: true,
            cellClass: 'whitespace-normal!',
            value: ({ administrator, sites }) =>
              administrator ? 'owns the whole installation' : sites || 'none',
          },
          { id: 'second factor', text: true, value: ({ secondFactor }) => (secondFactor ? 'on' : 'off') },
          {
            id: 'what can be done',
            text: true,
            cellClass: 'whitespace-normal!',
            cell: ({ id, name, email, administrator, secondFactor, self }) => (
              <span className="flex flex-wrap gap-x-4">
                <ActButton
                  to={`for ${name}`}
                  run={() => recover(id)}
                  done={(text) => {
                    setMade({ label: `A link for a new password, for ${email}`, text, goodFor: 'a day' });
                    router.refresh();
                  }}
                >
                  New password
                </ActButton>
                {secondFactor && (
                  <ActButton to={`of ${name}`} run={() => dropFactor(id)} said="The second factor is off.">
                    Take the second factor off
                  </ActButton>
                )}
                <ActButton to={`of ${name}`} run={() => makeAdministrator(id, !administrator)}>
                  {administrator ? 'Not an owner any longer' : 'Make an owner of all'}
                </ActButton>
                {!self && (
                  <>
                    <ActButton
                      to={name}
                      run={() => props.signOut(id)}
                      said={`${name} is signed out everywhere.`}
                    >
                      Sign out everywhere
                    </ActButton>
                    <ActButton
                      to={`of ${name}`}
                      run={() => props.remove(id)}
                      said={`The account of ${name} is gone.`}
                    >
                      Remove the account
                    </ActButton>
                  </>
                )}
              </span>
            ),
          },
        ]}
      />
      {made && (
        <ShownOnce
          label={made.label}
          text={made.text}
          note={`Good for ${made.goodFor}, opens once, and is shown this once. Send it by a way you trust.`}
        />
      )}
      {props.recoveries.length > 0 && (
        <section aria-labelledby="recoveries" className="mt-8">
          <h2 id="recoveries" className="text-lg">
            Password reset links
          </h2>
          <Invitations
            label="Unused password reset links"
            invitations={props.recoveries}
            withdraw={withdraw}
          />
        </section>
      )}
      <section aria-labelledby="invite" className="mt-8">
        <h2 id="invite" className="text-lg">
          Invite another owner of the installation
        </h2>
        <p className="muted mb-2 text-[0.9rem]">
          Owns every site and those to come. Whoever is to work on one site, or to read it, is invited on its
          screen “People”.
        </p>
        <AskForm
          line
          fields={[{ name: 'email', label: 'E-mail', type: 'email', className: 'w-72' }]}
          submit="Make the invitation"
          run={({ email = '' }) => invite(email)}
          done={(text, { email }) => {
            setMade({ label: `The invitation of ${email}`, text, goodFor: 'seven days' });
            router.refresh();
          }}
        />
        <Invitations invitations={invitations} withdraw={withdraw} />
      </section>
    </>
  );
}

/** Links that nobody has used yet. */
export function Invitations({
  label = 'Invitations not taken up yet',
  invitations,
  withdraw,
}: {
  label?: string;
  invitations: readonly InvitationLine[];
  withdraw: Act<[id: number]>;
}) {
  if (invitations.length === 0) return null;
  return (
    <ul className="mt-3 space-y-0.5 text-[0.9rem]" aria-label={label}>
      {invitations.map(({ id, email, role, until, madeBy }) => (
        <li key={id} className="flex flex-wrap items-center gap-x-4">
          <span>
            {email}
            {role && ` as ${role}`}
            {madeBy && `, made by ${madeBy}`}, until {until}
          </span>
          <ActButton to={`the link of ${email}`} run={() => withdraw(id)} said="The link is withdrawn.">
            Withdraw
          </ActButton>
        </li>
      ))}
    </ul>
  );
}
