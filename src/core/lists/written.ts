/* Values of columns as people read them. */

import { ABSENT, count, metricDifference, metricValue, share } from '../words/format';
import { COLUMNS, type Column } from './columns';

/** A value of a column in words and figures; absent is not 0. */
export function columnValue(column: Column, value: number | null | undefined): string {
  if (value === null || value === undefined || Number.isNaN(value)) return ABSENT;
  const difference = column.startsWith('difference.');
  switch (COLUMNS[column].form) {
    case 'count':
      return difference ? metricDifference('clicks', value) : count(value);
    case 'ctr':
      return metricValue('ctr', value);
    case 'points':
      return metricDifference('ctr', value);
    case 'position':
      return metricValue('position', value);
    case 'places':
      // Its head says that these are places.
      return metricDifference('position', value).replace(/ places?/, '');
    case 'ratio':
      return difference ? metricDifference('appeal', value) : metricValue('appeal', value);
    case 'share':
      return share(value);
    case 'money':
      return count(value);
  }
}
