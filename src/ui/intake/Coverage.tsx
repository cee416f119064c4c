import { addDays, isoDay, type Day } from '@/core/calendar/day';
import { GRAINS, type Grain } from '@/core/facts/grains';
import { lastReadableDay } from '@/core/reading/readable';
import { count, mediumDay, plural } from '@/core/words/format';

/** The days of which figures of one grain are there. */
export type GrainCoverage = {
  readonly grain: Grain;
  /** Days with rows: when the newest of them were taken, and how many one file brought. */
  readonly days: readonly { readonly day: Day; readonly takenOn: Day; readonly rows: number }[];
};

type Props = { coverage: readonly GrainCoverage[]; provisionalDays: number };

type State = 'there' | 'provisional' | 'missing' | 'outside';

const MARKS: Record<Exclude<State, 'outside'>, string> = {
  there: 'bg-(--muted)',
  provisional: 'border border-base-content bg-transparent',
  missing: 'missing-day',
};

/** A calendar of the figures: a line for each month and kind, a mark for each day. */
export function Coverage({ coverage, provisionalDays }: Props) {
  if (coverage.length === 0) return null;
  return (
    <div className="space-y-5">
      <p className="flex flex-wrap gap-x-6 gap-y-1 text-[0.85rem]">
        {(['there', 'provisional', 'missing'] as const).map((state) => (
          <span key={state} className="flex items-center gap-2">
            <span aria-hidden className={`inline-block h-3 w-2 ${MARKS[state]}`} />
            {
              {
                there: 'figures are there',
                provisional: 'provisional: the newest days, still revised at the source',
                missing: 'missing',
              }[state]
            }
          </span>
        ))}
      </p>
      <div className="grid gap-x-10 gap-y-6 lg:grid-cols-2">
        {coverage.map((one) => (
          <Calendar key={one.grain} {...one} provisionalDays={provisionalDays} />
        ))}
      </div>
    </div>
  );
}

function Calendar({ grain, days, provisionalDays }: GrainCoverage & { provisionalDays: number }) {
  const [first, last] = [days[0]!.day, days.at(-1)!.day];
  const takenOn = Math.max(...days.map((one) => one.takenOn)) as Day;
  const readable = lastReadableDay({ lastDay: last, takenOn }, provisionalDays);
  const byDay = new Map(days.map((one) => [one.day, one]));
  const stateOf = (day: Day): State => {
    if (day < first || day > last) return 'outside';
    const one = byDay.get(day);
    if (!one) return 'missing';
    return day > readable ? 'provisional' : 'there';
  };
  const missing = last - first + 1 - days.length;
  const months = monthsOf(first, last);
  return (
    <section aria-label={`Days ${GRAINS[grain].name}`}>
      <h3 className="font-semibold">Rows {GRAINS[grain].name}</h3>
      <p className="muted text-[0.85rem]">
        {mediumDay(first)} to {mediumDay(last)},{' '}
        {missing === 0 ? 'no day missing' : `${plural(missing, 'day')} missing`}
      </p>
      <table className="mt-1 text-[0.8rem] leading-none">
        <tbody>
          {months.map(({ name, days: monthDays }) => (
            <tr key={name}>
              <th scope="row" className="muted pr-3 text-left font-normal tabular-nums">
                {name}
              </th>
              <td>
                <span className="flex gap-0.5 py-[2px] sm:gap-[3px]">
                  {monthDays.map((day) => {
                    const state = stateOf(day);
                    const one = byDay.get(day);
                    const words = state === 'there' ? '' : `, ${state}`;
                    return state === 'outside' ? (
                      <span key={day} aria-hidden className="h-3 w-1.5 sm:w-2" />
                    ) : (
                      <span
                        key={day}
                        title={`${isoDay(day)}${words}${one ? `, ${count(one.rows)} rows` : ''}`}
                        className={`h-3 w-1.5 sm:w-2 ${MARKS[state]}`}
                      />
                    );
                  })}
                </span>
                <span className="sr-only">{monthInWords(monthDays.map(stateOf))}</span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function monthInWords(states: readonly State[]): string {
  const number = (state: State) => states.filter((one) => one === state).length;
  return `${number('there')} days there, ${number('provisional')} provisional, ${number('missing')} missing`;
}

function monthsOf(first: Day, last: Day): { name: string; days: Day[] }[] {
  const months = new Map<string, Day[]>();
  const monthOf = (day: Day) => isoDay(day).slice(0, 7);
  let day = first;
  // Whole months, so that days of different months stand under each other.
  while (monthOf(addDays(day, -1)) === monthOf(first)) day = addDays(day, -1);
  for (; day <= last || monthOf(day) === monthOf(last); day = addDays(day, 1)) {
    const name = monthOf(day);
    const days = months.get(name);
    if (days) days.push(day);
    else months.set(name, [day]);
  }
  return [...months].map(([name, days]) => ({ name, days }));
}
