'use client';

import { ReadingStrips } from '../reading/strips/ReadingStrips';
import type { StripsData } from '../reading/strips/data';

/** The strips of a page, a query, a group or the site. */
export function SubjectStrips({ data, name }: { data: StripsData; name: string }) {
  return (
    <ReadingStrips data={data} summary={`Clicks, impressions, position and appeal of ${name} day by day.`} />
  );
}
