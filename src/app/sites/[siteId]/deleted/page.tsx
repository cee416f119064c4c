import type { Metadata } from 'next';
import { localDay } from '@/core/calendar/day';
import { mediumDay, plural } from '@/core/words/format';
import { deletedOf } from '@/store/deleted';
import { DELETED_KEPT_DAYS } from '@/store/keptDays';
import { DeletedList } from '@/ui/kit/DeletedList';
import { RowKeys } from '@/ui/kit/RowKeys';
import { Screen } from '@/ui/kit/Screen';
import { siteFromPath, type SitePageProps } from '../site';
import { restoreDeleted } from './actions';

export const metadata: Metadata = { title: 'Deleted' };

/** What was deleted within the last thirty days, of any kind. */
export default async function DeletedPage({ params }: SitePageProps) {
  const { db, site } = await siteFromPath((await params).siteId, 'edit');
  const lines = deletedOf(db, site.id).map((one) => ({
    ...one,
    until: mediumDay(localDay(Date.parse(one.deletedAt) + DELETED_KEPT_DAYS * 86_400_000)),
  }));
  return (
    <Screen
      title="Deleted"
      lead={
        lines.length === 0
          ? `Nothing was deleted in the last ${DELETED_KEPT_DAYS} days. Changes, events and feeds that are deleted lie here for so long, and can be put back.`
          : `${plural(lines.length, 'thing')} deleted in the last ${DELETED_KEPT_DAYS} days. Each can be put back as it was.`
      }
    >
      {lines.length > 0 && (
        <RowKeys>
          <div className="max-w-4xl overflow-x-auto" tabIndex={0} role="region" aria-label="What was deleted">
            <DeletedList siteId={site.id} lines={lines} restore={restoreDeleted} />
          </div>
        </RowKeys>
      )}
      <p className="muted mt-6 max-w-2xl text-[0.85rem]">
        Files that were undone are in Intake; edits are in the history of what was edited.
      </p>
    </Screen>
  );
}
