import type { Said } from '@/core/words/termsOnPage';
import { SAID_WORDS } from '@/core/openings/takeOn';

/** Whether a page says a search, and which of its words it does not; null where the page has not been fetched. */
export function SaidText({ said }: { said: Said | null }) {
  if (!said) return <span className="muted">not fetched</span>;
  const lacking = said.where === 'nowhere' || said.where === 'parts';
  return (
    <>
      {lacking ? <b className="font-semibold">{SAID_WORDS[said.where]}</b> : SAID_WORDS[said.where]}
      {said.where === 'parts' && said.missing.length > 0 && `: not ${said.missing.join(', ')}`}
      {said.otherwise && ', in another form'}
    </>
  );
}
