import { ASPECTS, type Difference } from '@/core/markup/differences';
import { ComparedTexts, NamedText } from '../kit/ComparedTexts';

/** In what two snapshots of a page differ, each part word by word. */
export function Differences({ differences }: { differences: readonly Difference[] }) {
  return (
    <div className="space-y-2 text-[0.93rem]">
      {differences.map(({ aspect, before, after }) => (
        <section key={aspect} className="grid gap-x-4 md:grid-cols-[11rem_1fr]">
          <h3 className="font-sans text-[0.93rem] font-semibold!">{ASPECTS[aspect].name}</h3>
          <dl className="max-h-60 space-y-0.5 overflow-y-auto">
            {before !== null && after !== null ? (
              <ComparedTexts oldText={before} newText={after} />
            ) : (
              <NamedText name={before === null ? 'new' : 'gone'}>{before ?? after}</NamedText>
            )}
          </dl>
        </section>
      ))}
    </div>
  );
}
