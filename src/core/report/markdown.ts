/* A report as Markdown, for a ticket. */

import { inMarkdown } from './escape';
import { headLine, readLine } from './html';
import type { ReportPart, ReportTable, ShownReport } from '../model/reportContent';

/** A report as Markdown; pictures have no place in it. */
export function reportMarkdown(report: ShownReport): string {
  const { content, changed } = report;
  return [
    `# ${inMarkdown(content.title)}`,
    inMarkdown(headLine(report)),
    inMarkdown(readLine(report)),
    ...content.parts.flatMap((part) => partLines(part, report)),
    ...(changed.length === 0
      ? []
      : ['## Since the last issue', changed.map((one) => `- ${inMarkdown(one)}`).join('\n')]),
  ]
    .filter((block) => block !== '')
    .join('\n\n')
    .concat('\n');
}

function partLines({ key, heading, sentences, tables }: ReportPart, { words }: ShownReport): string[] {
  const own = words[key];
  return [
    `## ${inMarkdown(heading)}`,
    own?.before
      ? own.before
          .split('\n')
          .map((line) => `> ${inMarkdown(line)}`)
          .join('\n')
      : '',
    ...sentences.map(inMarkdown),
    ...tables.flatMap(tableLines),
    own?.after
      ? own.after
          .split('\n')
          .map((line) => `> ${inMarkdown(line)}`)
          .join('\n')
      : '',
  ];
}

function tableLines({ title, columns, rows }: ReportTable): string[] {
  const line = (cells: readonly string[]) => `| ${cells.join(' | ')} |`;
  return [
    `### ${inMarkdown(title)}`,
    [
      line(columns.map(({ name }) => inMarkdown(name))),
      line(columns.map(({ figures }) => (figures ? '---:' : '---'))),
      ...rows.map((row) => line(row.map(({ text }) => inMarkdown(text)))),
    ].join('\n'),
  ];
}
