import { z } from 'zod';
import { INTENTS } from '../model/intents';
import { jsonFrom } from '../model/json';
import { ENTITY_KINDS } from './entities';
import { TITLE_MARKS } from './marks';
import { RESULT_KINDS } from './resultPage';
import type { WordedResult, Wording } from './wording';
import { wordingSentence } from './wordingSentence';

const termJson = z.object({
  term: z.string().meta({ description: 'Its stems, by which it is known.' }),
  forms: z.array(z.string()).meta({ description: 'How it is written, the most frequent first.' }),
  words: z.int(),
  results: z.int(),
  share: z.number().meta({ description: 'Of the results, weighted by rank.' }),
  inTitle: z.boolean().meta({ description: 'Whether one’s own title says it.' }),
});

const middleJson = z
  .object({ own: z.number().nullable(), low: z.number(), middle: z.number(), high: z.number() })
  .nullable()
  .meta({ description: 'The middle half of the other results, and one’s own.' });

const resultJson = jsonFrom(
  z.object({
    rank: z.int(),
    address: z.string(),
    title: z.string(),
    kind: z.enum(RESULT_KINDS),
    own: z.boolean(),
    marks: z.array(z.enum(TITLE_MARKS)),
    characters: z.int(),
    pixels: z.int(),
  }),
  (worded: WordedResult) => ({ ...worded.result, ...worded.measured, ...worded }),
);

/** What the titles of a result page share, as the API answers with it. */
export const wordingJson = jsonFrom(
  z
    .object({
      sentence: z.string(),
      results: z.array(resultJson),
      terms: z.array(termJson),
      missing: z.array(termJson).meta({ description: 'Terms that one’s own title does not say.' }),
      entities: z.array(
        z.object({ text: z.string(), kind: z.enum(ENTITY_KINDS), results: z.int(), inTitle: z.boolean() }),
      ),
      rare: z.array(z.object({ form: z.string(), results: z.int(), ownPages: z.int() })),
      lengths: z.object({ characters: middleJson, pixels: middleJson }),
      marks: z.record(z.enum(TITLE_MARKS), z.object({ results: z.int(), own: z.boolean() })),
      intent: z.object({ guess: z.enum(INTENTS).nullable(), reasons: z.array(z.string()) }),
    })
    .meta({ id: 'Wording' }),
  (wording: Wording) => ({ ...wording, sentence: wordingSentence(wording) }),
);
