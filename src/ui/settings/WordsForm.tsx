'use client';

import { useState } from 'react';
import { LANGUAGE_NAMES, type Language } from '@/core/model/languages';
import { PURPOSE_NAMES, WORD_PURPOSES, type WordPurpose } from '@/core/words/purposes';
import type { Act } from '../kit/attempt';
import { Field } from '../kit/Field';
import { useToast } from '../kit/Toast';
import { useAct } from '../kit/useAct';

type Words = Record<WordPurpose, string[]>;

type Props = {
  siteId: number;
  language: Language;
  words: Readonly<Record<WordPurpose, readonly string[]>>;
  save: Act<[siteId: number, language: Language, words: Words]>;
};

const HINTS: Readonly<Record<WordPurpose, string>> = {
  'to-learn': 'They count where none of the words below is said.',
  'to-compare': 'They count before all others.',
  'to-buy': 'They count before words to learn by.',
  joining: 'They never count where the words of titles, searches and pages are compared.',
};

const typed = (text: string) => text.split(/[\s,;]+/).filter(Boolean);

/** The words of a site's language: what gives the intent of a search away, and what only joins other words. */
export function WordsForm({ siteId, language, words, save }: Props) {
  const initial = Object.fromEntries(
    WORD_PURPOSES.map((purpose) => [purpose, words[purpose].join(' ')]),
  ) as Record<WordPurpose, string>;
  const [values, setValues] = useState(initial);
  const { act, busy } = useAct();
  const say = useToast();
  const put = (texts: Record<WordPurpose, string>, told: () => void) =>
    act(
      () =>
        save(
          siteId,
          language,
          Object.fromEntries(WORD_PURPOSES.map((purpose) => [purpose, typed(texts[purpose])])) as Words,
        ),
      told,
    );
  return (
    <form
      className="max-w-md space-y-3"
      onSubmit={(e) => {
        e.preventDefault();
        put(values, () => say('Kept.', () => put(initial, () => setValues(initial))));
      }}
    >
      <h2 className="text-lg">Words, {LANGUAGE_NAMES[language]}</h2>
      <p className="muted text-[0.85rem]">
        Parted by spaces or commas. Left empty, the usual words come back. Where it matters, a query’s own
        screen says what it is after.
      </p>
      {WORD_PURPOSES.map((purpose) => (
        <Field key={purpose} label={PURPOSE_NAMES[purpose]} hint={HINTS[purpose]}>
          {(c) => (
            <textarea
              {...c}
              value={values[purpose]}
              onChange={(e) => setValues({ ...values, [purpose]: e.target.value })}
              rows={purpose === 'joining' ? 4 : 2}
              className="textarea w-full"
            />
          )}
        </Field>
      ))}
      <button type="submit" className="btn btn-sm" disabled={busy}>
        Keep these words
      </button>
    </form>
  );
}
