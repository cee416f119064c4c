/* How far a round has come. */

import { addDays, type Day } from '../calendar/day';
import { pagesOf, type Half, type Round } from '../model/round';
import { finalOn } from '../reading/readable';
import { turnDay } from './reading';

/**
 * State of an experiment: `drawn`, not yet made; `first` half being read; `to-decide` after that;
 * `to-go-on`, decided but the second half not yet made; `second` half being read; `over`.
 */
export type RoundState = 'drawn' | 'first' | 'to-decide' | 'to-go-on' | 'second' | 'over';

export const ROUND_STATE_NAMES: Readonly<Record<RoundState, string>> = {
  drawn: 'to be made',
  first: 'first half being read',
  'to-decide': 'to be decided',
  'to-go-on': 'second half to be made',
  second: 'second half being read',
  over: 'over',
};

/** A round that nobody went on with gives its pages free after so many days. */
const FORGOTTEN_DAYS = 120;

/** The day on which the turn of a half can be read whole; null where it was not made. */
export function turnReadOn(round: Round, half: Half, provisionalDays: number): Day | null {
  const day = turnDay(pagesOf(round, half));
  return day === null
    ? null
    : finalOn(addDays(day, round.settlingDays + round.windowDays - 1), provisionalDays);
}

/** Where a round stands on a day. */
export function roundState(round: Round, today: Day, provisionalDays: number): RoundState {
  const { decision, draw } = round;
  const [first, second] = [
    turnReadOn(round, 'first', provisionalDays),
    turnReadOn(round, 'second', provisionalDays),
  ];
  if (decision && decision.decision !== 'go-on') return 'over';
  if (first === null && second === null) return today < addDays(round.day, FORGOTTEN_DAYS) ? 'drawn' : 'over';
  if (second !== null) return today < second ? 'second' : 'over';
  if (today < first!) return 'first';
  if (draw === 'all' || pagesOf(round, 'second').length === 0) return decision ? 'over' : 'to-decide';
  if (today >= addDays(first!, FORGOTTEN_DAYS)) return 'over';
  return decision ? 'to-go-on' : 'to-decide';
}

/** Whether the pages of a round are bound by it: another change on them would spoil its reading. */
export function bindsPages(round: Round, today: Day, provisionalDays: number): boolean {
  return roundState(round, today, provisionalDays) !== 'over';
}
