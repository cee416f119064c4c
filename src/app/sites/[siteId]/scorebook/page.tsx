import type { Metadata } from 'next';
import { AppLink } from '@/ui/kit/AppLink';
import { SCORED_BY, type ScoredBy } from '@/core/scorebook/scorebook';
import { askScorebook } from '@/app/ask';
import { sitesOf } from '@/services/access/sites';
import { Screen } from '@/ui/kit/Screen';
import { ForecastsPart } from '@/ui/scorebook/ForecastsPart';
import { LinesPart } from '@/ui/scorebook/LinesPart';
import { MarksEffects } from '@/ui/scorebook/MarksEffects';
import { RankedPart } from '@/ui/scorebook/RankedPart';
import { routes } from '@/ui/shell/routes';
import { siteFromPath, type SitePageProps } from '../site';

export const metadata: Metadata = { title: 'Scorebook' };

type Text = string | string[] | undefined;
type Props = SitePageProps & { searchParams: Promise<{ by?: Text; sites?: Text }> };

const BY_NAMES: Readonly<Record<ScoredBy, string>> = {
  kind: 'kind of change',
  tag: 'tag',
  person: 'person',
  group: 'part of the site',
  mark: 'mark of a title',
};

/** What each sort of change has brought: pooled, one line each; winners and losers; forecasts held to account. */
export default async function ScorebookPage({ params, searchParams }: Props) {
  const { db, site, asker } = await siteFromPath((await params).siteId);
  const wish = await searchParams;
  const by = SCORED_BY.find((one) => one === wish.by) ?? 'kind';
  const sites = sitesOf(db, asker);
  const together = wish.sites === 'all' && sites.length > 1;
  const siteIds = together ? sites.map(({ id }) => id) : [site.id];
  const book = await askScorebook(siteIds, by);
  const href = (of: ScoredBy, all: boolean) => {
    const query = new URLSearchParams({
      ...(of === 'kind' ? {} : { by: of }),
      ...(all ? { sites: 'all' } : {}),
    });
    return routes.scorebook(site.id, query.size > 0 ? `?${query}` : '');
  };
  return (
    <Screen
      title="Scorebook"
      aside={
        sites.length > 1 && (
          <p className="text-[0.9rem]">
            {together ? (
              <>
                {sites.length} sites together ·{' '}
                <AppLink href={href(by, false)} className="inline-link">
                  {site.name} alone
                </AppLink>
              </>
            ) : (
              <AppLink href={href(by, true)} className="inline-link">
                All {sites.length} sites together
              </AppLink>
            )}
          </p>
        )
      }
    >
      {book.read === 0 ? (
        <p className="max-w-2xl font-serif text-[1.2rem]">
          Nothing was read to its end yet. Once the days of the first changes are over, it stands here what
          each kind of change brought.
        </p>
      ) : (
        <>
          <LinesPart
            book={book}
            byName={BY_NAMES[by]}
            ways={SCORED_BY.map((one) => ({
              name: BY_NAMES[one],
              href: href(one, together),
              here: one === by,
            }))}
          />
          <div className="mt-6 grid gap-x-10 gap-y-6 xl:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
            <RankedPart book={book} />
            <div className="min-w-0 space-y-6">
              <ForecastsPart book={book} />
              <MarksEffects marks={book.marks} />
            </div>
          </div>
        </>
      )}
    </Screen>
  );
}
