import type { Metadata } from 'next';
import { AppLink } from '@/ui/kit/AppLink';
import { count } from '@/core/words/format';
import { actorsOf, AUDIT_KEPT_DAYS, listAuditEntries, type AuditEntry } from '@/store/access/auditEntries';
import { RESOURCES, resourceOf, type ResourceName } from '@/app/resources';
import { Screen } from '@/ui/kit/Screen';
import { routes } from '@/ui/shell/routes';
import { siteFromPath } from '../../site';
import { moment } from '../lines';
import { auditQuery } from './query';
import { ViewForm } from '@/ui/kit/view/ViewForm';
import { FiguresTable } from '@/ui/kit/table/FiguresTable';

export const metadata: Metadata = { title: 'Who did what' };

type Props = {
  params: Promise<{ siteId: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};
const SHOWN = 100;

/** The screen of an action's resource; null for what has no screen, or none any more. */
function screenOf(siteId: number, { on, thingId }: AuditEntry): string | null {
  if (thingId === null || on === null || !Object.hasOwn(RESOURCES, on)) return null;
  return resourceOf(on as ResourceName).screen?.(siteId, thingId) ?? null;
}

/** Everything that was done with a site: by whom, when, and to what. It can be filtered, and saved as a file. */
export default async function DeedsPage({ params, searchParams }: Props) {
  const { db, site } = await siteFromPath((await params).siteId, 'edit');
  const asked = await searchParams;
  const wish = auditQuery(site.id, asked);
  const { items, total } = listAuditEntries(db, wish, SHOWN);
  const said = Object.fromEntries(
    Object.entries(asked).flatMap(([name, value]) =>
      typeof value === 'string' && value !== '' && name !== 'before' ? [[name, value]] : [],
    ),
  );
  const last = items.at(-1);
  const filtered = Object.keys(said).length > 0;
  return (
    <Screen
      title="Who did what"
      lead={
        total === 0
          ? filtered
            ? 'Nothing that was done fits all of this.'
            : 'Nothing was done yet since this began to be noted.'
          : `${count(total)} ${total === 1 ? 'deed' : 'deeds'}${filtered ? ' that fit' : ''}, the last first. They are kept for two years (${AUDIT_KEPT_DAYS} days); histories of changes and events stay as long as these do.`
      }
      aside={
        <a
          href={routes.saveDeeds(site.id, new URLSearchParams(said).toString())}
          download
          className="inline-link min-h-7"
        >
          Save as CSV
        </a>
      }
    >
      <ViewForm
        action={routes.deeds(site.id)}
        keep={{ on: said.on ?? '', thing: said.thing ?? '' }}
        fields={[
          {
            type: 'choice',
            name: 'actor',
            label: 'Who',
            options: [
              ['', 'anybody'],
              ...actorsOf(db, site.id).map((actor) =>
                actor === '' ? (['-', 'whoever was alone here'] as const) : ([actor, actor] as const),
              ),
            ],
            className: 'w-44',
          },
          { type: 'text', name: 'words', label: 'What, or to what', search: true },
          { type: 'days', names: ['from', 'to'], label: 'Days', labels: ['From', 'To'] },
        ]}
        shown={said}
        submit="Show"
        role="search"
      >
        {filtered && (
          <AppLink href={routes.deeds(site.id)} className="inline-link min-h-7">
            Show all
          </AppLink>
        )}
      </ViewForm>
      {items.length > 0 && (
        <div className="max-w-5xl">
          <FiguresTable
            label="Who did what"
            className="text-[0.9rem]"
            rows={items}
            rowKey={({ id }) => id}
            columns={[
              {
                id: 'when, UTC',
                text: true,
                cellClass: 'font-normal!',
                value: ({ at }) => at,
                cell: ({ at }) => moment(at),
              },
              {
                id: 'who',
                text: true,
                value: ({ actor }) => actor,
                cell: ({ actor }) => (actor === '' ? <span className="muted">alone</span> : actor),
              },
              {
                id: 'did',
                text: true,
                value: ({ did }) => did,
                cell: ({ did, times }) => (
                  <>
                    {did}
                    {times > 1 && <span className="muted">, {times} times</span>}
                  </>
                ),
              },
              {
                id: 'to what',
                text: true,
                cellClass: 'whitespace-normal!',
                value: ({ title }) => title,
                cell: (deed) => {
                  const href = screenOf(site.id, deed);
                  return href ? (
                    <AppLink href={href} className="inline-link">
                      {deed.title ?? `no. ${deed.thingId}`}
                    </AppLink>
                  ) : (
                    deed.title
                  );
                },
              },
            ]}
          />
        </div>
      )}
      {last && items.length === SHOWN && (
        <p className="mt-3">
          <AppLink href={routes.deeds(site.id, { ...said, before: last.id })} className="inline-link">
            Earlier ones
          </AppLink>
        </p>
      )}
    </Screen>
  );
}
