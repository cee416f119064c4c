/* The control of one day and horizon: its rows, their shares, and their innovations. */

import type { Day } from '../calendar/day';
import type { Span } from '../calendar/span';
import { byComponent, isRate, type Component } from '../measures/registry';
import { controlOf, controlWeight, type Control } from './control';
import { controlRatio, type Weighed } from './controlPath';
import type { FittedPanel } from './fittedPanel';
import type { Horizon } from './kriging';

/** A component of a control: its pooled innovations, and the weights of its rows in their order. */
type Part = { readonly control: Control; readonly weights: Float64Array };

export class ControlDay {
  /**
   * Candidate rows and their shares. Hundreds of controls are kept, so other rows take no memory.
   */
  private readonly list: Int32Array;
  private readonly shares: Float64Array;
  private readonly parts = byComponent((): Part | null => null);
  private readonly ratios = new Map<string, number | null>();

  /** @param share the share of each row of the history in the control; 0 for rows outside it */
  constructor(
    private readonly ground: FittedPanel,
    private readonly day: Day,
    private readonly horizon: Horizon,
    share: Float64Array,
    /** Whether groups have a part in it: who chose a control chose whom to resemble. */
    readonly byGroups: boolean,
  ) {
    this.list = Int32Array.from([...share.keys()].filter((row) => share[row]! > 0));
    this.shares = Float64Array.from(this.list, (row) => share[row]!);
  }

  /** Whether a row may stand in it. */
  has(row: number): boolean {
    return this.list.includes(row);
  }

  /** The rows that may stand in it, and how much of its weight each has. */
  members(): { readonly row: number; readonly share: number }[] {
    return [...this.list].map((row, at) => ({ row, share: this.shares[at]! }));
  }

  /** The pooled innovations of a component. */
  of(component: Component): Control {
    return this.part(component).control;
  }

  /** The rows that stand in it with a weight. */
  rows(component: Component): number[] {
    const { weights } = this.part(component);
    return [...this.list].filter((_, at) => weights[at]! > 0);
  }

  /**
   * Log ratio of the level of the control between two spans, as it applies to a group; null if no
   * row has both.
   *
   * @param between variance of a group’s innovation about the site’s
   */
  ratio(component: Component, group: number, between: number, before: Span, after: Span): number | null {
    const { groups } = this.ground.groupsAt(this.day);
    // Rates are those of all rows together.
    const key = `${component}/${isRate(component) ? '' : group}/${before.firstDay}/${after.firstDay}/${after.lastDay}`;
    let known = this.ratios.get(key);
    if (known === undefined) {
      const weighed: Weighed = {
        ...{ rows: this.list, weights: this.part(component).weights, groups },
        between: this.byGroups ? between : 0,
      };
      known = controlRatio(this.ground.rows.history, component, weighed, group, before, after);
      this.ratios.set(key, known);
    }
    return known;
  }

  private part(component: Component): Part {
    const known = this.parts[component];
    if (known) return known;
    const { groups } = this.ground.groupsAt(this.day);
    const { list, shares } = this;
    const innovations = this.ground.innovations(component, this.day, this.horizon, list);
    const weights = shares.map((share, at) => share * controlWeight(innovations, at));
    const placed = { of: [...list].map((row) => groups.of[row]!), count: groups.count };
    const made: Part = { control: controlOf(innovations, shares, placed), weights };
    this.parts[component] = made;
    return made;
  }
}
