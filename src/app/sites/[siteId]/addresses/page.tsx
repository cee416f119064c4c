import { parseJson } from '@/core/parseJson';
import type { Metadata } from 'next';
import { addressRulesSchema, type AddressRules } from '@/core/model/addressRules';
import { plural } from '@/core/words/format';
import { joinsView } from '@/store/addresses/joins';
import { previewRules, rulesBefore, shortPreview } from '@/store/addresses/rekey';
import { JoinsTable } from '@/ui/addresses/JoinsTable';
import { RulesForm } from '@/ui/addresses/RulesForm';
import { Screen } from '@/ui/kit/Screen';
import { siteFromPath, type SitePageProps } from '../site';
import { join, keepRules, lookAtRules, undoLastRules } from './actions';

export const metadata: Metadata = { title: 'Addresses' };

type Props = SitePageProps & { searchParams: Promise<{ rules?: string | string[] }> };

export default async function AddressesPage({ params, searchParams }: Props) {
  const { db, site } = await siteFromPath((await params).siteId, 'edit');
  const tried = rulesIn((await searchParams).rules);
  const { pagesNow } = previewRules(db, site, site.rules);
  const view = joinsView(db, site);
  const apart = view.left.length + view.right.length;
  return (
    <Screen
      title="Addresses"
      lead={`${plural(pagesNow, 'page')} with figures. Sources spell addresses differently; here is settled which of them are one page.`}
    >
      <RulesForm
        key={JSON.stringify(site.rules)}
        siteId={site.id}
        home={site.address}
        rules={site.rules}
        before={rulesBefore(db, site.id)}
        look={lookAtRules}
        keep={keepRules}
        undo={undoLastRules}
        tried={tried && { rules: tried, preview: shortPreview(previewRules(db, site, tried)) }}
      />
      <section aria-labelledby="joins" className="mt-8 max-w-5xl">
        <h2 id="joins" className="mb-1 text-xl">
          What matches between sources
        </h2>
        {view.matched + view.right.length === 0 ? (
          <p className="max-w-2xl">
            Only search figures are here so far. Bring in landing-page figures (sessions, conversions,
            revenue) and every address that one source has and the other does not is listed here, with the
            nearest candidate.
          </p>
        ) : (
          <p className="font-serif text-lg">
            {plural(view.matched, 'page')} {view.matched === 1 ? 'is' : 'are'} in both sources
            {apart === 0
              ? ', and nothing is left over.'
              : `, ${plural(apart, 'address', 'addresses')} in one alone.`}
          </p>
        )}
        <JoinsTable
          siteId={site.id}
          home={site.address}
          title="In landing-page figures, not in search figures"
          rows={view.right}
          join={join}
        />
        {view.matched + view.right.length > 0 && (
          <JoinsTable
            siteId={site.id}
            home={site.address}
            title="In search figures, not in landing-page figures"
            rows={view.left}
            join={join}
          />
        )}
        {view.byHand.length > 0 && (
          <JoinsTable
            siteId={site.id}
            home={site.address}
            title="Joined by hand"
            rows={view.byHand}
            join={join}
          />
        )}
      </section>
    </Screen>
  );
}

/** The rules that an address of this screen fills in, as a file's record does that they would help; null without. */
function rulesIn(text: string | string[] | undefined): AddressRules | null {
  if (typeof text !== 'string') return null;
  try {
    return addressRulesSchema.safeParse(parseJson(text)).data ?? null;
  } catch {
    return null;
  }
}
