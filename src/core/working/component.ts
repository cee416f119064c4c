import { isRate, modelOf, type DailySum } from '../measures/registry';
import { MOST_NOISE } from '../effect/control';
import { DIP_WEEKS, HIGHEST, LOWEST, MOST_STRAIN } from '../effect/forecast';
import type { WorkedComponent, WorkedRow, Working } from '../effect/working';
import { POSITION_NOISE } from '../effect/weekly';
import type { DailySheet } from './days';
import { KrigingSheet, WEEKS, type SpanCells } from './kriging';
import { cellAt, rangeOf, SheetWriter } from './workSheet';

/** The columns of a component's sheet, blocks of weeks among them. */
const C = {
  ...{ page: 0, role: 1, share: 2, group: 3, scale: 4, half: 5 },
  ...{ expected: 6, seen: 7, level: 8, forecast: 9, move: 10, noise: 11, variance: 12, strain: 13 },
  ...{ weight: 14, weighted: 15, all: 16, groupWeight: 17, own: 18, control: 19, controlVariance: 20 },
  ...{ net: 21, netVariance: 22 },
  ...{ weeks: 24, common: 24 + WEEKS + 1, of: 24 + 2 * (WEEKS + 1), value: 24 + 3 * (WEEKS + 1) },
  deviation: 24 + 4 * (WEEKS + 1),
} as const;
const HEADINGS: ReadonlyMap<string, string> = new Map<string, string>(
  Object.entries({
    page: 'page',
    role: 'part',
    share: 'share in the control',
    group: 'group',
    scale: 'restlessness',
    half: 'half a showing',
    expected: 'forecast of the days after',
    seen: 'seen in the days after',
    level: 'level of the weeks before',
    forecast: 'forecast against the level',
    move: 'otherwise than forecast',
    noise: 'noise of counting',
    variance: 'variance of the forecast',
    strain: 'strain',
    weight: 'weight in the control',
    weighted: 'weight × move',
    all: 'control: all',
    groupWeight: 'weight of the own group',
    own: 'how much the own group counts',
    control: 'control: as it applies',
    controlVariance: 'variance of the control',
    net: 'net',
    netVariance: 'variance of the net',
    weeks: 'first days of the weeks before, the last first',
    common: 'what the site and the group did in each week',
    of: 'sums of each week',
    value: 'what each week is held against, or its level',
    deviation: 'deviations from the level',
  } satisfies Record<keyof typeof C, string>),
);
const FIRST = 3;

/** What a component's sheet says of the rows compared: addresses of the net, its variance and the part that the control brought in. */
export type ComponentCells = readonly {
  readonly net: string;
  readonly variance: string;
  readonly shared: string;
}[];

/** The sheet of a component: a row for each page compared and each page of the control, from its weeks to its net. */
export class ComponentSheet {
  readonly sheet: SheetWriter;
  readonly kriging: KrigingSheet;
  readonly cells: ComponentCells;
  private readonly rate: boolean;
  private readonly subjects: number;
  private readonly end: number;

  constructor(
    private readonly worked: WorkedComponent,
    private readonly working: Working,
    private readonly daily: (column: DailySum) => DailySheet,
    private readonly spans: SpanCells,
    nameOf: (id: number) => string,
  ) {
    const { component, subjects, control } = worked;
    this.rate = isRate(component);
    this.kriging = new KrigingSheet(worked, spans);
    this.subjects = subjects.length;
    this.end = FIRST + subjects.length + control.length - 1;
    const sheet = (this.sheet = new SheetWriter(`${component} by page`));
    sheet.set(0, 0, modelOf(component).about);
    sheet.set(1, 0, HOW);
    for (const [key, column] of Object.entries(C)) sheet.set(2, column, { heading: HEADINGS.get(key)! });
    [...subjects, ...control].forEach((row, i) => this.row(FIRST + i, row, i, nameOf));
    this.cells = subjects.map((_, i) => ({
      net: sheet.at(FIRST + i, C.net),
      variance: sheet.at(FIRST + i, C.netVariance),
      shared: sheet.at(FIRST + i, C.controlVariance),
    }));
  }

  private row(at: number, row: WorkedRow, i: number, nameOf: (id: number) => string): void {
    const { sheet, working } = this;
    const isSubject = i < this.subjects;
    const place = isSubject ? working.subjects[i]! : working.control[i - this.subjects]!;
    sheet.line(at, [nameOf(row.id), isSubject ? 'changed' : 'control']);
    sheet.set(at, C.share, isSubject ? null : working.control[i - this.subjects]!.share);
    sheet.set(at, C.group, place.group);
    sheet.set(at, C.scale, isSubject ? row.scale : null);
    if (row.past) this.forecast(at, row);
    if (isSubject) this.net(at);
    else this.weight(at, row.past !== null);
  }

  private forecast(at: number, { id, past, half }: WorkedRow): void {
    const { sheet, rate, spans } = this;
    const { of, against, counts } = modelOf(this.worked.component);
    const cell = (column: number) => cellAt(at, column);
    if (!rate) sheet.set(at, C.half, half);
    const { weeks, forecast } = past!;
    const n = weeks.length;
    const block = (column: number, length = n) => rangeOf([at, column], [at, column + length - 1]);
    const level = (first: string, last: string) => {
      const sum = this.daily(of).sum(id, first, last);
      if (against) {
        const mean = `${sum}/${this.daily(against).sum(id, first, last)}`;
        return this.worked.component === 'rank' ? mean : `LN(${mean})`;
      }
      return `LN((${sum}+${cell(C.half)})/${this.daily(of).sum(null, first, last)})`;
    };
    weeks.forEach(({ firstDay, common }, k) => {
      sheet.set(at, C.weeks + k, { day: firstDay });
      sheet.set(at, C.common + k, common);
      const [first, last] = [cell(C.weeks + k), `${cell(C.weeks + k)}+6`];
      if (rate) {
        sheet.formula(at, C.of + k, this.daily(of).sum(id, first, last));
        sheet.formula(at, C.value + k, `${this.daily(against!).sum(id, first, last)}*${cell(C.common + k)}`);
        const expected = `${cell(C.level)}*${cell(C.value + k)}`;
        sheet.formula(at, C.deviation + k, `IF(${expected}>0,${cell(C.of + k)}/(${expected})-1,0)`);
      } else {
        sheet.formula(at, C.value + k, `${level(first, last)}-${cell(C.common + k)}`);
        sheet.formula(at, C.deviation + k, `${cell(C.value + k)}-${cell(C.level)}`);
      }
    });
    const cells = this.kriging.caseOf(forecast);
    sheet.formula(at, C.forecast, n === 0 ? '0' : `SUMPRODUCT(${block(C.deviation)},${cells.weights})`);
    sheet.formula(at, C.variance, cells.variance);
    // A site with next to no weeks has only the days just before.
    const [begin, before] = [`${spans.change}-${this.working.horizon.days}`, `${spans.change}-1`];
    const overall = forecast.overall;
    if (rate) {
      const [clicks, base] = [
        this.daily(of).sum(id, begin, before),
        this.daily(against!).sum(id, begin, before),
      ];
      sheet.formula(
        at,
        C.level,
        n === 0
          ? `IF(${clicks}>0,${clicks}/${base},0.5/(${base}+0.5/${overall}))`
          : `(SUM(${block(C.of)})+0.5)/(SUM(${block(C.value)})+0.5/${overall})`,
      );
      const after = this.daily(against!).sum(id, spans.first, spans.last);
      sheet.formula(
        at,
        C.expected,
        `${cell(C.level)}*MIN(${HIGHEST},MAX(${LOWEST},1+${cell(C.forecast)}))*${after}`,
      );
      sheet.formula(at, C.seen, this.daily(of).sum(id, spans.first, spans.last));
      sheet.formula(at, C.move, `IF(${cell(C.expected)}>0,${cell(C.seen)}/${cell(C.expected)}-1,"")`);
      sheet.formula(at, C.noise, `${this.kriging.dispersion}/(${cell(C.expected)}+0.5)`);
    } else {
      sheet.formula(at, C.level, n === 0 ? level(begin, before) : `AVERAGE(${block(C.value)})`);
      sheet.formula(at, C.expected, `${cell(C.level)}+${cell(C.forecast)}`);
      sheet.formula(at, C.seen, level(spans.first, spans.last));
      sheet.formula(at, C.move, `${cell(C.seen)}-${cell(C.expected)}`);
      const counted = `(${this.daily(counts).sum(id, spans.first, spans.last)}+0.5)`;
      sheet.formula(at, C.noise, `${this.kriging.dispersion}*${against ? POSITION_NOISE : 1}/${counted}`);
    }
    const dip = `(AVERAGE(${block(C.deviation, DIP_WEEKS)})-AVERAGE(${block(C.deviation)}))`;
    sheet.formula(at, C.strain, cells.dip ? `MIN(${MOST_STRAIN},${dip}^2/${cells.dip})-1` : '0');
  }

  private weight(at: number, has: boolean): void {
    const cell = (column: number) => cellAt(at, column);
    this.sheet.formula(
      at,
      C.weight,
      has
        ? `IF(ISNUMBER(${cell(C.move)}),IF(${cell(C.noise)}<=${MOST_NOISE},${cell(C.share)}/(${cell(C.variance)}+${cell(C.noise)}),0),0)`
        : '0',
    );
    this.sheet.formula(at, C.weighted, `IF(${cell(C.weight)}>0,${cell(C.weight)}*${cell(C.move)},0)`);
  }

  private net(at: number): void {
    const { sheet, kriging, end } = this;
    const cell = (column: number) => cellAt(at, column);
    const down = (column: number) => rangeOf([FIRST + this.subjects, column], [end, column]);
    if (end < FIRST + this.subjects) {
      sheet.line(at, [0, 0, 0, 0, 0], C.all);
    } else {
      const [weights, moves, groups] = [down(C.weight), down(C.weighted), down(C.group)];
      const none = `SUM(${weights})<=0.000000001`;
      const mine = (of: string) => `SUMIFS(${of},${groups},${cell(C.group)})`;
      sheet.formula(at, C.all, `IF(${none},0,SUM(${moves})/SUM(${weights}))`);
      sheet.formula(at, C.groupWeight, mine(weights));
      const share = `${kriging.between}*${cell(C.groupWeight)}`;
      sheet.formula(at, C.own, `${share}/(${share}+1)`);
      const beyond = `(${mine(moves)}-${cell(C.groupWeight)}*${cell(C.all)})/${cell(C.groupWeight)}`;
      sheet.formula(
        at,
        C.control,
        `${cell(C.all)}+IF(${cell(C.groupWeight)}>0.000000001,${cell(C.own)}*${beyond},0)`,
      );
      sheet.formula(
        at,
        C.controlVariance,
        `IF(${none},0,${kriging.between}*(1-${cell(C.own)})+1/SUM(${weights}))`,
      );
    }
    sheet.formula(
      at,
      C.net,
      this.rate
        ? `LN((${cell(C.seen)}+0.5)/(${cell(C.expected)}*(1+${cell(C.control)})+0.5))`
        : `${cell(C.move)}-${cell(C.control)}`,
    );
    sheet.formula(
      at,
      C.netVariance,
      `(${cell(C.variance)}+${cell(C.controlVariance)})*MAX(0.7,1+${kriging.perStrain}*${cell(C.strain)})*${cell(C.scale)}+${cell(C.noise)}`,
    );
  }
}

const HOW =
  'Each page is forecast from its own weeks before; how the pages of the control came out otherwise is taken off how the changed pages did. Figures that no formula stands behind were learned from the whole site.';
