import { WEEKLY_CORRELATIONS } from '../effect/covariance';
import { FREE_LEVEL } from '../effect/kriging';
import type { ForecastWorking } from '../effect/forecast';
import type { WorkedComponent } from '../effect/working';
import { rangeOf, SheetWriter } from './workSheet';

/** Where the spans stand, as addresses. */
export type SpanCells = {
  readonly settling: string;
  readonly days: string;
  /** The first and the last day after, and the day of the change itself. */
  readonly first: string;
  readonly last: string;
  readonly change: string;
};

/** Weeks before a change that are looked at. */
export const WEEKS = 26;
const [PARAMETERS, RHO, DAILY, MEAN, PARTS, OF_DAYS] = [2, 5, 6, 7, 8, 9];
const [TARGET_HEAD, FADING] = [11, 12];
const TARGET = FADING + WEEKLY_CORRELATIONS.length;

/** What a forecast made by one case has: addresses of its weights (in a row), of its variance, of the variance of a dip. */
export type CaseCells = { readonly weights: string; readonly variance: string; readonly dip: string | null };

/**
 * The sheet on which the weights of the weeks before are worked out for a span: what the days after have in common with each of the
 * weeks, times the inverse of what the weeks have in common with each other.
 */
export class KrigingSheet {
  readonly sheet: SheetWriter;
  readonly dispersion: string;
  readonly between: string;
  readonly perStrain: string;
  private readonly cases = new Map<string, CaseCells>();
  private next = TARGET + 5;
  private readonly own: string;

  constructor(
    private readonly component: WorkedComponent,
    spans: SpanCells,
  ) {
    const sheet = (this.sheet = new SheetWriter(`weights ${component.component}`));
    sheet.set(
      0,
      0,
      'The weight of each week before (1 is the last) in the forecast of the days after. Variances are learned from pages that nobody touched; the weights follow from them and from the spans.',
    );
    const { dispersion, nugget, between, perStrain, parts } = component;
    sheet.line(PARAMETERS - 1, [
      ...[
        'dispersion of counts',
        'variance within a week',
        'variance between groups',
        'more variance for each strain',
        'variance of a free level',
      ].map((heading) => ({ heading })),
    ]);
    sheet.line(PARAMETERS, [dispersion, nugget, between, perStrain, FREE_LEVEL]);
    [this.dispersion, this.between, this.perStrain] = [0, 2, 3].map((c) => sheet.at(PARAMETERS, c)) as [
      string,
      string,
      string,
    ];
    sheet.set(RHO - 1, 0, { heading: 'how weeks go together' });
    sheet.line(RHO, ['correlation from week to week', ...WEEKLY_CORRELATIONS]);
    sheet.line(DAILY, ['the same from day to day']);
    sheet.line(MEAN, ['its mean over the days after']);
    sheet.line(PARTS, ['variance that goes together so', ...parts]);
    sheet.line(OF_DAYS, ['of it in the mean of the days after']);
    const last = WEEKLY_CORRELATIONS.length;
    const n = spans.days;
    for (let i = 1; i <= last; i++) {
      sheet.formula(DAILY, i, `${sheet.at(RHO, i)}^(1/7)`);
      const [d, part] = [sheet.at(DAILY, i), sheet.at(PARTS, i)];
      sheet.formula(MEAN, i, `(1-${d}^${n})/((1-${d})*${n})`);
      sheet.formula(OF_DAYS, i, `${part}*(${n}+2*${d}*(${n}-1-${n}*${d}+${d}^${n})/(1-${d})^2)/(${n}*${n})`);
    }
    const free = sheet.at(PARAMETERS, 4);
    sheet.line(TARGET_HEAD, [{ heading: 'week before' }, ...Array.from({ length: WEEKS }, (_, i) => i + 1)]);
    WEEKLY_CORRELATIONS.forEach((rho, i) =>
      sheet.set(FADING + i, 0, `in common with the days after, at ${rho}`),
    );
    sheet.set(TARGET, 0, 'in common with the days after, in all');
    for (let week = 1; week <= WEEKS; week++) {
      // Each part fades from the middle of the week to the first day after, and is then averaged over the days.
      for (let i = 1; i <= last; i++)
        sheet.formula(
          FADING + i - 1,
          week,
          `${sheet.at(PARTS, i)}*${sheet.at(RHO, i)}^(${week}-3/7)*${sheet.at(DAILY, i)}^${spans.settling}*${sheet.at(MEAN, i)}`,
        );
      sheet.formula(TARGET, week, `SUM(${rangeOf([FADING, week], [TARGET - 1, week])})+${free}`);
    }
    sheet.set(TARGET + 1, 0, 'variance of the days after');
    sheet.formula(
      TARGET + 1,
      1,
      `SUM(${rangeOf([OF_DAYS, 1], [OF_DAYS, last])})+${sheet.at(PARAMETERS, 1)}*7/MAX(7,${n})+${free}`,
    );
    this.own = sheet.at(TARGET + 1, 1);
    sheet.set(TARGET + 3, 0, {
      heading: 'cases: pages with as many weeks and about as much noise of counting',
    });
  }

  /** The cells of a case, written at its first use. */
  caseOf({ weeks, noise, inverse, dipVariance }: ForecastWorking): CaseCells {
    const key = `${weeks}/${noise}`;
    const known = this.cases.get(key);
    if (known) return known;
    const { sheet } = this;
    const from = this.next;
    this.next += weeks + 5;
    sheet.line(from, [
      {
        heading: `${weeks} weeks, noise of counting ${noise.toPrecision(4)}: the inverse of what the weeks have in common`,
      },
    ]);
    sheet.set(from, weeks + 2, { heading: 'with the days after' });
    for (let i = 0; i < weeks; i++) {
      sheet.set(from + 1 + i, 0, i + 1);
      sheet.line(from + 1 + i, inverse[i]!, 1);
      sheet.formula(from + 1 + i, weeks + 2, sheet.at(TARGET, i + 1));
    }
    const target = rangeOf([from + 1, weeks + 2], [from + weeks, weeks + 2]);
    const weightsRow = from + weeks + 1;
    sheet.set(weightsRow, 0, { heading: 'weights' });
    for (let i = 1; i <= weeks; i++)
      sheet.formula(weightsRow, i, `SUMPRODUCT(${rangeOf([from + 1, i], [from + weeks, i])},${target})`);
    sheet.set(weightsRow + 1, 0, 'variance of the forecast');
    sheet.formula(
      weightsRow + 1,
      1,
      `MAX(0.000001,${this.own}-SUMPRODUCT(${rangeOf([weightsRow, 1], [weightsRow, weeks])},${rangeOf([TARGET, 1], [TARGET, weeks])}))`,
    );
    sheet.set(weightsRow + 2, 0, 'variance of a dip');
    if (dipVariance !== null) sheet.set(weightsRow + 2, 1, dipVariance);
    const cells: CaseCells = {
      weights: sheet.range([weightsRow, 1], [weightsRow, weeks]),
      variance: sheet.at(weightsRow + 1, 1),
      dip: dipVariance === null ? null : sheet.at(weightsRow + 2, 1),
    };
    this.cases.set(key, cells);
    return cells;
  }
}
