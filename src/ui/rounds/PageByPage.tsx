import { AppLink } from '../kit/AppLink';
import { pagePath } from '@/core/address/address';
import { HELD_WITHIN } from '@/core/effect/verdict';
import type { PageOfRound, TurnReading } from '@/core/rounds/reading';
import type { RoundMeasure } from '@/core/measures/registry';
import { ABSENT, netPercent } from '@/core/words/format';
import { RangeBar } from '../reading/RangeBar';
import { routes } from '../shell/routes';

const TITLES: Readonly<Record<RoundMeasure, string>> = {
  appeal: 'Page by page, chosen more or less',
  clicks: 'Page by page, clicks',
  showings: 'Page by page, shown more or less',
  rank: 'Page by page, position',
};
const MOST_SCALE = Math.log(2.2);
const SHOWN = 200;

/** Every page of a turn as a dot with its range, the changed ones first. */
export function PageByPage({ siteId, turn }: { siteId: number; turn: TurnReading }) {
  const { judged, pages, half } = turn;
  const known = pages.flatMap(({ effects }) => effects[judged] ?? []);
  if (known.length === 0) return null;
  const reach = Math.max(...known.map(({ low, high }) => Math.max(Math.abs(low), Math.abs(high))));
  const most = Math.min(MOST_SCALE, Math.max(Math.log(1.25), reach));
  const changed = pages.filter((one) => one.changed);
  const others = pages.filter((one) => !one.changed);
  return (
    <section aria-label={TITLES[judged]}>
      <h2 className="border-b border-base-content text-[1.05rem]">{TITLES[judged]}</h2>
      <div className="max-h-[34rem] overflow-y-auto" tabIndex={0} role="region" aria-label="Its pages">
        <Rows {...{ siteId, pages: changed, judged, most }} />
        {others.length > 0 && (
          <>
            <p className="muted mt-1 font-serif text-[0.85rem] italic">
              {half === 'first' ? 'waiting, for comparison' : 'changed before, for comparison'}
            </p>
            <Rows {...{ siteId, pages: others, judged, most }} />
          </>
        )}
      </div>
      <p className="muted mt-1 text-[0.78rem]">
        Each page by itself, net of the site; one page alone says little.
      </p>
    </section>
  );
}

function Rows({
  siteId,
  pages,
  judged,
  most,
}: {
  siteId: number;
  pages: readonly PageOfRound[];
  judged: RoundMeasure;
  most: number;
}) {
  return (
    <ul>
      {pages.slice(0, SHOWN).map(({ page, changed, effects }) => {
        const one = effects[judged];
        const range = one && (judged === 'rank' ? { net: -one.net, low: -one.high, high: -one.low } : one);
        return (
          <li
            key={page.id}
            className={`hairline flex items-center gap-2 border-b py-0.5 text-[0.85rem] ${changed ? '' : 'muted'}`}
          >
            <AppLink
              href={routes.page(siteId, page.id)}
              className="min-h-6 min-w-0 flex-1 truncate leading-6 hover:underline"
            >
              {pagePath(page.address)}
            </AppLink>
            {one && range ? (
              <>
                <RangeBar range={range} most={most} level={Math.log1p(HELD_WITHIN)} mark={one.mark} />
                <span className="w-14 shrink-0 text-right">{netPercent(Math.exp(range.net))}</span>
                <span className="sr-only">
                  {one.mark}, {netPercent(Math.exp(range.low))} to {netPercent(Math.exp(range.high))}
                </span>
              </>
            ) : (
              <span className="w-14 text-right">{ABSENT}</span>
            )}
          </li>
        );
      })}
    </ul>
  );
}
