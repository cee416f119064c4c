'use client';

import { AppLink } from '../kit/AppLink';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { RoutineStep } from '@/core/routines/routine';
import type { Act } from '../kit/attempt';
import { DeleteButton } from '../kit/DeleteButton';
import { useAct } from '../kit/useAct';
import { routes } from '../shell/routes';
import { RoutineFields, type KeepRoutine } from './RoutineForm';
import { IfMay, useMay } from '../shell/May';

type Props = {
  siteId: number;
  routine: {
    readonly id: number;
    readonly name: string;
    readonly steps: readonly RoutineStep[];
    readonly rule: string;
    readonly firstDay: string;
  };
  about: string;
  /** The due day that its steps are ticked off for; null where it was never due. */
  dueOn: string | null;
  done: readonly { readonly step: number; readonly person: string | null; readonly on: string }[];
  keep: KeepRoutine;
  drop: Act<[siteId: number, id: number, deleted: boolean]>;
  tick: Act<
    [siteId: number, id: number, step: { dueOn: string; step: number; person: string }, done: boolean]
  >;
};

/** A routine with its steps, to be ticked off. */
export function RoutinePart({ siteId, routine, about, dueOn, done, keep, drop, tick }: Props) {
  const [editing, setEditing] = useState(false);
  const [person, setPerson] = useState('');
  const { act, busy } = useAct();
  const router = useRouter();
  const mayEdit = useMay('edit');
  const { id, name, steps, rule, firstDay } = routine;
  return (
    <section className="hairline min-w-0 border-t pt-2" aria-label={name}>
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2 className="min-w-0 flex-1 text-[1.15rem]">{name}</h2>
        <a href={routes.saveRoutine(siteId, id)} className="inline-link text-[0.85rem]">
          Markdown<span className="sr-only"> of {name}</span>
        </a>
        <IfMay right="edit">
          <button type="button" className="inline-link text-[0.85rem]" onClick={() => setEditing(!editing)}>
            {editing ? 'Leave it' : 'Edit'}
            <span className="sr-only"> {name}</span>
          </button>
          <span className="text-[0.85rem]">
            <DeleteButton
              said={`“${name}” was taken away.`}
              drop={() => drop(siteId, id, true)}
              putBack={() => drop(siteId, id, false)}
              dropped={router.refresh}
              back={router.refresh}
            >
              Take away<span className="sr-only"> {name}</span>
            </DeleteButton>
          </span>
        </IfMay>
      </div>
      <p className="muted text-[0.9rem]">{about}.</p>
      {editing ? (
        <RoutineFields
          siteId={siteId}
          id={id}
          initial={{ name, steps: [...steps], rule, firstDay }}
          keep={keep}
          kept={() => setEditing(false)}
        />
      ) : (
        <>
          <ol className="mt-1">
            {steps.map(({ text, link }, i) => {
              const ticked = done.find(({ step }) => step === i);
              return (
                <li key={`${i} ${text}`} className="hairline flex items-baseline gap-2 border-b py-1">
                  <input
                    type="checkbox"
                    className="checkbox checkbox-xs translate-y-0.5"
                    aria-label={`Done: ${text}`}
                    disabled={busy || dueOn === null || !mayEdit}
                    checked={ticked !== undefined}
                    onChange={() =>
                      act(
                        () =>
                          tick(
                            siteId,
                            id,
                            { dueOn: dueOn!, step: i, person: person.trim() },
                            ticked === undefined,
                          ),
                        router.refresh,
                      )
                    }
                  />
                  <span className="min-w-0 flex-1">
                    {link === null ? (
                      text
                    ) : (
                      <AppLink href={`/sites/${siteId}${link}`} className="inline-link">
                        {text}
                      </AppLink>
                    )}
                  </span>
                  {ticked && (
                    <span className="muted text-[0.8rem] whitespace-nowrap">
                      {[ticked.person, ticked.on].filter(Boolean).join(', ')}
                    </span>
                  )}
                </li>
              );
            })}
          </ol>
          {mayEdit && dueOn !== null && (
            <label className="muted mt-1 flex items-center gap-2 text-[0.85rem]">
              ticked off by
              <input
                className="input input-sm w-20"
                maxLength={60}
                value={person}
                onChange={(e) => setPerson(e.target.value)}
              />
            </label>
          )}
        </>
      )}
    </section>
  );
}
