'use client';

import { useRouter } from 'next/navigation';
import type { Act } from '../kit/attempt';
import { useAct } from '../kit/useAct';
import { routes } from '../shell/routes';
import { AskForm, type Asked } from './AskForm';
import { goFresh } from './goFresh';

const NEW_PASSWORD: Asked = {
  name: 'password',
  label: 'Password',
  type: 'password',
  autoComplete: 'new-password',
  hint: 'At least 12 characters; three or four words will do.',
};

/** Makes the account that an invitation is for. */
export function AcceptForm({ run }: { run: Act<[given: { name: string; password: string }]> }) {
  return (
    <AskForm
      fields={[
        {
          ...{ name: 'name', label: 'What you are called here', autoComplete: 'nickname', autoFocus: true },
          hint: 'Stands beside what you do: initials will do.',
        },
        NEW_PASSWORD,
      ]}
      submit="Come in"
      run={({ name = '', password = '' }) => run({ name, password })}
      done={() => goFresh('/')}
    />
  );
}

/** Chooses a new password. */
export function NewPasswordForm({ run }: { run: Act<[password: string]> }) {
  const router = useRouter();
  return (
    <AskForm
      fields={[{ ...NEW_PASSWORD, label: 'New password', autoFocus: true }]}
      submit="Keep it"
      run={({ password = '' }) => run(password)}
      done={() => router.push(routes.signIn())}
    />
  );
}

/** Takes up an invitation with the account that is signed in. */
export function JoinButton({ run }: { run: Act<[]> }) {
  const { busy, act } = useAct();
  return (
    <button
      type="button"
      className="btn btn-primary"
      disabled={busy}
      onClick={() => act(run, () => goFresh('/'))}
    >
      Join
    </button>
  );
}
