import { pagePath } from '@/core/address/address';
import { changeKindName, type Change, type ChangePart } from '@/core/model/change';
import { historyLabel, PLAIN_FIELD_NAMES, plainField } from '@/core/model/changeFields';
import { plural } from '@/core/words/format';
import { ComparedTexts, NamedText } from '../kit/ComparedTexts';

/** Texts shown with a change; one on thousands of pages may have as many. */
const MOST_TEXTS = 100;

/** The old and new texts of a change, those of its parts, and its note. */
export function ChangeTexts({ change }: { change: Change }) {
  const { kind, oldText, newText, parts } = change;
  const further = PLAIN_FIELD_NAMES.filter((name) => plainField(name).inReading && change[name] !== null);
  if (!oldText && !newText && further.length === 0 && parts.length === 0)
    return <p className="muted">Nothing was noted. Edit the change to add it.</p>;
  const own: ChangePart = { kind, page: null, oldText, newText };
  const all = [...(oldText || newText ? [own] : []), ...parts];
  const more = all.length - MOST_TEXTS;
  return (
    <div className="space-y-3">
      {all.slice(0, MOST_TEXTS).map((part, i) => (
        <div key={i}>
          {parts.length > 0 && (
            <p className="text-[0.85rem] font-semibold">
              {part.page === null ? changeKindName(part.kind) : pagePath(part.page.address)}
              {part.page !== null && part.kind !== kind && `, ${changeKindName(part.kind).toLowerCase()}`}
            </p>
          )}
          <dl className="space-y-2">
            <OldAndNew {...part} />
          </dl>
        </div>
      ))}
      {more > 0 && <p className="muted">And {plural(more, 'text')} more, in the form to edit it.</p>}
      {further.length > 0 && (
        <dl>
          {further.map((name) => (
            <NamedText key={name} name={historyLabel(name)}>
              {String(change[name])}
            </NamedText>
          ))}
        </dl>
      )}
    </div>
  );
}

function OldAndNew({ oldText, newText }: Pick<ChangePart, 'oldText' | 'newText'>) {
  if (oldText && newText) return <ComparedTexts oldText={oldText} newText={newText} />;
  return (
    <>
      {oldText && <NamedText name="old">{oldText}</NamedText>}
      {newText && <NamedText name="new">{newText}</NamedText>}
    </>
  );
}
