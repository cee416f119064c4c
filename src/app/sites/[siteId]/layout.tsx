import { cookies } from 'next/headers';
import type { ReactNode } from 'react';
import { may, mayInGeneral, RIGHTS } from '@/core/access/rights';
import { lastReadableDay } from '@/core/reading/readable';
import { mediumDay, plural } from '@/core/words/format';
import { isBehind } from '@/jobs/questions/ask';
import { today } from '@/store/clock';
import { siteCoverage } from '@/store/figures/coverage';
import { sitesOf } from '@/services/access/sites';
import { SiteDays } from '@/ui/kit/dates/SiteDays';
import { MayProvider } from '@/ui/shell/May';
import { Rail } from '@/ui/shell/Rail';
import { Shortcuts } from '@/ui/shell/Shortcuts';
import { themeFrom } from '@/ui/shell/theme';
import { siteFromPath } from './site';

type Props = { children: ReactNode; params: Promise<{ siteId: string }> };

export default async function SiteLayout({ children, params }: Props) {
  const { db, site, asker } = await siteFromPath((await params).siteId);
  const coverage = siteCoverage(db, site.id);
  const now = today(site.timeZone);
  const newest = coverage ? lastReadableDay(coverage, site.provisionalDays) : now;
  const provisional = coverage ? coverage.lastDay - newest : 0;
  const behind = isBehind(site.id);
  const figures = behind
    ? 'Newer figures came in and are being worked in; what you see are those before them'
    : coverage
      ? `Figures to ${mediumDay(coverage.lastDay)}${provisional > 0 ? `, the last ${plural(provisional, 'day')} provisional` : ''}`
      : 'No figures yet';
  const rights = RIGHTS.filter((right) => may(asker, right, site.id));
  return (
    <MayProvider rights={rights}>
      <div className="wide:flex wide:h-screen">
        <a
          href="#main"
          className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-base-100 focus:p-2"
        >
          Skip to the content
        </a>
        <Rail
          site={site}
          sites={sitesOf(db, asker)}
          figures={figures}
          behind={behind}
          who={asker.kind === 'person' ? asker.name : null}
          mayAdd={mayInGeneral(asker, 'administer')}
          theme={themeFrom((await cookies()).get('theme')?.value)}
        />
        <SiteDays today={now} newest={newest}>
          {children}
        </SiteDays>
        <Shortcuts siteId={site.id} />
      </div>
    </MayProvider>
  );
}
