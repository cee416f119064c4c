'use client';

import { useState } from 'react';
import type { PageTraits } from '@/core/model/traits';
import type { Act } from '../kit/attempt';
import { useToast } from '../kit/Toast';
import { EditConflictChoice } from '../kit/EditConflictChoice';
import { useAct } from '../kit/useAct';
import { useConflict } from '../kit/useConflict';
import { useMay } from '../shell/May';

type Props = {
  siteId: number;
  pageId: number;
  traits: PageTraits;
  save: Act<[siteId: number, pageId: number, traits: PageTraits, base: PageTraits]>;
};

/** The search a page is meant for, what it matters, and whether it is meant to sink. */
export function PageTraitsForm({ siteId, pageId, traits, save }: Props) {
  const [target, setTarget] = useState(traits.target ?? '');
  const [weight, setWeight] = useState(traits.weight === null ? '' : String(traits.weight));
  const [sink, setSink] = useState(traits.sink);
  const { act, busy } = useAct();
  const say = useToast();
  const mayEdit = useMay('edit');
  const number = Number(weight.replace(',', '.'));
  const conflict = useConflict<PageTraits>({
    initial: traits,
    set: (chosen) => {
      if (chosen.target !== undefined) setTarget(chosen.target ?? '');
      if (chosen.weight !== undefined) setWeight(chosen.weight === null ? '' : String(chosen.weight));
      if (chosen.sink !== undefined) setSink(chosen.sink);
    },
    inWords: (field, of) => ({
      name: { target: 'target query', weight: 'weight', sink: 'meant to sink' }[field] ?? field,
      text: field === 'sink' ? (of.sink ? 'yes' : 'no') : String(of[field as keyof PageTraits] ?? ''),
    }),
  });
  const keep = (values: PageTraits) =>
    conflict.save(values, (given, base) => save(siteId, pageId, given, base));
  return (
    <form
      className="grid gap-1.5 text-[0.9rem]"
      onSubmit={(e) => {
        e.preventDefault();
        if (weight.trim() !== '' && !(number >= 0)) {
          say('The weight is a number: 1 is as usual, 2 twice as much.', undefined, true);
          return;
        }
        act(
          () =>
            keep({
              target: target.trim() || null,
              weight: weight.trim() === '' ? null : number,
              sink,
            }),
          () => say('Kept.', () => act(() => keep(traits))),
        );
      }}
    >
      <EditConflictChoice meanwhile={conflict.meanwhile} onChoose={conflict.choose} />
      <fieldset className="contents" disabled={!mayEdit}>
        <label className="flex items-baseline justify-between gap-3">
          target query
          <input
            className="input input-sm w-56"
            maxLength={500}
            value={target}
            onChange={(e) => setTarget(e.target.value)}
          />
        </label>
        <label className="flex items-baseline justify-between gap-3">
          weight, 1 is as usual
          <input
            className="input input-sm w-56"
            inputMode="decimal"
            value={weight}
            onChange={(e) => setWeight(e.target.value)}
          />
        </label>
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={sink}
            onChange={(e) => setSink(e.target.checked)}
          />
          meant to sink: it is offered no work
        </label>
      </fieldset>
      {mayEdit && (
        <p>
          <button type="submit" className="inline-link" disabled={busy}>
            Keep
          </button>
        </p>
      )}
    </form>
  );
}
