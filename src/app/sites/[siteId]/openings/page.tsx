import type { Metadata } from 'next';
import { AppLink } from '@/ui/kit/AppLink';
import type { Day } from '@/core/calendar/day';
import type { OpeningDetail } from '@/core/openings/named';
import { OPENING_KINDS, type OpeningKind } from '@/core/openings/kinds';
import { spanText } from '@/core/words/format';
import { ask } from '@/app/ask';
import type { OpeningsPart, OpeningsQuery } from '@/services/openings/kept';
import { today } from '@/store/clock';
import { OpeningPane } from '@/ui/openings/OpeningPane';
import { OpeningsList } from '@/ui/openings/OpeningsList';
import { UnderWay } from '@/ui/kit/UnderWay';
import { Screen } from '@/ui/kit/Screen';
import { routes } from '@/ui/shell/routes';
import { siteFromPath, type SitePageProps } from '../site';
import { Soon } from '@/app/Soon';
import { pass, takeUp } from './actions';

export const metadata: Metadata = { title: 'Openings' };

type Text = string | string[] | undefined;
type Props = SitePageProps & { searchParams: Promise<{ kind?: Text; open?: Text; cursor?: Text }> };

const one = (text: Text) => (Array.isArray(text) ? text[0] : text);
const LIMIT = 50;

/** Where work is likely to pay: a list, the best first, and beside it the one that was chosen. */
export default async function OpeningsPage({ params, searchParams }: Props) {
  const { site } = await siteFromPath((await params).siteId);
  const wish = await searchParams;
  const kind = OPENING_KINDS.find((known) => known === one(wish.kind)) ?? null;
  const cursor = one(wish.cursor) ?? '';
  const from = /^\d{1,9}$/.test(cursor) ? Number(cursor) : 0;
  const chosen = one(wish.open) ?? null;
  const asked = openingsWith(site.id, { span: null, kind, pageId: null, from, limit: LIMIT }, chosen);
  return (
    <Soon
      asked={asked}
      waiting={
        <Screen title="Openings">
          <UnderWay siteId={site.id} what="Looking where work would pay" />
        </Screen>
      }
    >
      {(answer) => (
        <OpeningsBody {...{ siteId: site.id, day: today(site.timeZone), kind, from, chosen, answer }} />
      )}
    </Soon>
  );
}

/** Openings as they were asked for, and the one that is open. */
type Asked = {
  readonly found: OpeningsPart;
  readonly key: string | null;
  readonly detail: OpeningDetail | null;
} | null;

async function openingsWith(siteId: number, wish: OpeningsQuery, chosen: string | null): Promise<Asked> {
  const found = await ask('openings', { siteId, wish });
  if (!found) return null;
  const key = chosen ?? found.openings[0]?.key ?? null;
  return { found, key, detail: key === null ? null : await ask('opening', { siteId, key }) };
}

type BodyProps = {
  siteId: number;
  day: Day;
  kind: OpeningKind | null;
  from: number;
  chosen: string | null;
  answer: Asked;
};

function OpeningsBody({ siteId, day, kind, from, chosen, answer }: BodyProps) {
  if (!answer) {
    return (
      <Screen title="Openings">
        <p className="font-serif text-lg">There are no figures yet from which to see where work would pay.</p>
        <AppLink href={routes.intake(siteId)} className="btn btn-primary btn-sm mt-3">
          Bring figures in
        </AppLink>
      </Screen>
    );
  }
  const { found, key, detail } = answer;
  return (
    <>
      <OpeningsList
        siteId={siteId}
        {...{ openings: found.openings, total: found.total, kinds: found.kinds, kind, from, limit: LIMIT }}
        selected={detail ? key : null}
        chosen={chosen !== null}
        days={spanText(found.span)}
      />
      <main
        id="main"
        className={`min-w-0 flex-1 wide:h-screen wide:overflow-y-auto ${chosen === null ? 'max-wide:hidden' : ''}`}
      >
        {detail ? (
          <OpeningPane siteId={siteId} detail={detail} today={day} pass={pass} takeUp={takeUp} />
        ) : (
          <p className="p-6 font-serif text-lg">
            {chosen === null
              ? 'Nothing to show.'
              : 'This is no opening any more: what it rested on has changed, or it was put aside.'}
          </p>
        )}
      </main>
    </>
  );
}
