'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { Shared } from '@/core/access/readOnlyLink';
import type { Act } from '../kit/attempt';
import { ActButton } from './ActButton';
import { AskForm } from './AskForm';
import { ShownOnce } from './ShownOnce';
import { FiguresTable } from '../kit/table/FiguresTable';

export type LinkLine = {
  readonly id: number;
  readonly of: Shared;
  readonly title: string;
  readonly made: string;
  readonly madeBy: string | null;
  readonly until: string;
  readonly asksPassword: boolean;
  readonly opened: number;
  readonly lastOpened: string | null;
  readonly state: 'open' | 'over' | 'withdrawn';
};
type Withdraw = Act<[siteId: number, id: number]>;

/** Read-only links, with how often each was opened. */
export function LinksTable({
  siteId,
  links,
  withdraw,
}: {
  siteId: number;
  links: readonly LinkLine[];
  withdraw: Withdraw;
}) {
  if (links.length === 0) return null;
  return (
    <FiguresTable
      label="Read-only links"
      className="text-[0.9rem]"
      rows={links}
      rowKey={({ id }) => id}
      rowClass={({ state }) => (state === 'open' ? undefined : 'muted')}
      columns={[
        {
          id: 'shows',
          value: ({ title }) => title,
          cell: ({ title, of }) => (
            <>
              {title} <span className="muted font-normal">{of}</span>
            </>
          ),
        },
        { id: 'made', text: true, value: ({ made, madeBy }) => (madeBy ? `${made}, ${madeBy}` : made) },
        { id: 'opens until', text: true, value: ({ state, until }) => (state === 'open' ? until : state) },
        {
          id: 'password',
          text: true,
          value: ({ asksPassword }) => (asksPassword ? 'asked for' : 'none'),
        },
        {
          id: 'opened',
          value: ({ opened }) => opened,
          cell: ({ opened, lastOpened }) => (
            <span title={lastOpened ? `last ${lastOpened} UTC` : undefined}>{opened}</span>
          ),
        },
        {
          id: 'what can be done',
          hideHead: true,
          cell: ({ id, title, state }) =>
            state === 'open' && (
              <ActButton
                to={`the link to ${title}`}
                run={() => withdraw(siteId, id)}
                said="The link is withdrawn."
              >
                Withdraw
              </ActButton>
            ),
        },
      ]}
    />
  );
}

type Props = {
  siteId: number;
  of: Shared;
  id: number;
  /** The day that is proposed, and those links that there are already. */
  lastDay: string;
  links: readonly LinkLine[];
  share: Act<[siteId: number, of: Shared, id: number, given: { lastDay: string; password: string }], string>;
  withdraw: Withdraw;
};

/** Makes a read-only link to what the screen shows. */
export function ShareThing({ siteId, of, id, lastDay, links, share, withdraw }: Props) {
  const router = useRouter();
  const [made, setMade] = useState<string | null>(null);
  const open = links.filter(({ state }) => state === 'open').length;
  return (
    <details className="mt-4 text-[0.93rem] print:hidden" id="share">
      <summary className="min-h-7 w-fit font-semibold">Read-only link{open > 0 && `, ${open} open`}</summary>
      <p className="muted mt-1 mb-2 max-w-2xl text-[0.85rem]">
        Anyone with the link sees this {of} with its figures at the time, and nothing else. Search engines are
        told to leave it out.
      </p>
      <AskForm
        line
        fields={[
          { name: 'lastDay', label: 'Last day', type: 'date', value: lastDay, className: 'w-40' },
          {
            ...{ name: 'password', label: 'Password', type: 'password', autoComplete: 'new-password' },
            ...{ className: 'w-56', hint: 'If left empty, none is asked for.' },
          },
        ]}
        submit="Make the link"
        run={({ lastDay: day = '', password = '' }) => share(siteId, of, id, { lastDay: day, password })}
        done={(text) => {
          setMade(text);
          router.refresh();
        }}
      />
      {made && (
        <ShownOnce label="The link" text={made} note="Shown this once; only a digest of it is stored." />
      )}
      {links.length > 0 && (
        <div className="mt-3 max-w-4xl">
          <LinksTable siteId={siteId} links={links} withdraw={withdraw} />
        </div>
      )}
    </details>
  );
}
