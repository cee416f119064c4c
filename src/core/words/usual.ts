import { INTENT_WORDS } from './intent';
import type { Language } from '../model/languages';
import type { WordPurpose } from './purposes';
import { JOINING_WORDS } from './stems';

/** The words of each purpose as they come. */
export function usualWords(language: Language): Readonly<Record<WordPurpose, readonly string[]>> {
  return { ...INTENT_WORDS[language], joining: JOINING_WORDS[language] };
}
