import { AppLink } from '@/ui/kit/AppLink';
import { newestChange } from '@/store/ledger/findChanges';
import { siteCoverage } from '@/store/figures/coverage';
import { routes } from '@/ui/shell/routes';
import { siteFromPath, type SitePageProps } from '../site';
import { ReadingOf } from './reading';

/** Without a selection the newest change is read beside the list; on a narrow screen the list stands alone. */
export default async function LedgerPage({ params }: SitePageProps) {
  const { db, site } = await siteFromPath((await params).siteId);
  const newest = newestChange(db, site.id);
  if (newest) {
    return (
      <div className="max-wide:hidden">
        <ReadingOf site={site} change={newest} wish={{}} editsBefore={null} />
      </div>
    );
  }
  const hasFigures = siteCoverage(db, site.id) !== null;
  return (
    <div className="max-w-xl px-5 py-8">
      <h2 className="text-2xl">No change is logged yet</h2>
      <p className="mt-3 font-serif text-lg leading-snug">
        {hasFigures
          ? 'Log the first one: what was changed, on which page, on which day. Its reading is made at once.'
          : 'Two things make a reading: the daily figures of your pages, and a change that you log.'}
      </p>
      <p className="mt-4 flex gap-3">
        {!hasFigures && (
          <AppLink href={routes.intake(site.id)} className="btn btn-primary btn-sm">
            Bring figures in
          </AppLink>
        )}
        <AppLink href={routes.newChange(site.id)} className="btn btn-outline btn-sm">
          Log a change
        </AppLink>
      </p>
    </div>
  );
}
