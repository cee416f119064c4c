import type { Reasons } from '@/core/reasons/reasons';
import { roundParts } from '@/core/reasons/rounding';
import { metricDifference } from '@/core/words/format';

const NAMES = ['reach', 'rank', 'appeal', 'unseen'] as const;
type Name = (typeof NAMES)[number];

const MEANING: Record<Name, string> = {
  reach: 'shown more or less often',
  rank: 'stood higher or lower',
  appeal: 'chosen more or less where it stood',
  unseen: 'searches too rare to be named',
};

/** How many queries are named beside each reason. */
const NAMED = 2;

/** Why clicks moved: each reason begins where the one before it ended, and the last ends at the difference. */
export function Why({ reasons }: { reasons: Reasons }) {
  const parts = roundParts(NAMES.map((name) => reasons[name]));
  const ends = parts.reduce<number[]>((sums, part) => [...sums, (sums.at(-1) ?? 0) + part], []);
  const low = Math.min(0, ...ends);
  const high = Math.max(0, ...ends);
  const width = high - low || 1;
  const at = (value: number) => ((value - low) / width) * 100;
  return (
    <table className="w-full table-fixed text-[0.87rem]">
      <caption className="sr-only">Reasons for the difference in clicks</caption>
      <colgroup>
        <col className="w-16" />
        <col className="w-16" />
        <col />
      </colgroup>
      <tbody>
        {NAMES.map((name, i) => {
          const part = parts[i]!;
          const from = ends[i]! - part;
          return (
            <tr key={name} className="align-top">
              <th scope="row" className="text-left font-semibold" title={MEANING[name]}>
                {name}
              </th>
              <td className="pr-2 text-right">{metricDifference('clicks', part)}</td>
              <td>
                <div className="relative h-4" aria-hidden>
                  <span
                    className="absolute inset-y-0 border-l border-(--muted)"
                    style={{ left: `${at(0)}%` }}
                  />
                  {part !== 0 && (
                    <span
                      className={`absolute top-0.5 bottom-0.5 ${part > 0 ? 'bg-accent' : 'bg-error'}`}
                      style={{
                        left: `${at(Math.min(from, from + part))}%`,
                        width: `max(2px, ${(Math.abs(part) / width) * 100}%)`,
                      }}
                    />
                  )}
                </div>
                {name !== 'unseen' && <Queries reasons={reasons} name={name} />}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

function Queries({ reasons, name }: { reasons: Reasons; name: 'reach' | 'rank' | 'appeal' }) {
  const most = [...reasons.queries]
    .sort((a, b) => Math.abs(b[name]) - Math.abs(a[name]))
    .slice(0, NAMED)
    .filter((query) => Math.abs(query[name]) >= 0.5);
  if (most.length === 0) return null;
  return (
    <p className="muted truncate text-[0.78rem] leading-tight">
      {most.map((q) => `${q.query} ${metricDifference('clicks', Math.round(q[name]))}`).join(' · ')}
    </p>
  );
}
