import { pagePath } from '../../core/address/address';
import { overlap } from '../../core/calendar/span';
import { changeKindName } from '../../core/model/change';
import type { Round } from '../../core/model/round';
import {
  REPORT_PARTS,
  type ReportContent,
  type ReportPart,
  type ReportTable,
} from '../../core/model/reportContent';
import { type TurnReading } from '../../core/rounds/reading';
import { ROUND_MEASURES, MEASURE_DESCRIPTIONS } from '../../core/measures/registry';
import {
  chanceText,
  confirmationText,
  effectText,
  rangeWords,
  turnSentence,
} from '../../core/rounds/roundSentence';
import { plainSentence } from '../../core/reading/readingSentence';
import { ABSENT, mediumDay, plural } from '../../core/words/format';
import { roundSeen, type TurnPicture } from '../rounds/seen';
import type { SiteContext } from '../site/siteContext';
import { cell, columns, type ReportTools } from './reportContext';

/** A round as a report of a page or two: what its halves brought, page by page, with its doubts; null without figures. */
export function roundReport(context: SiteContext, tools: ReportTools, round: Round): ReportContent | null {
  const { site, today, lastReadable } = context;
  if (lastReadable === null) return null;
  const { first, second, pictures } = roundSeen(context, tools, round);
  const turns = [first, second].flatMap((turn) => turn ?? []);
  const firstDay = turns[0]?.before.firstDay ?? round.day;
  return {
    ...{ title: round.name, site: site.name, address: site.address, readOn: today, figuresTo: lastReadable },
    span: { firstDay, lastDay: turns.at(-1)?.after.lastDay ?? round.day },
    about: `${changeKindName(round.kind)}, ${plural(round.pages.length, 'page')}, halves of ${mediumDay(round.day)}`,
    parts: [
      ...turns.map((turn) => turnPart(context, round, turn, pictures)),
      ...(first && second
        ? [textPart('learned', 'The one held against the other', confirmationText(first, second))]
        : []),
      ...(turns.length === 0
        ? [textPart('waiting', REPORT_PARTS.waiting, 'Nothing of it was made yet.')]
        : []),
    ],
  };
}

const textPart = (key: ReportPart['key'], heading: string, text: string): ReportPart => ({
  ...{ key, heading, sentences: text === '' ? [] : [text], tables: [], strips: null },
});

function turnPart(
  context: SiteContext,
  round: Round,
  turn: TurnReading,
  pictures: readonly TurnPicture[],
): ReportPart {
  const picture = pictures.find(({ half }) => half === turn.half);
  return {
    key: turn.half === 'first' ? 'changes' : 'together',
    heading: turn.half === 'first' ? 'The first half’s turn' : 'The second half’s turn, as a confirmation',
    sentences: [
      plainSentence(turnSentence(round.kind, turn)),
      ...turn.doubts,
      ...turn.leftOut.map(({ page, reason }) => `Left out: ${pagePath(page.address)}, ${reason}`),
    ],
    tables: [effectsTable(turn), pagesTable(turn)],
    strips: picture
      ? {
          title: 'The changed half, day by day',
          shown: picture.shown,
          strips: (['appeal', 'clicks', 'impressions', 'position'] as const).map((metric) => ({
            ...{ metric, values: picture.changed[metric] },
          })),
          changes: [{ day: turn.day, title: round.name }],
          events: context.events
            .filter((event) => !event.hidden && overlap(event, picture.shown) !== null)
            .map(({ firstDay, lastDay, name }) => ({ firstDay, lastDay, name })),
        }
      : null,
  };
}

function effectsTable({ effects }: TurnReading): ReportTable {
  return {
    title: 'The changed half against what would have happened anyway',
    columns: columns(['measure'], ['it was'], ['range, nine in ten'], ['by chance alone']),
    rows: ROUND_MEASURES.map((measure) => {
      const effect = effects[measure];
      return [
        cell(MEASURE_DESCRIPTIONS[measure].inExperiments.inReports, measure),
        cell(effect ? effectText(measure, effect) : ABSENT, effect && Math.exp(effect.net)),
        cell(effect ? rangeWords(measure, effect) : ABSENT),
        cell(effect ? chanceText(effect) : ABSENT, effect && effect.p),
      ];
    }),
  };
}

function pagesTable({ pages, judged }: TurnReading): ReportTable {
  return {
    title: `Page by page, ${MEASURE_DESCRIPTIONS[judged].inExperiments.inReports}`,
    columns: columns(['page'], ['half'], ['it was'], ['verdict']),
    rows: pages.map(({ page, changed, effects }) => {
      const effect = effects[judged];
      return [
        cell(pagePath(page.address), page.address),
        cell(changed ? 'changed' : 'waiting'),
        cell(effect ? effectText(judged, effect) : ABSENT, effect && Math.exp(effect.net)),
        cell(effect ? effect.mark : ABSENT),
      ];
    }),
  };
}
