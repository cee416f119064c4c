import Link from 'next/link';
import type { Change } from '@/core/model/change';
import type { Site } from '@/core/model/site';
import type { Reading } from '@/core/reading/model';
import { readingStrips } from '@/core/reading/strips';
import { database } from '@/store/database';
import { pictureOf, readingOf, type SpanWish } from '@/store/readings';
import { DeleteChange } from '@/ui/change/DeleteChange';
import { ReadingPane } from '@/ui/reading/ReadingPane';
import type { StripsData } from '@/ui/reading/strips/data';
import { routes } from '@/ui/shell/routes';
import { deleteChange } from './actions';

/** The reading of a change, fetched and handed to the pane that draws it. */
export function ReadingOf({ site, change, wish }: { site: Site; change: Change; wish: SpanWish }) {
  const reading = readingOf(database(), site, change, wish);
  return (
    <ReadingPane
      reading={reading}
      strips={stripsData(site, reading)}
      actions={
        <>
          <Link href={routes.editChange(site.id, change.id)} prefetch={false} className="inline-link">
            Edit
          </Link>
          <DeleteChange siteId={site.id} changeId={change.id} title={change.title} action={deleteChange} />
        </>
      }
    />
  );
}

function stripsData(site: Site, reading: Reading): StripsData {
  const { shown, days, daysWithFigures, lastReadable, changes, events } = pictureOf(
    database(),
    site,
    reading,
  );
  return {
    shown,
    lastReadable,
    compared: reading.compared,
    planned: { before: reading.spans.before, after: reading.spans.after },
    strips: readingStrips(reading, shown, days, new Set(daysWithFigures)),
    changes: changes.map(({ id, day, title }) => ({ id, day, title, own: id === reading.change.id })),
    events: events.map(({ id, name, firstDay, lastDay }) => ({ id, name, firstDay, lastDay })),
  };
}
