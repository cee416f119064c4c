import { pagePath } from '../address/address';
import { PLAIN_FIELD_NAMES, plainField } from '../model/changeFields';
import type { Day } from '../calendar/day';
import { changeKindName, kindsOf } from '../model/change';
import { metricNearest, type Measure } from '../measures/registry';
import { movedText, netHeight, netText, rangeText } from '../effect/effectWords';
import { metricInText, metricValue } from '../words/format';
import type { VerdictMeasure } from '../measures/registry';
import type { EarlyLook, Reading, Verdict } from './readingModel';

/** One line of the ledger: a change and the gist of its reading. */
export type LedgerEntry = {
  readonly id: number;
  readonly day: Day;
  readonly title: string;
  /** The kinds of the edits that it is made of, its own first. */
  readonly kinds: readonly string[];
  readonly where: string;
  readonly verdict: Verdict;
  /** The days are over, or some of them, and there are no figures to compare. */
  readonly withoutFigures: boolean;
  readonly planned: boolean;
  readonly judged: Measure;
  /** What moved, where the verdict says that something did. */
  readonly movedIn: VerdictMeasure | null;
  /** What is plain already while the reading waits. */
  readonly early: EarlyLook | null;
  /**
   * Counts before and after in the metric nearest to the judged one: "412 → 498 clicks"; empty if
   * absent.
   */
  readonly raw: string;
  /** Net effect and range of the judged metric in words; absent effects are a dash. */
  readonly effect: string;
  readonly range: string;
  /** The same on the log scale, up is better, by which lines are sorted. */
  readonly height: number | null;
  readonly completeOn: Day | null;
  readonly cautions: number;
  /** Everything by which the line can be found, in lower case. */
  readonly words: string;
};

/** The line of the ledger for a reading. */
export function ledgerEntry(reading: Reading): LedgerEntry {
  const { change, metrics, net, judged, spans } = reading;
  const paths = change.pages.map((page) => pagePath(page.address));
  return {
    id: change.id,
    day: change.day,
    title: change.title,
    kinds: kindsOf(change),
    where: paths.length === 1 ? (paths[0] ?? '') : `${paths.length} pages`,
    verdict: reading.verdict,
    withoutFigures: spans.complete && net === null,
    planned: spans.planned,
    judged,
    movedIn: reading.movedIn,
    early: reading.early,
    raw: rawText(reading),
    effect: netText(net, judged),
    range: rangeText(net, judged),
    height: netHeight(net, judged, metrics.position.after),
    completeOn: spans.completeOn,
    cautions: reading.cautions.length,
    words: [
      ...PLAIN_FIELD_NAMES.map((name) => plainField(name).searched && change[name]),
      ...kindsOf(change).map(changeKindName),
      ...change.tags,
      reading.verdict,
      reading.early ? `already plain ${reading.early.called}` : '',
      movedWords(reading),
      ...paths,
      ...change.queries,
    ]
      .filter(Boolean)
      .join(' ')
      .toLowerCase(),
  };
}

/** What was counted, beside what is net of the control. */
function rawText({ judged, metrics, compared }: Reading): string {
  const metric = metricNearest(judged);
  const { before, after } = metrics[metric];
  if (!compared?.after || before === null || after === null) return '';
  return `${metricValue(metric, before)} → ${metricValue(metric, after)} ${metricInText(metric)}`;
}

/** What moved, so that all that were chosen more often can be searched for. */
function movedWords({ movedIn, verdict, early }: Reading): string {
  if (movedIn && (verdict === 'lifted' || verdict === 'dropped')) return movedText(movedIn, verdict);
  return early ? movedText(early.movedIn, early.called) : '';
}
