import { AppLink } from '@/ui/kit/AppLink';
import { notFound } from 'next/navigation';
import { isoDay } from '@/core/calendar/day';
import { pagePath } from '@/core/address/address';
import type { Change } from '@/core/model/change';
import type { Site } from '@/core/model/site';
import { readingStrips } from '@/core/reading/strips';
import { reachIndex } from '@/jobs/outsideWorld';
import { ask } from '@/app/ask';
import type { PicturedReading } from '@/jobs/questions/answers/changes';
import { chainOf } from '@/store/ledger/findChanges';
import { today } from '@/store/clock';
import { database } from '@/store/database';
import type { ReadingQuery } from '@/services/reading/readChange';
import { pageTitles, titleGiven } from '@/services/pages/titleChecks';
import { DeleteChange } from '@/ui/change/DeleteChange';
import { ReadingPane } from '@/ui/reading/ReadingPane';
import type { StripsData } from '@/ui/reading/strips/data';
import { IfMay } from '@/ui/shell/May';
import { ThingParts } from '../people/ThingParts';
import { changeHistory } from '@/services/ledger/histories';
import { SiteContext } from '@/services/site/siteContext';
import { roundsOfChanges } from '@/store/rounds/rounds';
import { movedPages } from '@/services/pages/movedPages';
import { MovedPart } from '@/ui/page/MovedPart';
import { TitleCheckPart } from '@/ui/page/TitleCheckPart';
import { routes } from '@/ui/shell/routes';
import { History } from '@/ui/kit/History';
import { CopyReading } from '@/ui/reports/CopyReading';
import { DecisionPart } from '@/ui/steps/DecisionPart';
import { StepLine } from '@/ui/steps/StepLine';
import { restoreDeleted } from '../deleted/actions';
import { lookAfterChange, recordSighting } from '../pages/actions';
import { decide, deleteChange, joinMoved, putBack, recordChangeStep } from './actions';

/** The reading of a change, fetched and handed to the pane that draws it. */
export async function ReadingOf({
  site,
  change,
  wish,
  editsBefore,
}: {
  site: Site;
  change: Change;
  wish: ReadingQuery;
  /** The entry of its history before which edits are shown; null for the last ones. */
  editsBefore: number | null;
}) {
  const read = await ask('picturedReading', { siteId: change.siteId, changeId: change.id, wish });
  // It may have been deleted between two questions.
  if (!read) notFound();
  const past = changeHistory(database(), read.reading.change, editsBefore);
  const ofRound = roundsOfChanges(database(), site.id).get(change.id);
  const moved = movedPages(new SiteContext(database(), site), change);
  return (
    <ReadingPane
      reading={read.reading}
      strips={stripsData(read)}
      steps={
        <StepLine
          change={read.reading.change}
          today={today(site.timeZone)}
          usual={{
            windowDays: change.windowDays ?? site.windowDays,
            settlingDays: change.settlingDays ?? site.settlingDays,
          }}
          record={recordChangeStep}
        />
      }
      decision={<DecisionPart change={read.reading.change} today={today(site.timeZone)} record={decide} />}
      titles={
        change.day <= today(site.timeZone) &&
        change.pages.some(({ id }) => titleGiven(database(), change, id) !== null) ? (
          <Titles site={site} change={read.reading.change} />
        ) : null
      }
      moved={
        moved.length === 0 ? null : (
          <MovedPart siteId={site.id} changeId={change.id} moved={moved} join={joinMoved} />
        )
      }
      history={
        <>
          <History
            edits={past.edits}
            earlier={past.earlier === null ? null : routes.changeEdits(site.id, change.id, past.earlier)}
            paged={editsBefore !== null}
            restore={putBack.bind(null, site.id, change.id)}
          />
          <ThingParts siteId={site.id} on="change" id={change.id} shared="reading" />
        </>
      }
      chain={chainOf(database(), change.siteId, change.id)}
      countries={read.picture.countries}
      newest={new SiteContext(database(), site).lastReadable}
      yardstick={read.picture.yardstick.map((page) => pagePath(page.address))}
      actions={
        <>
          {ofRound && (
            <AppLink href={routes.round(site.id, ofRound.id)} className="inline-link">
              Its round
            </AppLink>
          )}
          <a href={routes.readingReport(site.id, change.id, 'html')} download className="inline-link">
            As a report
          </a>
          {read.reading.net && (
            <a href={workingOf(change, wish)} download className="inline-link">
              Its working
            </a>
          )}
          <CopyReading siteId={site.id} changeId={change.id} />
          <IfMay right="edit">
            <AppLink href={routes.changeAfter(site.id, change.id, 'copy')} className="inline-link">
              Copy
            </AppLink>
            <AppLink href={routes.editChange(site.id, change.id)} className="inline-link">
              Edit
            </AppLink>
            <DeleteChange
              siteId={site.id}
              changeId={change.id}
              title={change.title}
              remove={deleteChange}
              restore={restoreDeleted}
            />
          </IfMay>
        </>
      }
    />
  );
}

/** Pages of one change whose titles are shown at most. */
const MOST_TITLES = 20;

/** The titles that a change gave its pages against what is there and in the results; nothing where it gave none. */
function Titles({ site, change }: { site: Site; change: Change }) {
  const db = database();
  const pages = change.pages.slice(0, MOST_TITLES);
  return (
    <TitleCheckPart
      siteId={site.id}
      checked={pages.map((page) => {
        const { onPage, inResults, check } = pageTitles(db, page);
        const likely = titleGiven(db, change, page.id) ?? '';
        return { pageId: page.id, path: pagePath(page.address), onPage, inResults, check, likely };
      })}
      record={recordSighting}
      lookAll={{
        label: reachIndex(db, site) ? 'Fetch it and ask the index' : 'Fetch it now',
        run: lookAfterChange.bind(null, site.id, change.id),
      }}
    />
  );
}

function stripsData({ reading, picture }: PicturedReading): StripsData {
  const { shown, days, daysWithFigures, lastReadable, changes, events, path, expected } = picture;
  return {
    shown,
    lastReadable,
    compared: reading.compared,
    planned: { before: reading.spans.before, after: reading.spans.after },
    strips: readingStrips(
      reading,
      shown,
      days,
      new Set(daysWithFigures),
      path,
      expected && new Map(expected),
    ),
    changes: changes.map(({ id, day, title }) => ({ id, day, title, own: id === reading.change.id })),
    events: events.map(({ id, name, firstDay, lastDay }) => ({ id, name, firstDay, lastDay })),
  };
}

/** The spreadsheet in which a reading, narrowed as it is shown, is worked out. */
function workingOf(change: Change, wish: ReadingQuery): string {
  const { windowDays, settlingDays, query, device, country, asOf, pageId } = wish;
  return routes.readingWorking(change.id, {
    ...{ windowDays, settlingDays, query, device, country, asOf: asOf == null ? null : isoDay(asOf) },
    page: change.pages.find(({ id }) => id === pageId)?.address,
  });
}
