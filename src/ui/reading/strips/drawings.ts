import type { Chart, Plugin } from 'chart.js';
import { addDays, isoWeekday, type Day } from '@/core/calendar/day';
import type { Span } from '@/core/calendar/span';
import { descriptionOf, MEASURE_NAMES, type Metric } from '@/core/measures/registry';
import { tallyStrokes } from '@/core/tally/strokes';
import { metricValue, shortDay } from '@/core/words/format';
import type { StripsData } from './data';
import type { Ink } from './ink';

/** Room around the strips in pixels: names to the left, the rail with its dates and events below. */
export const LEFT = 92;
export const RIGHT = 12;
export const RAIL = 74;
/** Gap at the top of each strip that keeps one line from running into the next strip. */
export const STRIP_GAP = 8;

/** The place of a strip's axis in the chart: one axis a metric, stacked in one column. */
export function axisId(metric: Metric): string {
  return `y-${metric}`;
}

type Pen = { chart: Chart; c: CanvasRenderingContext2D; ink: Ink; data: StripsData };

/** Left and right edge of a span of days; a day is as wide as the distance to the next. */
function edges({ chart, data }: Pen, span: Span): [number, number] {
  const x = chart.scales.x!;
  const { left, right } = chart.chartArea;
  const first = Math.max(span.firstDay, data.shown.firstDay);
  const last = Math.min(span.lastDay, data.shown.lastDay);
  return [Math.max(left, x.getPixelForValue(first - 0.5)), Math.min(right, x.getPixelForValue(last + 0.5))];
}

function drawBands(pen: Pen): void {
  const { chart, c, ink, data } = pen;
  const { top, bottom } = chart.chartArea;
  for (const event of data.events) {
    const [left, right] = edges(pen, event);
    c.fillStyle = ink.band;
    c.globalAlpha = 0.24;
    c.fillRect(left, top, Math.max(3, right - left), bottom - top + 22);
    c.globalAlpha = 1;
  }
}

function drawSpans(pen: Pen): void {
  const { chart, c, ink, data } = pen;
  if (!data.planned) return;
  const { before, after } = data.planned;
  for (const { metric } of data.strips) {
    const { top, bottom } = chart.scales[axisId(metric)]!;
    const height = bottom - top - STRIP_GAP / 2;
    const [bl, br] = edges(pen, before);
    c.strokeStyle = ink.muted;
    c.lineWidth = 1;
    c.setLineDash([2, 2]);
    c.strokeRect(bl + 0.5, top + 2.5, br - bl - 1, height - 2);
    c.setLineDash([]);
    const [al, ar] = edges(pen, after);
    c.fillStyle = ink.ink;
    c.globalAlpha = 0.07;
    c.fillRect(al, top + 2, ar - al, height - 1);
    c.globalAlpha = 1;
    c.strokeStyle = ink.hairline;
    c.beginPath();
    c.moveTo(0, bottom + 0.5);
    c.lineTo(chart.width, bottom + 0.5);
    c.stroke();
  }
}

function drawNames(pen: Pen): void {
  const { chart, c, ink, data } = pen;
  c.textAlign = 'left';
  c.textBaseline = 'alphabetic';
  for (const { metric } of data.strips) {
    const { top } = chart.scales[axisId(metric)]!;
    c.fillStyle = ink.ink;
    c.font = `600 12.5px ${ink.font}`;
    c.fillText(MEASURE_NAMES[metric], 0, top + 20);
    c.fillStyle = ink.muted;
    c.font = `400 11px ${ink.font}`;
    c.fillText(descriptionOf(metric).daily ?? '', 0, top + 35);
  }
}

/** The path of the yardstick, dashed, so that the gap to the level of the after span is the effect. */
function drawPaths(pen: Pen): void {
  const { chart, c, ink, data } = pen;
  if (!data.compared?.after) return;
  const x = chart.scales.x!;
  c.strokeStyle = ink.ink;
  c.lineWidth = 1.4;
  c.setLineDash([5, 3]);
  for (const { metric, path } of data.strips) {
    const scale = chart.scales[axisId(metric)]!;
    for (const span of [data.compared.before, data.compared.after]) {
      c.beginPath();
      let drawing = false;
      for (let day = span.firstDay; day <= span.lastDay; day = addDays(day, 1)) {
        const value = path?.[day - data.shown.firstDay] ?? null;
        if (value === null) drawing = false;
        else {
          const [px, py] = [x.getPixelForValue(day), scale.getPixelForValue(value)];
          if (drawing) c.lineTo(px, py);
          else c.moveTo(px, py);
          drawing = true;
        }
      }
      c.stroke();
    }
  }
  c.setLineDash([]);
}

/** The level of each span compared: hollow before, solid after, with its value where the step is seen. */
function drawLevels(pen: Pen): void {
  const { chart, c, ink, data } = pen;
  if (!data.compared) return;
  for (const { metric, before, after, mark } of data.strips) {
    const scale = chart.scales[axisId(metric)]!;
    for (const [value, span, solid] of [
      [before, data.compared.before, false],
      [after, data.compared.after, true],
    ] as const) {
      if (value === null || span === null) continue;
      const y = Math.round(scale.getPixelForValue(value));
      const [left, right] = edges(pen, span);
      const colour = mark === 'lifted' ? ink.lifted : mark === 'dropped' ? ink.dropped : ink.ink;
      c.fillStyle = solid ? colour : ink.paper;
      c.strokeStyle = ink.ink;
      c.lineWidth = 1;
      c.fillRect(left, y - 2, right - left, 4);
      if (!solid) c.strokeRect(left + 0.5, y - 1.5, right - left - 1, 3);
      drawLevelValue(pen, levelText(metric, value), solid ? right : left, y, solid, scale.top);
    }
  }
}

function levelText(metric: Metric, value: number): string {
  return (metric === 'clicks' || metric === 'impressions') && value < 100
    ? value.toFixed(1)
    : metricValue(metric, value);
}

/** Writes a value on paper at the outer end of its level, above the line where there is room. */
function drawLevelValue(
  { c, ink }: Pen,
  text: string,
  x: number,
  y: number,
  atRight: boolean,
  top: number,
): void {
  c.font = `600 11px ${ink.font}`;
  c.textAlign = atRight ? 'right' : 'left';
  const width = c.measureText(text).width;
  const baseline = y - 6 < top + 10 ? y + 14 : y - 6;
  const at = atRight ? x - 3 : x + 3;
  c.fillStyle = ink.paper;
  c.globalAlpha = 0.82;
  c.fillRect(atRight ? at - width - 2 : at - 2, baseline - 10, width + 4, 13);
  c.globalAlpha = 1;
  c.fillStyle = ink.ink;
  c.fillText(text, at, baseline);
}

/** What was looked up by hand or by another source, as small open squares upon the line of the figures. */
function drawPoints({ chart, c, ink, data }: Pen): void {
  const x = chart.scales.x!;
  c.lineWidth = 1.3;
  c.strokeStyle = ink.ink;
  c.fillStyle = ink.paper;
  for (const { metric, points = [] } of data.strips) {
    const scale = chart.scales[axisId(metric)]!;
    for (const { day, value } of points) {
      const [px, py] = [Math.round(x.getPixelForValue(day)), Math.round(scale.getPixelForValue(value))];
      c.fillRect(px - 2.5, py - 2.5, 5, 5);
      c.strokeRect(px - 2.5, py - 2.5, 5, 5);
    }
  }
}

/** Under the strips: changes as tally strokes on a line, dates under it, and the names of the bands. */
function drawRail(pen: Pen): void {
  const { chart, c, ink, data } = pen;
  const { left, right, bottom } = chart.chartArea;
  const x = chart.scales.x!;
  const line = bottom + 24;
  c.strokeStyle = ink.ink;
  c.lineWidth = 1;
  c.beginPath();
  c.moveTo(left, line + 0.5);
  c.lineTo(right, line + 0.5);
  c.stroke();
  c.font = `400 11px ${ink.font}`;
  c.fillStyle = ink.muted;
  c.textAlign = 'left';
  c.fillText('changes', 0, line - 5);

  drawDates(pen, line);
  const labels = new LabelRow(pen, line - 5);
  // The reading's own change is named first, so that its name never gives way to another.
  const own = data.changes.find((change) => change.own);
  if (own) labels.write('this change', x.getPixelForValue(own.day) + 6, ink.ink);
  for (const { item, day, crossing } of tallyStrokes(data.changes)) {
    const at = Math.round(x.getPixelForValue(day));
    c.strokeStyle = ink.ink;
    c.lineWidth = item.own ? 3.5 : 2;
    c.beginPath();
    if (crossing) {
      c.moveTo(at - 30, line - 3);
      c.lineTo(at + 2, line - 17);
    } else {
      c.moveTo(at, line);
      c.lineTo(at, line - 18);
    }
    c.stroke();
    if (!item.own) labels.write(shorten(item.title, 24), at + 5, ink.muted);
  }
  // What the results showed anew hangs below the line, as a small open ring.
  c.lineWidth = 1.3;
  for (const { day } of data.seen ?? []) {
    c.beginPath();
    c.arc(Math.round(x.getPixelForValue(day)), line + 5, 3.2, 0, 2 * Math.PI);
    c.fillStyle = ink.paper;
    c.fill();
    c.strokeStyle = ink.ink;
    c.stroke();
  }
  // Two rows, so that a band whose neighbour took its place still has its name.
  const rows = [new LabelRow(pen, line + 31), new LabelRow(pen, line + 45)];
  for (const event of data.events) {
    const [from, to] = edges(pen, event);
    rows.some((row) => row.write(event.name, (from + to) / 2, ink.bandText, 'center'));
  }
}

function shorten(text: string, length: number): string {
  return text.length <= length ? text : `${text.slice(0, length - 1).trimEnd()}…`;
}

function drawDates({ chart, c, ink, data }: Pen, line: number): void {
  const { left, right } = chart.chartArea;
  const x = chart.scales.x!;
  const days = data.shown.lastDay - data.shown.firstDay;
  const weeks = Math.max(1, Math.ceil(days / 7 / Math.max(1, Math.floor((right - left) / 64))));
  c.font = `400 11px ${ink.font}`;
  c.textAlign = 'center';
  let monday = addDays(data.shown.firstDay, (8 - isoWeekday(data.shown.firstDay)) % 7);
  for (; monday <= data.shown.lastDay; monday = addDays(monday, 7 * weeks) as Day) {
    const at = x.getPixelForValue(monday);
    c.strokeStyle = ink.muted;
    c.beginPath();
    c.moveTo(Math.round(at) + 0.5, line);
    c.lineTo(Math.round(at) + 0.5, line + 4);
    c.stroke();
    c.fillStyle = ink.muted;
    if (at > left + 14 && at < right - 14) c.fillText(shortDay(monday), at, line + 16);
  }
}

/** Writes labels in one row, but not those that would run into another; tells whether a label was written. */
class LabelRow {
  private readonly taken: [number, number][] = [];

  constructor(
    private readonly pen: Pen,
    private readonly y: number,
  ) {}

  write(text: string, at: number, colour: string, align: 'left' | 'center' = 'left'): boolean {
    const { c, chart, ink } = this.pen;
    c.font = `${colour === ink.ink ? 600 : 400} 11px ${ink.font}`;
    const width = c.measureText(text).width;
    let from = align === 'center' ? at - width / 2 : at;
    // The room left of the strips belongs to the name of the rail.
    from = Math.min(Math.max(chart.chartArea.left, from), chart.width - width);
    if (align === 'left' && from < at) return false;
    if (this.taken.some(([a, b]) => from < b + 6 && from + width > a - 6)) return false;
    this.taken.push([from, from + width]);
    c.textAlign = 'left';
    c.fillStyle = colour;
    c.fillText(text, from, this.y);
    return true;
  }
}

/** The parts of the picture that are not lines of figures. */
export function drawings(data: StripsData, ink: Ink): Plugin<'line'> {
  const pen = (chart: Chart): Pen => ({ chart, c: chart.ctx, ink, data });
  const within = (chart: Chart, draw: (p: Pen) => void) => {
    chart.ctx.save();
    draw(pen(chart));
    chart.ctx.restore();
  };
  return {
    id: 'reading',
    beforeDatasetsDraw: (chart) => {
      within(chart, drawBands);
      within(chart, drawSpans);
    },
    afterDatasetsDraw: (chart) => {
      within(chart, drawNames);
      within(chart, drawPaths);
      within(chart, drawLevels);
      within(chart, drawPoints);
      within(chart, drawRail);
    },
  };
}
