import Link from 'next/link';
import { notFound } from 'next/navigation';
import { pagePath } from '@/core/address/address';
import type { Change } from '@/core/model/change';
import { changedFields } from '@/core/model/changeHistory';
import type { Site } from '@/core/model/site';
import { editsOf } from '@/core/words/edits';
import { readingStrips } from '@/core/reading/strips';
import { askPicturedReading } from '@/jobs/readings';
import type { PicturedReading } from '@/jobs/readingsWorker';
import { chainOf, historyOf } from '@/store/changes';
import { today } from '@/store/clock';
import { database } from '@/store/database';
import type { ReadingWish } from '@/store/readings';
import { DeleteChange } from '@/ui/change/DeleteChange';
import { ReadingPane } from '@/ui/reading/ReadingPane';
import type { StripsData } from '@/ui/reading/strips/data';
import { routes } from '@/ui/shell/routes';
import { History } from '@/ui/parts/History';
import { DecisionPart } from '@/ui/steps/DecisionPart';
import { StepLine } from '@/ui/steps/StepLine';
import { decide, deleteChange, putBack, recordChangeStep } from './actions';

/** The reading of a change, fetched and handed to the pane that draws it. */
export async function ReadingOf({ site, change, wish }: { site: Site; change: Change; wish: ReadingWish }) {
  const read = await askPicturedReading(change.id, wish);
  // It may have been deleted between two questions.
  if (!read) notFound();
  return (
    <ReadingPane
      reading={read.reading}
      strips={stripsData(read)}
      steps={<StepLine change={read.reading.change} today={today()} record={recordChangeStep} />}
      decision={<DecisionPart change={read.reading.change} today={today()} record={decide} />}
      history={
        <History
          edits={editsOf(read.reading.change, historyOf(database(), change.id), changedFields)}
          restore={putBack.bind(null, site.id, change.id)}
        />
      }
      chain={chainOf(database(), change.id)}
      yardstick={read.picture.yardstick.map((page) => pagePath(page.address))}
      actions={
        <>
          <Link
            href={routes.changeAfter(site.id, change.id, 'copy')}
            prefetch={false}
            className="inline-link"
          >
            Copy
          </Link>
          <Link href={routes.editChange(site.id, change.id)} prefetch={false} className="inline-link">
            Edit
          </Link>
          <DeleteChange siteId={site.id} changeId={change.id} title={change.title} action={deleteChange} />
        </>
      }
    />
  );
}

function stripsData({ reading, picture }: PicturedReading): StripsData {
  const { shown, days, daysWithFigures, lastReadable, changes, events, path } = picture;
  return {
    shown,
    lastReadable,
    compared: reading.compared,
    planned: { before: reading.spans.before, after: reading.spans.after },
    strips: readingStrips(reading, shown, days, new Set(daysWithFigures), path),
    changes: changes.map(({ id, day, title }) => ({ id, day, title, own: id === reading.change.id })),
    events: events.map(({ id, name, firstDay, lastDay }) => ({ id, name, firstDay, lastDay })),
  };
}
