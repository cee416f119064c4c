/** Languages whose words are known: by their stems, those that only join others, and those that give an intent away. */
export const LANGUAGES = ['en', 'de', 'fr', 'es', 'it'] as const;
export type Language = (typeof LANGUAGES)[number];

export const LANGUAGE_NAMES: Readonly<Record<Language, string>> = {
  en: 'English',
  de: 'German',
  fr: 'French',
  es: 'Spanish',
  it: 'Italian',
};
