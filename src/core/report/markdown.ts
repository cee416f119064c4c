/* A report as Markdown, for a ticket. */

import { headLine, readLine } from './html';
import type { ReportPart, ReportTable, ShownReport } from './model';

/** A text in which nothing is read as Markdown. @example plain('a*b|c') // "a\\*b\\|c" */
export function plain(text: string): string {
  return text.replaceAll(/([\\`*_{}[\]<>#|~])/g, '\\$1').replaceAll(/\s*\n\s*/g, ' ');
}

/** A report as Markdown; pictures have no place in it. */
export function reportMarkdown(report: ShownReport): string {
  const { content, changed } = report;
  return [
    `# ${plain(content.title)}`,
    plain(headLine(report)),
    plain(readLine(report)),
    ...content.parts.flatMap((part) => partLines(part, report)),
    ...(changed.length === 0
      ? []
      : ['## Since the last issue', changed.map((one) => `- ${plain(one)}`).join('\n')]),
  ]
    .filter((block) => block !== '')
    .join('\n\n')
    .concat('\n');
}

function partLines({ key, heading, sentences, tables }: ReportPart, { words }: ShownReport): string[] {
  const own = words[key];
  return [
    `## ${plain(heading)}`,
    own?.before
      ? own.before
          .split('\n')
          .map((line) => `> ${plain(line)}`)
          .join('\n')
      : '',
    ...sentences.map(plain),
    ...tables.flatMap(tableLines),
    own?.after
      ? own.after
          .split('\n')
          .map((line) => `> ${plain(line)}`)
          .join('\n')
      : '',
  ];
}

function tableLines({ title, columns, rows }: ReportTable): string[] {
  const line = (cells: readonly string[]) => `| ${cells.join(' | ')} |`;
  return [
    `### ${plain(title)}`,
    [
      line(columns.map(({ name }) => plain(name))),
      line(columns.map(({ figures }) => (figures ? '---:' : '---'))),
      ...rows.map((row) => line(row.map(({ text }) => plain(text)))),
    ].join('\n'),
  ];
}
