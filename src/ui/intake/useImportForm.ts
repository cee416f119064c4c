'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState, useTransition } from 'react';
import { z } from 'zod';
import type { IntakeSettings } from '@/core/intake/settings';
import { attempt, failureOf, type Act } from '../kit/attempt';
import { AS_TYPED, useEntityForm } from '../kit/useEntityForm';
import { routes } from '../shell/routes';

/** Props of the form for an uploaded file: how it is understood, and the actions on it. */
export type ImportFormProps<Seen> = {
  readonly siteId: number;
  readonly importId: number;
  readonly initial: Seen;
  readonly inspect: Act<[siteId: number, importId: number, stated: IntakeSettings], Seen>;
  readonly confirm: Act<[siteId: number, importId: number, stated: IntakeSettings]>;
  readonly discard: Act<[siteId: number, importId: number]>;
};

type Options<Seen> = ImportFormProps<Seen> & {
  /** Under what the draft is kept. */
  readonly what: string;
  /** All settings by which the file is understood, stated or not. */
  readonly settingsOf: (seen: Seen, stated: IntakeSettings) => IntakeSettings;
  readonly done: () => void;
};

const NOTHING_STATED: IntakeSettings = {};

/** Form for an uploaded file. The server re-inspects the file after each setting, until it is confirmed. */
export function useImportForm<Seen>(options: Options<Seen>) {
  const { siteId, importId, inspect, confirm, discard, settingsOf } = options;
  const router = useRouter();
  const [seen, setSeen] = useState(options.initial);
  const [looking, start] = useTransition();
  const form = useEntityForm<IntakeSettings, IntakeSettings, null>({
    ...{ what: options.what, initial: NOTHING_STATED, codec: AS_TYPED, editing: false },
    schema: z.looseObject({}),
    send: (_, __, { given }) => confirm(siteId, importId, settingsOf(seen, given)),
    done: options.done,
  });
  const look = (settings: IntakeSettings) =>
    start(async () => {
      const result = await attempt(() => inspect(siteId, importId, settings));
      if (!result.ok) return form.setError('root', { message: failureOf(result) });
      form.clearErrors();
      setSeen(result.value);
    });
  const { foundFrom } = form.draft;
  const again = useRef(() => look(form.getValues()));
  useEffect(() => {
    again.current = () => look(form.getValues());
  });
  useEffect(() => {
    // What a draft states was stated about the file as it was seen then.
    if (foundFrom !== null) again.current();
  }, [foundFrom]);
  return {
    form,
    seen,
    stated: form.watch(),
    busy: looking || form.busy,
    error: form.errorOf('root'),
    /** States something about the file, and looks at it again. */
    state: (edit: IntakeSettings) => {
      const settings = { ...settingsOf(seen, form.getValues()), ...edit };
      for (const [name, value] of Object.entries(settings))
        form.setValue(name as keyof IntakeSettings, value as never);
      look(settings);
    },
    drop: () =>
      start(async () => {
        const result = await attempt(() => discard(siteId, importId));
        if (result.ok) router.push(routes.intake(siteId));
        else form.setError('root', { message: failureOf(result) });
      }),
  };
}
