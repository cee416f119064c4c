import type { ChangeFormValues } from './formValues';

const LAST_CHOICES = 'tally:last-choices';

function lastChoices(): Partial<ChangeFormValues> {
  try {
    const { person } = JSON.parse(localStorage.getItem(LAST_CHOICES) ?? '{}') as Partial<ChangeFormValues>;
    return person ? { person } : {};
  } catch {
    return {};
  }
}

/** Remembers who made the change. The type is suggested by the words of the next one instead. */
export function rememberChoices({ person }: ChangeFormValues): void {
  try {
    localStorage.setItem(LAST_CHOICES, JSON.stringify({ person }));
  } catch {}
}

/** What the draft of a form is about: the change that it edits, or a new one by what was filled in for it. */
export function draftOf(
  siteId: number,
  changeId: number | null,
  initial: ChangeFormValues,
): { readonly what: string; readonly begin?: () => ChangeFormValues } {
  if (changeId !== null) return { what: `change:${changeId}` };
  const { followsId, title, pages, queries, oldText, newText } = initial;
  const given = [followsId ?? '', title.slice(0, 60), pages.length, pages[0] ?? '', queries.slice(0, 60)];
  const what = `change:new:${siteId}:${given.join('|')}`;
  // A form that is filled in from elsewhere says itself what kind it is.
  return title + oldText + newText === ''
    ? { what, begin: () => ({ ...initial, ...lastChoices() }) }
    : { what };
}
