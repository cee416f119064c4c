'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { ROLES, type Role } from '@/core/access/rights';
import type { Act } from '../kit/attempt';
import { useAct } from '../kit/useAct';
import { Invitations, type InvitationLine } from './Accounts';
import { ActButton } from './ActButton';
import { AskForm } from './AskForm';
import { ShownOnce } from './ShownOnce';
import { FiguresTable } from '../kit/table/FiguresTable';

export const ROLE_SAYS: Readonly<Record<Role, string>> = {
  reader: 'reader: sees all of it',
  editor: 'editor: works on it',
  owner: 'owner: works on it, and says who else may',
};

export type MemberLine = {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly role: Role;
  readonly since: string;
};

type Props = {
  siteId: number;
  members: readonly MemberLine[];
  invitations: readonly InvitationLine[];
  /** Whether whoever looks at it may change it. */
  owner: boolean;
  giveRole: Act<[siteId: number, userId: string, role: Role | null]>;
  invite: Act<[siteId: number, given: { email: string; role: Role }], string>;
  withdraw: Act<[siteId: number, id: number]>;
};

/** The people of a site with their roles, and who is invited. */
export function People({ siteId, members, invitations, owner, giveRole, invite, withdraw }: Props) {
  const router = useRouter();
  const { busy, act } = useAct();
  const [made, setMade] = useState<{ label: string; text: string } | null>(null);
  return (
    <section aria-labelledby="members">
      <h2 id="members" className="text-lg">
        Members
      </h2>
      {members.length === 0 ? (
        <p className="muted mt-0.5 mb-3 text-[0.9rem]">Nobody but the owners of the whole installation.</p>
      ) : (
        <div className="mt-1 mb-3">
          <FiguresTable
            label="Members"
            className="text-[0.9rem]"
            rows={members}
            rowKey={({ id }) => id}
            columns={[
              {
                id: 'who',
                value: ({ name }) => name,
                cell: ({ name, email }) => (
                  <>
                    {name} <span className="muted font-normal">{email}</span>
                  </>
                ),
              },
              {
                id: 'role',
                text: true,
                value: ({ role }) => role,
                cell: ({ id, name, role }) =>
                  owner ? (
                    <select
                      aria-label={`Role of ${name}`}
                      className="select select-sm w-28"
                      value={role}
                      disabled={busy}
                      onChange={(e) =>
                        act(
                          () => giveRole(siteId, id, e.target.value as Role),
                          () => router.refresh(),
                        )
                      }
                    >
                      {ROLES.map((one) => (
                        <option key={one}>{one}</option>
                      ))}
                    </select>
                  ) : (
                    role
                  ),
              },
              { id: 'since', text: true, className: 'max-sm:hidden', value: ({ since }) => since },
              {
                id: 'what can be done',
                hideHead: true,
                cell: ({ id, name }) =>
                  owner && (
                    <ActButton
                      to={`from ${name}`}
                      run={() => giveRole(siteId, id, null)}
                      said={`${name} has nothing to do with this site any longer.`}
                    >
                      Take it away
                    </ActButton>
                  ),
              },
            ]}
          />
        </div>
      )}
      {owner && (
        <>
          <AskForm
            line
            fields={[
              { name: 'email', label: 'Invite by e-mail', type: 'email', className: 'w-64' },
              {
                ...{ name: 'role', label: 'As', value: 'editor', className: 'w-72' },
                options: ROLES.map((role) => [role, ROLE_SAYS[role]] as const),
              },
            ]}
            submit="Make the invitation"
            run={({ email = '', role }) => invite(siteId, { email, role: role as Role })}
            done={(text, { email }) => {
              setMade({ label: `The invitation of ${email}`, text });
              router.refresh();
            }}
          />
          {made && (
            <ShownOnce
              {...made}
              note="Good for seven days, opens once, and is shown this once. Send it by a way you trust."
            />
          )}
          <Invitations invitations={invitations} withdraw={(id) => withdraw(siteId, id)} />
        </>
      )}
    </section>
  );
}
