/* The scorebook: effects pooled by type of change, tag, person, page group or title feature. */

import type { Mark } from '../effect/verdict';
import { changeKindsName } from '../model/change';
import { TITLE_CHANGE_MARK_NAMES, type TitleChangeMark } from './titleChange';
import { measureOf, type Scored } from './scorebookModel';
import { poolScores, type PooledScore } from './pool';

/** By what changes are pooled. */
export const SCORED_BY = ['kind', 'tag', 'person', 'group', 'mark'] as const;
export type ScoredBy = (typeof SCORED_BY)[number];

/** One line of the scorebook. */
export type ScoreLine = Readonly<Record<Mark, number>> & {
  readonly key: string;
  readonly name: string;
  readonly changes: number;
  /** How many of them are rounds. */
  readonly rounds: number;
  readonly pooled: PooledScore | null;
};

/** The keys of a change by each of the ways of pooling; a change can stand in several lines. */
const KEYS: Readonly<Record<ScoredBy, (one: Scored) => readonly string[]>> = {
  kind: ({ kind }) => [kind],
  tag: ({ tags }) => tags,
  person: ({ person }) => (person === null ? [] : [person]),
  group: ({ groups }) => groups,
  mark: ({ marks }) => marks,
};

/** Lines of the scorebook, those with the most changes first. */
export function scoreLines(scored: readonly Scored[], by: ScoredBy): ScoreLine[] {
  const byKey = new Map<string, Scored[]>();
  for (const one of scored) for (const key of KEYS[by](one)) byKey.set(key, [...(byKey.get(key) ?? []), one]);
  return [...byKey]
    .map(([key, list]) => scoreLine(key, nameOfKey(by, key), list))
    .sort((a, b) => b.changes - a.changes || a.name.localeCompare(b.name));
}

/** One line of the scorebook of some changes. */
export function scoreLine(key: string, name: string, list: readonly Scored[]): ScoreLine {
  const count = (mark: Mark) => list.filter(({ verdict }) => verdict === mark).length;
  return {
    ...{ key, name, changes: list.length, rounds: list.filter(({ roundId }) => roundId !== null).length },
    ...{ lifted: count('lifted'), dropped: count('dropped'), held: count('held'), unclear: count('unclear') },
    pooled: poolScores(list, measureOf(list)),
  };
}

function nameOfKey(by: ScoredBy, key: string): string {
  if (by === 'kind') return changeKindsName(key);
  return by === 'mark' ? TITLE_CHANGE_MARK_NAMES[key as TitleChangeMark] : key;
}
