import { AppLink } from '../kit/AppLink';
import { pagePath } from '@/core/address/address';
import type { PageRef } from '@/core/model/change';
import { plural } from '@/core/words/format';
import { Part } from '../reading/HowTo';
import { routes } from '../shell/routes';

type Props = {
  siteId: number;
  from: readonly PageRef[];
  candidates: readonly { readonly page: PageRef; readonly words: readonly string[] }[];
};

const MOST_NAMED = 6;

/** Which pages of the site link to a page, and which speak of the same and do not. */
export function LinksPart({ siteId, from, candidates }: Props) {
  const page = (one: PageRef) => (
    <AppLink href={routes.page(siteId, one.id)} className="inline-link">
      {pagePath(one.address)}
    </AppLink>
  );
  return (
    <Part title="Links to it">
      <p>
        {from.length === 0
          ? 'No page of the site links to it, as far as they were fetched.'
          : `${plural(from.length, 'page')}: `}
        {from.slice(0, MOST_NAMED).map((one, i) => (
          <span key={one.id}>
            {i > 0 && ', '}
            {page(one)}
          </span>
        ))}
        {from.length > MOST_NAMED && ` and ${from.length - MOST_NAMED} more`}
        {from.length > 0 && '.'}
      </p>
      {candidates.length > 0 && (
        <>
          <p className="mt-1">These speak of the same and do not link to it:</p>
          <ul>
            {candidates.map((one) => (
              <li key={one.page.id}>
                {page(one.page)}{' '}
                {one.words.length > 0 && (
                  <span className="muted">words for the link: “{one.words.join(' ')}”</span>
                )}
              </li>
            ))}
          </ul>
        </>
      )}
    </Part>
  );
}
