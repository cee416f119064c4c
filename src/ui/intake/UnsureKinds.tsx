import { plural } from '@/core/words/format';
import { changeKindName } from '@/core/model/change';
import type { LedgerInspection } from '@/core/intake/ledgerInspection';
import { kindChoices } from '../change/formValues';

type Props = {
  unsure: LedgerInspection['unsure'];
  busy: boolean;
  /** Told of the types chosen for all of them, by what the sheet calls them. */
  onState: (kinds: Readonly<Record<string, string>>) => void;
};

/** Asks which types of change are meant by words that are not recognised. */
export function UnsureKinds({ unsure, busy, onState }: Props) {
  if (unsure.length === 0) return null;
  const now = Object.fromEntries(unsure.map(({ written, kind }) => [written, kind]));
  return (
    <fieldset className="mt-4 border-l-3 border-(--band) pl-3">
      <legend className="sr-only">Types of change that are not recognised</legend>
      <p className="font-semibold">
        {unsure.length === 1
          ? 'This type of change is not recognised. What is it?'
          : 'These types of change are not recognised. What are they?'}
      </p>
      <div className="mt-1 flex flex-wrap gap-x-8 gap-y-1">
        {unsure.map(({ written, rows, kind }) => (
          <label key={written} className="inline-flex items-center gap-2">
            “{written}” <span className="muted">{plural(rows, 'row')}</span>
            <select
              className="select select-sm w-56"
              value={kind}
              disabled={busy}
              onChange={(e) => onState({ ...now, [written]: e.target.value })}
            >
              {kindChoices([written, kind]).map(({ value, name }) => (
                <option key={value} value={value}>
                  {value === written ? `${changeKindName(written)} (a type of its own)` : name}
                </option>
              ))}
            </select>
          </label>
        ))}
      </div>
    </fieldset>
  );
}
