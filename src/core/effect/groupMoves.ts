/*
 * Group-by-week effects: the movement of each group beyond the site, shrunk toward zero and taken
 * off its rows.
 */

import type { Groups } from './rows';
import { eachDeviation, WEEK_SPREAD, type WeeklyPanel } from './weekly';

/** Prior variance of a group-by-week effect, for levels; rates differ less. */
const GROUP_SPREAD = 0.006;

/**
 * A weekly panel less the effects of each row’s group, estimated from the other rows. With the row
 * itself a page that dipped would drag its group along and seem to have dipped less.
 */
export function withoutGroupMoves(panel: WeeklyPanel, groups: Groups, control: Uint8Array): WeeklyPanel {
  const { rows, weeks, isRate } = panel;
  const spread = isRate ? GROUP_SPREAD / 4 : GROUP_SPREAD;
  const sum = new Float64Array(groups.count * weeks);
  const weight = new Float64Array(groups.count * weeks).fill(1 / spread);
  const [ownSum, ownWeight] = [new Float64Array(rows * weeks), new Float64Array(rows * weeks)];
  eachDeviation(panel, control, (deviation) => {
    const at = groups.of[deviation.row]! * weeks + deviation.week;
    const own = deviation.row * weeks + deviation.week;
    ownWeight[own] = 1 / (deviation.noise + WEEK_SPREAD);
    ownSum[own] = ownWeight[own] * deviation.value;
    sum[at]! += ownSum[own];
    weight[at]! += ownWeight[own];
  });
  const adjusted = new Float32Array(rows * weeks);
  for (let row = 0; row < rows; row++) {
    const group = groups.of[row]! * weeks;
    for (let week = 0; week < weeks; week++) {
      const own = row * weeks + week;
      const move = (sum[group + week]! - ownSum[own]!) / (weight[group + week]! - ownWeight[own]!);
      adjusted[own] = isRate ? panel.base[own]! * (1 + move) : panel.value[own]! - move;
    }
  }
  return isRate ? { ...panel, base: adjusted } : { ...panel, value: adjusted };
}
