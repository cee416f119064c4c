import {
  Chart,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
  type ChartConfiguration,
  type ScaleOptionsByType,
} from 'chart.js';
import type { Day } from '@/core/calendar/day';
import { MEASURE_NAMES } from '@/core/measures/registry';
import { longDay, metricValue } from '@/core/words/format';
import type { StripsData } from './data';
import { axisId, drawings, LEFT, RAIL, RIGHT } from './drawings';
import type { Ink } from './ink';

Chart.register(LinearScale, LineController, LineElement, PointElement, Tooltip);

/** The least range of a strip, as a share of its largest value, so that no hair's breadth looks like a leap. */
const LEAST_RANGE = 0.1;

/** Bounds of a strip: all its values and levels, with a little air. */
function bounds(values: readonly (number | null)[]): { min: number; max: number } {
  const present = values.filter((v): v is number => v !== null);
  if (present.length === 0) return { min: 0, max: 1 };
  const [min, max] = [Math.min(...present), Math.max(...present)];
  const range = Math.max(max - min, max * LEAST_RANGE) || 1;
  const middle = (min + max) / 2;
  return { min: middle - 0.66 * range, max: middle + 0.66 * range };
}

function configuration(data: StripsData, ink: Ink): ChartConfiguration<'line'> {
  const { shown, strips, lastReadable } = data;
  const axis = (strip: StripsData['strips'][number]): Partial<ScaleOptionsByType<'linear'>> =>
    ({
      type: 'linear',
      stack: 'strips',
      stackWeight: 1,
      // Up is better in every strip: a small position is a good one.
      reverse: strip.metric === 'position',
      display: true,
      grid: { display: false },
      border: { display: false },
      ticks: { display: false },
      ...bounds([
        ...[...strip.values, strip.before, strip.after, ...(strip.path ?? [])],
        ...(strip.points ?? []).map(({ value }) => value),
      ]),
    }) as Partial<ScaleOptionsByType<'linear'>>;
  return {
    type: 'line',
    data: {
      datasets: strips.map((strip) => ({
        label: MEASURE_NAMES[strip.metric],
        data: strip.values.map((y, i) => ({ x: shown.firstDay + i, y })) as { x: number; y: number }[],
        yAxisID: axisId(strip.metric),
        borderColor: ink.muted,
        borderWidth: 1.1,
        pointRadius: 0,
        pointHoverRadius: 3,
        pointHoverBackgroundColor: ink.ink,
        spanGaps: false,
        // Provisional days are shown, and look it.
        segment: {
          borderDash: (ctx) =>
            lastReadable !== null && (ctx.p1.parsed.x ?? 0) > lastReadable ? [2, 3] : undefined,
        },
      })),
    },
    options: {
      animation: false,
      responsive: true,
      maintainAspectRatio: false,
      layout: { padding: { left: LEFT, right: RIGHT, bottom: RAIL } },
      interaction: { mode: 'index', intersect: false },
      scales: {
        x: { type: 'linear', min: shown.firstDay - 0.5, max: shown.lastDay + 0.5, display: false },
        // The first axis of a stack is drawn lowest.
        ...Object.fromEntries([...strips].reverse().map((strip) => [axisId(strip.metric), axis(strip)])),
      },
      plugins: {
        tooltip: {
          backgroundColor: ink.ink,
          titleColor: ink.paper,
          bodyColor: ink.paper,
          cornerRadius: 2,
          displayColors: false,
          titleFont: { family: ink.font },
          bodyFont: { family: ink.font },
          callbacks: {
            title: (items) => longDay((items[0]?.parsed.x ?? 0) as Day),
            label: (item) => {
              const strip = strips[item.datasetIndex];
              return strip
                ? `${MEASURE_NAMES[strip.metric]} ${metricValue(strip.metric, item.parsed.y)}`
                : '';
            },
          },
        },
      },
    },
    plugins: [drawings(data, ink)],
  };
}

/** Draws the strips on a canvas. The chart that is given back must be destroyed when the canvas goes. */
export function drawStrips(canvas: HTMLCanvasElement, data: StripsData, ink: Ink): Chart<'line'> {
  return new Chart(canvas, configuration(data, ink));
}
