'use client';

import type { useEditConflict } from './useEditConflict';

type Props = {
  meanwhile: ReturnType<typeof useEditConflict>;
  /** Puts what the other person wrote, or one's own again, into the form. */
  onChoose: (field: string, choice: 'mine' | 'theirs') => void;
};

/** Both texts of each field that two people have changed, to choose from. */
export function EditConflictChoice({ meanwhile, onChoose }: Props) {
  const { contested, chosen, choose } = meanwhile;
  if (contested.length === 0) return null;
  return (
    <div
      role="group"
      aria-label="Changed by somebody else meanwhile"
      className="border-l-3 border-(--band) pl-3"
    >
      <p className="font-serif text-[1.1rem]">
        Somebody else changed the same while you were at it. Choose what shall stand.
      </p>
      {contested.map(({ field, name, mine, theirs }) => (
        <fieldset key={field} className="mt-2 text-[0.9rem]">
          <legend className="font-semibold">{name}</legend>
          {(
            [
              ['mine', 'yours', mine],
              ['theirs', 'theirs, saved', theirs],
            ] as const
          ).map(([choice, label, text]) => (
            <label key={choice} className="flex items-baseline gap-2 py-0.5">
              <input
                type="radio"
                className="radio radio-sm translate-y-0.5"
                name={`meanwhile-${field}`}
                checked={chosen.get(field) === choice}
                onChange={() => {
                  choose(field, choice);
                  onChoose(field, choice);
                }}
              />
              <span className="muted w-24 shrink-0">{label}</span>
              <span className="min-w-0 break-words whitespace-pre-wrap">
                {text || <span className="muted">nothing</span>}
              </span>
            </label>
          ))}
        </fieldset>
      ))}
    </div>
  );
}
