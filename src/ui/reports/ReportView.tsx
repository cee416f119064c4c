import { headLine, readLine } from '@/core/report/html';
import {
  type ReportInk,
  type ReportPart,
  type ReportTable,
  type ShownReport,
} from '@/core/model/reportContent';
import { FiguresTable } from '../kit/table/FiguresTable';
import { stripsSvg } from '@/core/report/stripsSvg';

/** A report to be read in the browser and printed: the same sentences, tables and strips as in its files. */
export function ReportView({ shown }: { shown: ShownReport }) {
  const { content, words, ink, logo, changed, issue } = shown;
  return (
    <article
      className="report max-w-[60rem]"
      style={{ '--report-ink': SCREEN_INKS[ink] } as React.CSSProperties}
    >
      {logo && (
        // eslint-disable-next-line @next/next/no-img-element -- a data address: there is nothing to be fetched or sized
        <img src={logo} alt="" className="mb-2 max-h-14 max-w-56" />
      )}
      <p className="muted text-[0.9rem]">{headLine(shown)}</p>
      <h2 className="text-[1.9rem]">{content.title}</h2>
      <p className="muted text-[0.9rem]">{readLine(shown)}</p>
      {content.parts.map((part) => (
        <PartView key={part.key} part={part} own={words[part.key]} />
      ))}
      {changed.length > 0 && (
        <section>
          <h3>Since {issue && issue.number > 1 ? `issue ${issue.number - 1}` : 'it was sent last'}</h3>
          <ul className="list-disc pl-5">
            {changed.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        </section>
      )}
    </article>
  );
}

/** On screen the inks are those of the look, so that they are light on slate. */
const SCREEN_INKS: Readonly<Record<ReportInk, string>> = {
  ink: 'var(--color-base-content)',
  petrol: 'var(--color-accent)',
  rust: 'var(--color-error)',
  ochre: 'var(--band-text)',
};

function PartView({
  part: { heading, sentences, tables, strips },
  own,
}: {
  part: ReportPart;
  own: { readonly before: string; readonly after: string } | undefined;
}) {
  const [first, ...rest] = sentences;
  return (
    <section>
      <h3>{heading}</h3>
      <Own text={own?.before} />
      {first && <p className="font-serif text-[1.15rem] leading-snug">{first}</p>}
      {rest.map((sentence) => (
        <p key={sentence}>{sentence}</p>
      ))}
      {tables.map((table) => (
        <TableView key={table.title} table={table} />
      ))}
      {strips && (
        <>
          <h4>{strips.title}</h4>
          {/* Our own drawing, every word in it escaped. */}
          <div className="report-strips" dangerouslySetInnerHTML={{ __html: stripsSvg(strips) }} />
        </>
      )}
      <Own text={own?.after} />
    </section>
  );
}

function Own({ text }: { text: string | undefined }) {
  if (!text) return null;
  return <p className="border-l-3 border-(--report-ink) pl-3 whitespace-pre-line">{text}</p>;
}

function TableView({ table: { title, columns, rows } }: { table: ReportTable }) {
  return (
    <>
      <h4>{title}</h4>
      <FiguresTable
        label={title}
        className="dense text-[0.86rem]"
        rows={rows}
        rowKey={(_, i) => i}
        columns={columns.map(({ name, figures }, k) => ({
          id: `${k}`,
          name,
          text: !figures,
          cellClass: figures ? '' : 'whitespace-normal!',
          cell: (row: ReportTable['rows'][number]) => row[k]?.text,
        }))}
      />
    </>
  );
}
