import { z } from 'zod';
import { INTENT_NAMES } from '../model/intents';

/** Purposes of a site’s word lists: signals of an intent, or stop words. */
export const WORD_PURPOSES = ['to-learn', 'to-compare', 'to-buy', 'joining'] as const;
export type WordPurpose = (typeof WORD_PURPOSES)[number];

export const PURPOSE_NAMES: Readonly<Record<WordPurpose, string>> = {
  'to-learn': `Words of searches ${INTENT_NAMES['to-learn']}`,
  'to-compare': `Words of searches ${INTENT_NAMES['to-compare']}`,
  'to-buy': `Words of searches ${INTENT_NAMES['to-buy']}`,
  joining: 'Words that only join others',
};

/** Words of a site as they are sent: in lower case, each once. */
export const wordListSchema = z
  .array(z.string().trim().toLowerCase().min(1).max(60, 'A word has at most 60 letters.'))
  .max(2000, 'At most 2,000 words.')
  .transform((words) => [...new Set(words)]);
