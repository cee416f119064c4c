import { cookies } from 'next/headers';
import type { ReactNode } from 'react';
import { pagePath } from '@/core/address/address';
import { lastReadableDay } from '@/core/reading/readable';
import { mediumDay, plural } from '@/core/words/format';
import { listChanges } from '@/store/changes';
import { siteCoverage } from '@/store/figures';
import { listPages } from '@/store/pages';
import { listSites } from '@/store/sites';
import { Rail } from '@/ui/shell/Rail';
import { routes } from '@/ui/shell/routes';
import { Shortcuts, type Place } from '@/ui/shell/Shortcuts';
import { themeFrom } from '@/ui/shell/theme';
import { siteFromPath } from './site';

/** More pages than this are found on the pages screen, not in the go-anywhere list. */
const PAGES_IN_LIST = 500;

type Props = { children: ReactNode; params: Promise<{ siteId: string }> };

export default async function SiteLayout({ children, params }: Props) {
  const { db, site } = siteFromPath((await params).siteId);
  const coverage = siteCoverage(db, site.id);
  const provisional = coverage ? coverage.lastDay - lastReadableDay(coverage, site.provisionalDays) : 0;
  const figures = coverage
    ? `Figures to ${mediumDay(coverage.lastDay)}${provisional > 0 ? `, the last ${plural(provisional, 'day')} provisional` : ''}`
    : 'No figures yet';
  const changes = listChanges(db, site.id);
  const places: Place[] = [
    ...changes.map((c) => ({
      name: c.title,
      detail: `change, ${mediumDay(c.day)}`,
      href: routes.change(site.id, c.id),
    })),
    ...listPages(db, site.id)
      .slice(0, PAGES_IN_LIST)
      .map((page) => ({
        name: pagePath(page.address),
        detail: 'page',
        href: routes.page(site.id, page.id),
      })),
  ];
  return (
    <div className="wide:flex wide:h-screen">
      <a
        href="#main"
        className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-base-100 focus:p-2"
      >
        Skip to the content
      </a>
      <Rail
        site={site}
        sites={listSites(db)}
        figures={figures}
        theme={themeFrom((await cookies()).get('theme')?.value)}
      />
      {children}
      <Shortcuts siteId={site.id} places={places} />
    </div>
  );
}
