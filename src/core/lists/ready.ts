/* The usual questions of the trade, each as an ordinary filter that can be opened and altered. */

import type { ListSubject } from './columns';

export type ReadyFilter = {
  readonly name: string;
  readonly only: readonly ListSubject[];
  /** Ranges and order as they stand in an address. */
  readonly query: Readonly<Record<string, string>>;
};

const QUERIES: readonly ListSubject[] = ['queries', 'pairs'];
const ALL: readonly ListSubject[] = ['pages', 'queries', 'pairs'];

/** Thresholds are rules of the trade: common practice, no published source. */
export const READY_FILTERS: readonly ReadyFilter[] = [
  {
    name: 'workable: below 5, above 21, clicked',
    only: QUERIES,
    query: { 'position.min': '5.01', 'position.max': '20.99', 'clicks.min': '1', sort: '-impressions' },
  },
  {
    name: 'just past the first page (10.5 to 13.5)',
    only: ALL,
    query: { 'position.min': '10.5', 'position.max': '13.5', sort: '-impressions' },
  },
  { name: 'up to 25, most seen', only: QUERIES, query: { 'position.max': '25', sort: '-impressions' } },
  {
    name: 'CTR under 1%',
    only: ALL,
    query: { 'ctr.max': '0.0099999', 'impressions.min': '100', sort: '-impressions' },
  },
  {
    name: 'first page, chosen less than usual',
    only: ALL,
    query: { 'position.max': '10.49', 'appeal.max': '0.8', 'missing.min': '1', sort: '-missing' },
  },
  {
    name: 'ten thousand seen, few clicked',
    only: ALL,
    query: { 'impressions.min': '10000', 'ctr.max': '0.02', sort: '-impressions' },
  },
  {
    name: 'lost since before',
    only: ALL,
    query: { 'before.clicks.min': '1', 'clicks.max': '0', sort: '-before.clicks' },
  },
  {
    name: 'new',
    only: ALL,
    query: { 'before.impressions.max': '0', 'impressions.min': '1', sort: '-impressions' },
  },
];
