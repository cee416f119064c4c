import type { Metadata } from 'next';
import Link from 'next/link';
import { OPENING_KINDS } from '@/core/openings/model';
import { spanText } from '@/core/words/format';
import { ask } from '@/jobs/questions/ask';
import { today } from '@/store/clock';
import { OpeningPane } from '@/ui/openings/OpeningPane';
import { OpeningsList } from '@/ui/openings/OpeningsList';
import { Screen } from '@/ui/parts/Screen';
import { routes } from '@/ui/shell/routes';
import { siteFromPath, type SitePageProps } from '../site';
import { pass, takeUp } from './actions';

export const metadata: Metadata = { title: 'Openings' };

type Text = string | string[] | undefined;
type Props = SitePageProps & { searchParams: Promise<{ kind?: Text; open?: Text; cursor?: Text }> };

const one = (text: Text) => (Array.isArray(text) ? text[0] : text);
const LIMIT = 50;

/** Where work is likely to pay: a list, the best first, and beside it the one that was chosen. */
export default async function OpeningsPage({ params, searchParams }: Props) {
  const { site } = siteFromPath((await params).siteId);
  const wish = await searchParams;
  const kind = OPENING_KINDS.find((known) => known === one(wish.kind)) ?? null;
  const cursor = one(wish.cursor) ?? '';
  const from = /^\d{1,9}$/.test(cursor) ? Number(cursor) : 0;
  const found = await ask('openings', {
    siteId: site.id,
    wish: { span: null, kind, pageId: null, from, limit: LIMIT },
  });
  if (!found) {
    return (
      <Screen title="Openings">
        <p className="font-serif text-lg">There are no figures yet from which to see where work would pay.</p>
        <Link href={routes.intake(site.id)} prefetch={false} className="btn btn-primary btn-sm mt-3">
          Bring figures in
        </Link>
      </Screen>
    );
  }
  const chosen = one(wish.open) ?? null;
  const key = chosen ?? found.openings[0]?.key ?? null;
  const detail = key === null ? null : await ask('opening', { siteId: site.id, key });
  return (
    <>
      <OpeningsList
        siteId={site.id}
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
          <OpeningPane siteId={site.id} detail={detail} today={today()} pass={pass} takeUp={takeUp} />
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
