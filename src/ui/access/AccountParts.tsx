'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { Act } from '../kit/attempt';
import { useToast } from '../kit/Toast';
import { routes } from '../shell/routes';
import { ActButton } from './ActButton';
import { AskForm, type Asked } from './AskForm';
import { goFresh } from './goFresh';
import { FiguresTable } from '../kit/table/FiguresTable';

const PASSWORD: Asked = {
  name: 'current',
  label: 'Your password',
  type: 'password',
  autoComplete: 'current-password',
};
const NEW_PASSWORD: Asked = {
  name: 'password',
  label: 'New password',
  type: 'password',
  autoComplete: 'new-password',
  hint: 'At least 12 characters; three or four words will do.',
};

/** Makes the first account of all. */
export function FirstAccount({
  run,
}: {
  run: Act<[given: { email: string; name: string; password: string }]>;
}) {
  return (
    <AskForm
      fields={[
        { name: 'email', label: 'E-mail', type: 'email', autoComplete: 'username' },
        {
          ...{ name: 'name', label: 'What you are called here', autoComplete: 'nickname' },
          hint: 'Stands beside what you do: initials will do.',
        },
        { ...NEW_PASSWORD, label: 'Password' },
      ]}
      submit="Make the first account"
      run={({ email = '', name = '', password = '' }) => run({ email, name, password })}
      done={() => goFresh(routes.account())}
    />
  );
}

/** What one is called, and one's password. */
export function NameAndPassword({
  name,
  rename,
  change,
}: {
  name: string;
  rename: Act<[name: string]>;
  change: Act<[given: { current: string; password: string }]>;
}) {
  const say = useToast();
  const router = useRouter();
  return (
    <div className="space-y-6">
      <section aria-labelledby="name">
        <h2 id="name" className="mb-2 text-lg">
          Name
        </h2>
        <AskForm
          key={name}
          line
          fields={[{ name: 'name', label: 'What you are called here', value: name }]}
          submit="Keep the name"
          run={({ name: given = '' }) => rename(given)}
          done={() => {
            say('From now on you are called so.');
            router.refresh();
          }}
        />
      </section>
      <section aria-labelledby="password">
        <h2 id="password" className="mb-2 text-lg">
          Password
        </h2>
        <AskForm
          fields={[PASSWORD, NEW_PASSWORD]}
          submit="Change the password"
          run={({ current = '', password = '' }) => change({ current, password })}
          done={() => {
            say('The password is changed; all other sessions have ended.');
            router.refresh();
          }}
        />
      </section>
    </div>
  );
}

type Begun = { picture: string; secret: string; spare: string[] };

/** The second factor: begun with the password, confirmed by a first code, taken off with the password. */
export function SecondFactor({
  on,
  begin,
  confirm,
  end,
}: {
  on: boolean;
  begin: Act<[password: string], Begun>;
  confirm: Act<[code: string]>;
  end: Act<[password: string]>;
}) {
  const [begun, setBegun] = useState<Begun | null>(null);
  const say = useToast();
  const router = useRouter();
  const done = (text: string) => {
    setBegun(null);
    say(text);
    router.refresh();
  };
  return (
    <section aria-labelledby="second-factor">
      <h2 id="second-factor" className="text-lg">
        Second factor
      </h2>
      <p className="muted mt-0.5 mb-2 text-[0.9rem]">
        {on
          ? 'It is on: after the password, a code of your device is asked for.'
          : 'A code from your phone after the password (RFC 6238): who learns the password alone does not come in.'}
      </p>
      {on ? (
        <AskForm
          key="end"
          fields={[PASSWORD]}
          submit="Take it off"
          run={({ current = '' }) => end(current)}
          done={() => done('The second factor is off.')}
        />
      ) : begun ? (
        <div className="space-y-3">
          <p>Have an application for one-time codes read this, or type the secret in:</p>
          {/* eslint-disable-next-line @next/next/no-img-element -- a picture that was made for this one answer */}
          <img
            src={begun.picture}
            alt="The secret as a pattern to be read by a camera"
            className="h-44 w-44 bg-white"
          />
          <p>
            <code className="break-all select-all">{begun.secret}</code>
          </p>
          <p className="text-[0.9rem]">Write these down: each opens once, should the device be lost.</p>
          <p className="columns-2 font-mono text-[0.85rem] select-all">
            {begun.spare.map((code) => (
              <span key={code} className="block">
                {code}
              </span>
            ))}
          </p>
          <AskForm
            key="confirm"
            line
            fields={[{ name: 'code', label: 'The code it shows now', autoComplete: 'one-time-code' }]}
            submit="Put it on"
            run={({ code = '' }) => confirm(code)}
            done={() => done('The second factor is on.')}
          />
        </div>
      ) : (
        <AskForm
          key="begin"
          fields={[PASSWORD]}
          submit="Begin"
          run={({ current = '' }) => begin(current)}
          done={setBegun}
        />
      )}
    </section>
  );
}

export type SessionLine = {
  readonly id: string;
  readonly since: string;
  readonly lastSeen: string;
  readonly ends: string;
  readonly from: string | null;
  readonly browser: string | null;
  readonly here: boolean;
};

/** Where one is signed in; each can be ended. */
export function Sessions({
  sessions,
  end,
  endOthers,
  leave,
}: {
  sessions: readonly SessionLine[];
  end: Act<[id: string]>;
  endOthers: Act<[]>;
  leave: Act<[]>;
}) {
  return (
    <section aria-labelledby="sessions">
      <h2 id="sessions" className="text-lg">
        Where you are signed in
      </h2>
      <FiguresTable
        label="Where you are signed in"
        className="mt-1 text-[0.9rem]"
        rows={sessions}
        rowKey={({ id }) => id}
        columns={[
          { id: 'since, UTC', text: true, cellClass: 'font-normal!', value: ({ since }) => since },
          { id: 'last seen', text: true, value: ({ lastSeen }) => lastSeen },
          { id: 'ends', text: true, value: ({ ends }) => ends },
          { id: 'from', text: true, value: ({ from }) => from ?? '–' },
          {
            id: 'browser',
            text: true,
            className: 'max-sm:hidden',
            cellClass: 'max-w-48 truncate',
            value: ({ browser }) => browser ?? '–',
            cell: ({ browser }) => (browser ? <span title={browser}>{browser}</span> : '–'),
          },
          {
            id: 'what can be done',
            hideHead: true,
            cell: ({ id, since, here }) =>
              here ? (
                <span className="muted">this one</span>
              ) : (
                <ActButton to={`the session since ${since}`} run={() => end(id)} said="It has ended.">
                  End it
                </ActButton>
              ),
          },
        ]}
      />
      <p className="mt-2 flex flex-wrap gap-x-5">
        <ActButton run={leave} done={() => goFresh(routes.signIn())}>
          Sign out
        </ActButton>
        {sessions.length > 1 && (
          <ActButton run={endOthers} said="All other sessions have ended.">
            End all others
          </ActButton>
        )}
      </p>
    </section>
  );
}
