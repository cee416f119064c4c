import type { Metadata } from 'next';
import { may, mayInGeneral } from '@/core/access/rights';
import { cookies } from 'next/headers';
import { Screen } from '@/ui/kit/Screen';
import { Bookmarklet } from '@/ui/settings/Bookmarklet';
import { SettingsForm } from '@/ui/settings/SettingsForm';
import { ResultsSourceForm } from '@/ui/settings/ResultsSourceForm';
import { resultsAccess } from '@/store/wording/access';
import { WordsForm } from '@/ui/settings/WordsForm';
import { siteWords } from '@/store/words';
import { DELETED_KEPT_DAYS } from '@/store/keptDays';
import { siteContents } from '@/store/sites';
import { DeleteSite } from '@/ui/settings/DeleteSite';
import { WholeSite } from '@/ui/settings/WholeSite';
import { themeFrom } from '@/ui/shell/theme';
import { ThemeSwitch } from '@/ui/shell/ThemeSwitch';
import { siteFromPath, type SitePageProps } from '../site';
import { putBackSite } from '../../new/actions';
import { deleteSite, saveResultsSource, saveSettings, saveWords } from './actions';

export const metadata: Metadata = { title: 'Settings' };

export default async function SettingsPage({ params }: SitePageProps) {
  const { db, site, asker } = await siteFromPath((await params).siteId, 'edit');
  const owner = may(asker, 'own', site.id);
  const results = resultsAccess(db, site.id);
  return (
    <Screen title="Settings" lead="How this site’s changes are read, unless a change says otherwise.">
      <div className="grid gap-x-16 gap-y-8 wide:grid-cols-[28rem_28rem]">
        {owner ? (
          <SettingsForm site={site} mayAllowHosts={mayInGeneral(asker, 'administer')} save={saveSettings} />
        ) : (
          <p className="max-w-md">
            How this site is read, what is asked outside, and whether it stays is said by its owners.
          </p>
        )}
        <div className="space-y-8">
          <Bookmarklet siteId={site.id} />
          {owner && (
            <ResultsSourceForm
              siteId={site.id}
              address={results.address}
              country={results.country}
              hasToken={results.token !== ''}
              save={saveResultsSource}
            />
          )}
          <WordsForm
            key={site.language}
            siteId={site.id}
            language={site.language}
            words={siteWords(db, site.id, site.language)}
            save={saveWords}
          />
          <WholeSite siteId={site.id} />
          {owner && (
            <DeleteSite
              siteId={site.id}
              name={site.name}
              contents={siteContents(db, site.id)}
              keptDays={DELETED_KEPT_DAYS}
              remove={deleteSite}
              putBack={putBackSite}
            />
          )}
        </div>
      </div>
      {/* On a narrow screen the rail has no room for it. */}
      <div className="mt-8 w-40 wide:hidden">
        <ThemeSwitch theme={themeFrom((await cookies()).get('theme')?.value)} />
      </div>
    </Screen>
  );
}
