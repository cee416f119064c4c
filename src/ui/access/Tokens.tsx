'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { TOKEN_RIGHTS, type TokenRight } from '@/core/access/rights';
import type { Act } from '../kit/attempt';
import { ActButton } from './ActButton';
import { AskForm } from './AskForm';
import { ShownOnce } from './ShownOnce';
import { FiguresTable } from '../kit/table/FiguresTable';

const RIGHT_SAYS: Readonly<Record<TokenRight, string>> = {
  read: 'read',
  log: 'read, log changes, send files',
  all: 'all there is to do with this site',
};

export type TokenLine = {
  readonly id: number;
  readonly name: string;
  readonly right: TokenRight;
  readonly begins: string;
  readonly madeBy: string | null;
  readonly made: string;
  readonly lastUsed: string | null;
  /** The last day on which it opens anything; null for no end. */
  readonly until: string | null;
  readonly over: boolean;
};

type Props = {
  siteId: number;
  tokens: readonly TokenLine[];
  make: Act<[siteId: number, given: { name: string; right: TokenRight; lastDay: string | null }], string>;
  end: Act<[siteId: number, id: number]>;
};

/** Tokens for scripts: what opens is shown once, and can be ended at any time. */
export function Tokens({ siteId, tokens, make, end }: Props) {
  const router = useRouter();
  const [made, setMade] = useState<{ name: string; key: string } | null>(null);
  return (
    <section aria-labelledby="tokens">
      <h2 id="tokens" className="text-lg">
        Tokens for scripts
      </h2>
      <p className="muted mt-0.5 mb-2 text-[0.9rem]">
        A script sends one with each request: <code>Authorization: Bearer tally_…</code>. A calendar program
        that subscribes to the review days gives it as the password of any name.
      </p>
      {tokens.length > 0 && (
        <div className="mb-3">
          <FiguresTable
            label="Tokens for scripts"
            className="text-[0.9rem]"
            rows={tokens}
            rowKey={({ id }) => id}
            rowClass={({ over }) => (over ? 'muted' : undefined)}
            columns={[
              {
                id: 'token',
                value: ({ name }) => name,
                cell: ({ name, begins }) => (
                  <>
                    {name} <code className="muted font-normal">{begins}…</code>
                  </>
                ),
              },
              { id: 'may', text: true, value: ({ right }) => RIGHT_SAYS[right] },
              {
                id: 'made',
                text: true,
                value: ({ made: on, madeBy }) => (madeBy ? `${on}, ${madeBy}` : on),
              },
              { id: 'last used', text: true, value: ({ lastUsed }) => lastUsed ?? 'never' },
              {
                id: 'opens until',
                text: true,
                value: ({ over, until }) => (over ? 'over' : (until ?? 'ended by hand')),
              },
              {
                id: 'what can be done',
                hideHead: true,
                cell: ({ id, name, over }) =>
                  !over && (
                    <ActButton
                      to={name}
                      run={() => end(siteId, id)}
                      said={`“${name}” opens nothing any more.`}
                    >
                      End it
                    </ActButton>
                  ),
              },
            ]}
          />
        </div>
      )}
      <AskForm
        line
        fields={[
          { name: 'name', label: 'What it is for', className: 'w-56' },
          {
            ...{ name: 'right', label: 'May', value: 'log', className: 'w-64' },
            options: TOKEN_RIGHTS.map((right) => [right, RIGHT_SAYS[right]] as const),
          },
          {
            name: 'lastDay',
            label: 'Last day',
            type: 'date',
            className: 'w-40',
            hint: 'If left empty, it lasts until ended.',
          },
        ]}
        submit="Make the token"
        run={({ name = '', right, lastDay }) =>
          make(siteId, { name, right: right as TokenRight, lastDay: lastDay || null })
        }
        done={(key, { name = '' }) => {
          setMade({ name, key });
          router.refresh();
        }}
      />
      {made && (
        <ShownOnce
          label={`The token “${made.name}”`}
          text={made.key}
          note="Shown this once; only a digest of it is stored. Keep it where your scripts keep secrets."
        />
      )}
    </section>
  );
}
