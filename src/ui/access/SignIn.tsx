'use client';

import { useState } from 'react';
import type { Act } from '../kit/attempt';
import { AskForm } from './AskForm';
import { goFresh } from './goFresh';

type Props = {
  /** Where to go on to. */
  to: string;
  signIn: Act<[given: { email: string; password: string }], { codeWanted: boolean }>;
  giveCode: Act<[code: string]>;
};

/** Signing in: address and password, then the code of a second factor where there is one. */
export function SignIn({ to, signIn, giveCode }: Props) {
  const [codeWanted, setCodeWanted] = useState(false);
  // The whole document is fetched anew: nothing that was drawn for nobody stays.
  const goOn = () => goFresh(to);
  return codeWanted ? (
    <AskForm
      key="code"
      fields={[
        {
          ...{ name: 'code', label: 'Code', autoComplete: 'one-time-code', autoFocus: true },
          hint: 'The six digits that your device shows, or one of your spare codes.',
        },
      ]}
      submit="Go on"
      run={({ code }) => giveCode(code ?? '')}
      done={goOn}
    />
  ) : (
    <AskForm
      key="password"
      fields={[
        { name: 'email', label: 'E-mail', type: 'email', autoComplete: 'username', autoFocus: true },
        { name: 'password', label: 'Password', type: 'password', autoComplete: 'current-password' },
      ]}
      submit="Sign in"
      run={({ email = '', password = '' }) => signIn({ email, password })}
      done={({ codeWanted: more }) => (more ? setCodeWanted(true) : goOn())}
    />
  );
}
