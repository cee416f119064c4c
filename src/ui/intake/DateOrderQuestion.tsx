import type { DateOrder } from '@/core/intake/dates';

/** Asks for the order of day and month where a file leaves it open. */
export function DateOrderQuestion({
  order,
  onState,
}: {
  readonly order: DateOrder | undefined;
  readonly onState: (order: DateOrder) => void;
}) {
  return (
    <fieldset className="mt-4 border-l-3 border-(--band) pl-3">
      <legend className="sr-only">Order of day and month</legend>
      <p className="font-semibold">
        The dates could be day first or month first, and nothing in the column settles it. Which is it?
      </p>
      {(['day-first', 'month-first'] as const).map((one) => (
        <label key={one} className="mr-6 inline-flex items-center gap-2">
          <input
            type="radio"
            name="order"
            className="radio radio-sm"
            checked={order === one}
            onChange={() => onState(one)}
          />
          {one === 'day-first' ? 'day first: 3/9 is 3 September' : 'month first: 3/9 is 9 March'}
        </label>
      ))}
    </fieldset>
  );
}
