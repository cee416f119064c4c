'use client';

import { z } from 'zod';
import { LANGUAGE_NAMES, type Language } from '@/core/model/languages';
import { PURPOSE_NAMES, WORD_PURPOSES, wordListSchema, type WordPurpose } from '@/core/words/purposes';
import type { Act } from '../kit/attempt';
import { Field } from '../kit/Field';
import { useToast } from '../kit/Toast';
import { useAct } from '../kit/useAct';
import { EntityForm } from '../kit/EntityForm';
import { useEntityForm, type FormCodec } from '../kit/useEntityForm';

type Words = Record<WordPurpose, string[]>;
type Texts = Record<WordPurpose, string>;

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

const forEach = <T,>(of: (purpose: WordPurpose) => T) =>
  Object.fromEntries(WORD_PURPOSES.map((purpose) => [purpose, of(purpose)])) as Record<WordPurpose, T>;

const textsOf = (words: Props['words']) => forEach((purpose) => words[purpose].join(' '));

const CODEC: FormCodec<Texts, Words> = {
  toSent: (texts) => forEach((purpose) => texts[purpose].split(/[\s,;]+/).filter(Boolean)),
  toTyped: textsOf,
};

/** The words of a site's language: what gives the intent of a search away, and what only joins other words. */
export function WordsForm({ siteId, language, words, save }: Props) {
  const { act } = useAct();
  const say = useToast();
  const initial = textsOf(words);
  const form = useEntityForm<Texts, Words, null>({
    ...{ what: null, initial, codec: CODEC, schema: z.record(z.string(), wordListSchema), editing: false },
    send: (_, __, { given }) => save(siteId, language, given),
    done: () =>
      say('Kept.', () =>
        act(
          () => save(siteId, language, CODEC.toSent(initial)),
          () => form.reset(initial),
        ),
      ),
  });
  return (
    <EntityForm
      form={form}
      className="max-w-md"
      heading={
        <>
          <h2 className="text-lg">Words, {LANGUAGE_NAMES[language]}</h2>
          <p className="muted text-[0.85rem]">
            Parted by spaces or commas. Left empty, the usual words come back. Where it matters, a query’s own
            screen says what it is after.
          </p>
        </>
      }
      buttons={
        <button type="submit" className="btn btn-sm" disabled={form.busy}>
          Keep these words
        </button>
      }
    >
      {WORD_PURPOSES.map((purpose) => (
        <Field
          key={purpose}
          label={PURPOSE_NAMES[purpose]}
          hint={HINTS[purpose]}
          error={form.errorOf(purpose)}
        >
          {(c) => (
            <textarea
              {...c}
              {...form.register(purpose)}
              rows={purpose === 'joining' ? 4 : 2}
              className="textarea w-full"
            />
          )}
        </Field>
      ))}
    </EntityForm>
  );
}
