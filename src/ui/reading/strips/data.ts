import type { Day } from '@/core/calendar/day';
import type { Span } from '@/core/calendar/span';
import type { OutsideEvent } from '@/core/model/event';
import type { Compared } from '@/core/reading/readingModel';
import type { Strip } from '@/core/reading/strips';

/** A change as the rail shows it. `own` is the change that the reading is about. */
export type RailChange = {
  readonly id: number;
  readonly day: Day;
  readonly title: string;
  readonly own: boolean;
};

/** Everything the picture of a reading is drawn from. */
export type StripsData = {
  readonly shown: Span;
  readonly compared: Compared;
  /** The spans of a reading; null where nothing is compared. */
  readonly planned: { readonly before: Span; readonly after: Span } | null;
  readonly lastReadable: Day | null;
  readonly strips: readonly Strip[];
  readonly changes: readonly RailChange[];
  /** What the results were seen to show anew, by the day of the look. */
  readonly seen?: readonly { readonly day: Day; readonly text: string }[];
  readonly events: readonly Pick<OutsideEvent, 'id' | 'name' | 'firstDay' | 'lastDay'>[];
};
