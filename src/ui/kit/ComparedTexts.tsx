import type { ReactNode } from 'react';
import { compareTexts } from '@/core/words/compare';

/** Old and new text, what went and what came marked word by word. */
export function ComparedTexts({ oldText, newText }: { oldText: string; newText: string }) {
  const parts = compareTexts(oldText, newText);
  return (
    <>
      <NamedText name="old">
        {parts.map(({ text, kind }, i) =>
          kind === 'came' ? null : kind === 'went' ? (
            <del key={i} className="decoration-error decoration-2">
              {text}
            </del>
          ) : (
            <span key={i}>{text}</span>
          ),
        )}
      </NamedText>
      <NamedText name="new">
        {parts.map(({ text, kind }, i) =>
          kind === 'went' ? null : kind === 'came' ? (
            <ins key={i} className="font-semibold decoration-accent decoration-2 underline-offset-3">
              {text}
            </ins>
          ) : (
            <span key={i}>{text}</span>
          ),
        )}
      </NamedText>
    </>
  );
}

/** A text under its name, in a list of descriptions. */
export function NamedText({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className="grid grid-cols-[2.6rem_1fr] gap-2">
      <dt className="muted text-[0.85rem]">{name}</dt>
      <dd className="break-words whitespace-pre-wrap">{children}</dd>
    </div>
  );
}
