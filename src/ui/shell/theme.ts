/** The looks: paper is light, slate dark, auto follows the system. */
export const THEMES = { auto: 'Look: system', paper: 'Look: paper', slate: 'Look: slate' } as const;
export type Theme = keyof typeof THEMES;

/** The theme that a cookie names; auto where it names none. */
export function themeFrom(value: string | undefined): Theme {
  return value !== undefined && Object.hasOwn(THEMES, value) ? (value as Theme) : 'auto';
}
