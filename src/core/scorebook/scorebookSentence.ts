/* A line of the scorebook in words. */

import { boundPercent, count, netPercent, netShare, plural } from '../words/format';
import type { PooledScore } from './pool';
import type { ScoreLine } from './scorebook';

/** "chosen 6% more often", "12% fewer clicks", "chosen as often as before" */
export function broughtText({ measure, net }: Pick<PooledScore, 'measure' | 'net'>): string {
  const size = netShare(net);
  if (measure === 'appeal')
    return size === null ? 'chosen as often as before' : `chosen ${size} ${net > 0 ? 'more' : 'less'} often`;
  return size === null ? 'as many clicks as before' : `${size} ${net > 0 ? 'more' : 'fewer'} clicks`;
}

/**
 * The sentence of a line.
 *
 * @example
 * lineSentence(titles)
 * // "Title rewrites: 14 read, chosen 6% more often on the whole (+1% to +11%); …"
 */
export function lineSentence(name: string, { changes, pooled }: ScoreLine): string {
  if (!pooled) return `${name}: ${count(changes)} read, without figures that could be pooled.`;
  const range = `(${boundPercent(Math.exp(pooled.low))} to ${boundPercent(Math.exp(pooled.high))})`;
  const whole = pooled.counted === 1 ? '' : ' on the whole';
  const said = `${name}: ${count(changes)} read, ${broughtText(pooled)}${whole} ${range}`;
  return pooled.next === null
    ? `${said}; ${plural(pooled.counted, 'change')} of the kind ${pooled.counted === 1 ? 'says' : 'say'} little of the next one.`
    : `${said}; the next one will most likely bring between ${netPercent(Math.exp(pooled.next.low))} and ${netPercent(Math.exp(pooled.next.high))}.`;
}
