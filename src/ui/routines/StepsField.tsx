'use client';

import { plural } from '@/core/words/format';
import { SortableList } from '../kit/SortableList';

/** A step as it is typed; the key tells it from others while it is moved. */
export type TypedStep = { readonly key: number; readonly text: string; readonly link: string };

type Props = {
  readonly steps: readonly TypedStep[];
  readonly onChange: (steps: readonly TypedStep[]) => void;
  readonly error: string | undefined;
};

/** The key that a further step gets. */
const nextKey = (steps: readonly TypedStep[]) => Math.max(0, ...steps.map(({ key }) => key)) + 1;

/** Steps as they are typed, of steps as they are saved; one to begin with where there are none. */
export function typedSteps(steps: readonly { text: string; link: string | null }[]): TypedStep[] {
  const begun = steps.length === 0 ? [{ text: '', link: null }] : steps;
  return begun.map(({ text, link }, key) => ({ key, text, link: link ?? '' }));
}

/** The steps of a routine in their order, each with the view that it opens. */
export function StepsField({ steps, onChange, error }: Props) {
  const edit = (key: number, now: Partial<TypedStep>) =>
    onChange(steps.map((step) => (step.key === key ? { ...step, ...now } : step)));
  const paste = (at: number, text: string) => {
    const lines = text.split('\n').flatMap((line) => line.trim() || []);
    const key = nextKey(steps);
    const pasted = lines.map((line, i) => ({ key: key + i, text: line, link: '' }));
    onChange([...steps.slice(0, at), ...pasted, ...steps.slice(at + (steps[at]!.text === '' ? 1 : 0))]);
  };
  return (
    <fieldset>
      <legend className="text-[0.85rem] font-semibold">Steps of the routine</legend>
      {error && <p className="text-[0.85rem] font-medium text-error">{error}</p>}
      <SortableList
        keys={steps.map(({ key }) => key)}
        nameOf={(_, i) => `step ${i + 1}`}
        onOrder={(keys) => onChange(keys.map((key) => steps.find((step) => step.key === key)!))}
        actions={(key, i) => (
          <button
            type="button"
            aria-label={`Remove: step ${i + 1}`}
            className="inline-link min-h-7 px-1"
            onClick={() => onChange(steps.filter((step) => step.key !== key))}
          >
            Remove
          </button>
        )}
      >
        {(key, i) => (
          <div className="flex flex-wrap gap-2">
            <input
              aria-label={`Step ${i + 1}`}
              className="input input-sm min-w-48 grow"
              placeholder="See what fell"
              maxLength={200}
              value={steps[i]!.text}
              onChange={(e) => edit(key, { text: e.target.value })}
              onPaste={(e) => {
                const text = e.clipboardData.getData('text');
                if (!text.includes('\n')) return;
                e.preventDefault();
                paste(i, text);
              }}
            />
            <input
              aria-label={`View of step ${i + 1}`}
              className="input input-sm w-60"
              placeholder="/desk, a view that it opens"
              value={steps[i]!.link}
              onChange={(e) => edit(key, { link: e.target.value })}
            />
          </div>
        )}
      </SortableList>
      <p className="mt-1 flex items-baseline gap-3 text-[0.85rem]">
        <button
          type="button"
          className="inline-link min-h-7"
          onClick={() => onChange([...steps, { key: nextKey(steps), text: '', link: '' }])}
        >
          Add a step
        </button>
        <span className="muted">{plural(steps.length, 'step')}. Several lines can be pasted at once.</span>
      </p>
    </fieldset>
  );
}
