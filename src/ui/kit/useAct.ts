'use client';

import { useTransition } from 'react';
import { attempt, failureOf } from './attempt';
import type { FormResult } from './formResult';
import { useToast } from './Toast';

/** Runs what a button asks of the server, and says so where it failed. */
export function useAct() {
  const say = useToast();
  const [busy, start] = useTransition();
  const act = <T>(work: () => Promise<FormResult<T>>, done?: (value: T) => void | Promise<void>) =>
    start(async () => {
      const result = await attempt(work);
      if (result.ok) await done?.(result.value);
      else say(failureOf(result), undefined, true);
    });
  return { busy, act };
}
