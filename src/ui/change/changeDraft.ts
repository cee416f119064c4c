import { OWN_KIND, type ChangeFormValues } from './formValues';

const LAST_CHOICES = 'tally:last-choices';

function lastChoices(): Partial<ChangeFormValues> {
  try {
    return JSON.parse(localStorage.getItem(LAST_CHOICES) ?? '{}') as Partial<ChangeFormValues>;
  } catch {
    return {};
  }
}

/** Remembers the choices that are likely to be the same next time. */
export function rememberChoices({ kind, person }: ChangeFormValues): void {
  try {
    // A custom kind is among the kinds the next time, under its own name.
    localStorage.setItem(LAST_CHOICES, JSON.stringify(kind === OWN_KIND ? { person } : { kind, person }));
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
