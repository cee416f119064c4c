/** What files can hold, for somebody who has none yet or wonders what else could come in. */
export function Wanted({ open }: { open: boolean }) {
  return (
    <details open={open} className="max-w-3xl">
      <summary className="cursor-pointer font-serif text-xl font-semibold">What a file can hold</summary>
      <p className="mt-2">
        Columns are recognised by their names, in any order, with commas, semicolons or tabs, in UTF-8, UTF-16
        or Windows-1252. CTR is left out and worked out again. What a file is about shows in its columns:
      </p>
      <dl className="mt-2 grid gap-x-6 gap-y-1.5 sm:grid-cols-[15rem_1fr]">
        {KINDS.map(([name, columns]) => (
          <div key={name} className="contents">
            <dt className="font-semibold">{name}</dt>
            <dd>{columns}</dd>
          </div>
        ))}
      </dl>
      <p className="mt-2">
        Page totals and query rows are separate facts: bring in both where you can, since rare searches are
        missing from the query rows. Where a file brings a row that is there already, the newer file wins;
        undoing it restores what it replaced.
      </p>
    </details>
  );
}

const KINDS = [
  ['Page by day', 'date, page, clicks, impressions; position, device, country where you have them'],
  ['Page and query by day', 'the same with query'],
  ['Query by day', 'date, query, clicks, impressions; position, device, country where you have them'],
  ['Whole site by day', 'date, clicks, impressions'],
  [
    'Totals of a period',
    'page or query (or both), clicks, impressions; an ISO week (2026-W45), or you state the first and last day',
  ],
  ['Checked positions', 'date, query, position; page where you have it'],
  ['Landing pages', 'date, page, sessions; engaged sessions or bounces, conversions, revenue'],
  ['About queries', 'query, searches a month'],
  ['About pages', 'page, group, worth of a conversion'],
] as const;
