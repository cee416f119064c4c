import type { Metadata } from 'next';
import { AppLink } from '@/ui/kit/AppLink';
import { altered, type Parameters } from '@/core/lists/address';
import { SiteContext } from '@/services/site/siteContext';
import { ListScreen } from '../lists/screen';
import { siteFromPath, type SitePageProps } from '../site';

export const metadata: Metadata = { title: 'Queries' };

type Props = SitePageProps & { searchParams: Promise<Parameters> };

/** The queries of a site, or each on each page that was shown for it. */
export default async function QueriesPage({ params, searchParams }: Props) {
  const { db, site } = await siteFromPath((await params).siteId);
  const parameters = await searchParams;
  const byPage = parameters['each'] === 'page';
  return (
    <ListScreen
      context={new SiteContext(db, site)}
      subject={byPage ? 'pairs' : 'queries'}
      parameters={parameters}
      above={
        <p className="mb-2 flex gap-4 text-[0.85rem]">
          <Choice here={!byPage} href={altered(parameters, { each: null, cursor: null }) || '?'}>
            one line a query
          </Choice>
          <Choice here={byPage} href={altered(parameters, { each: 'page', cursor: null })}>
            one line for each page it was shown for
          </Choice>
        </p>
      }
    />
  );
}

function Choice({ here, href, children }: { here: boolean; href: string; children: string }) {
  return here ? (
    <span aria-current="page" className="font-bold">
      {children}
    </span>
  ) : (
    <AppLink href={href} className="inline-link">
      {children}
    </AppLink>
  );
}
