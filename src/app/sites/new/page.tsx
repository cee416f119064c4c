import type { Metadata } from 'next';
import { AppLink } from '@/ui/kit/AppLink';
import { redirect } from 'next/navigation';
import { mayInGeneral } from '@/core/access/rights';
import { dayOfInstant } from '@/core/backup/retention';
import { addDays } from '@/core/calendar/day';
import { mediumDay } from '@/core/words/format';
import { database } from '@/store/database';
import { DELETED_KEPT_DAYS } from '@/store/keptDays';
import { deletedSites, listSites } from '@/store/sites';
import { DeletedSites } from '@/ui/settings/DeletedSites';
import { SiteArchiveForm } from '@/ui/settings/SiteArchiveForm';
import { NewSiteForm } from '@/ui/settings/NewSiteForm';
import { routes } from '@/ui/shell/routes';
import { TallyMark } from '@/ui/shell/TallyMark';
import { knownAsker } from '../[siteId]/site';
import { addNewSite, putBackSite } from './actions';

export const metadata: Metadata = { title: 'Add a site' };
export const dynamic = 'force-dynamic';

export default async function NewSitePage() {
  const asker = await knownAsker();
  if (!mayInGeneral(asker, 'administer')) redirect('/');
  const first = listSites(database())[0];
  return (
    <main id="main" className="mx-auto max-w-lg px-5 py-14">
      <p className="mb-8 flex items-center gap-3 font-serif text-xl font-semibold">
        <TallyMark className="h-7 w-8" /> Modest Tally
      </p>
      <h1 className="text-3xl">{first ? 'Add a site' : 'Which site do you look after?'}</h1>
      <p className="mt-3 mb-6 font-serif text-lg leading-snug">
        {first
          ? 'Its figures, changes and almanac are kept apart from those of your other sites.'
          : 'Bring in its daily search figures, log what you change on its pages, and read what happened before and after.'}
      </p>
      <NewSiteForm add={addNewSite} />
      <section aria-labelledby="saved-site" className="hairline mt-8 border-t pt-5">
        <h2 id="saved-site" className="text-xl">
          Or bring in a site that was saved elsewhere
        </h2>
        <p className="muted mt-1 mb-3 text-[0.95rem]">
          With its figures, changes, rounds and reports, as its settings saved all of it in another Modest
          Tally.
        </p>
        <SiteArchiveForm />
      </section>
      <DeletedSites
        sites={deletedSites(database()).map(({ id, name, address, deletedAt }) => ({
          ...{ id, name, address },
          until: mediumDay(addDays(dayOfInstant(deletedAt), DELETED_KEPT_DAYS)),
        }))}
        putBack={putBackSite}
      />
      {first && (
        <AppLink href={routes.ledger(first.id)} className="inline-link mt-6 inline-block">
          Back to {first.name}
        </AppLink>
      )}
    </main>
  );
}
