/* A report as one HTML file that opens from a mail without network, and prints on A4 and Letter. */

import { longDay, mediumDay, spanText } from '../words/format';
import { escaped } from './escape';
import { REPORT_INKS, type ReportPart, type ReportTable, type ShownReport } from '../model/reportContent';
import { stripsSvg } from './stripsSvg';

const css = (ink: string) => `
:root { color-scheme: light; }
* { box-sizing: border-box; }
body { margin: 0 auto; max-width: 60rem; padding: 2rem 1.2rem 3rem; background: #fcf9f1; color: #22201b; font: 15px/1.45 "Public Sans", system-ui, sans-serif; font-variant-numeric: tabular-nums; }
h1, h2, h3 { font-family: Newsreader, Georgia, serif; font-weight: 600; line-height: 1.2; color: ${ink}; break-after: avoid; }
h1 { font-size: 1.9rem; margin: .4rem 0 .2rem; }
h2 { font-size: 1.3rem; margin: 2rem 0 .5rem; border-bottom: 1.5px solid ${ink}; padding-bottom: .15rem; }
h3 { font-size: 1rem; margin: 1rem 0 .2rem; }
p { margin: .4rem 0; orphans: 3; widows: 3; }
.lead { font: 1.15rem/1.4 Newsreader, Georgia, serif; }
.muted { color: #6b655a; }
.own { border-left: 3px solid ${ink}; padding-left: .7rem; }
.logo { max-height: 3.2rem; max-width: 14rem; display: block; }
.wide { overflow-x: auto; }
table { width: 100%; border-collapse: collapse; margin: .3rem 0 .8rem; font-size: .84rem; }
th { text-align: left; font-weight: 600; color: #6b655a; font-size: .8rem; vertical-align: bottom; }
thead tr { border-bottom: 1.5px solid #22201b; }
tbody tr { border-bottom: 1px solid #ddd6c5; break-inside: avoid; }
th, td { padding: .25rem .5rem; text-align: left; vertical-align: baseline; }
tbody th { color: #22201b; font-size: .88rem; overflow-wrap: anywhere; }
.figure { text-align: right; white-space: nowrap; }
.short { white-space: nowrap; }
svg { display: block; margin: .6rem 0; break-inside: avoid; }
@page { margin: 16mm 15mm 18mm; }
@media print {
  body { background: none; padding: 0; max-width: none; font-size: 10.5pt; }
  thead { display: table-header-group; }
  tr, svg, .own { break-inside: avoid; }
  .wide { overflow: visible; }
}
`;

/** A report as a whole HTML document. Nothing in it is fetched from anywhere. */
export function reportHtml(report: ShownReport): string {
  const { content, ink, logo } = report;
  return `<!DOCTYPE html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta name="robots" content="noindex">
<title>${escaped(content.title)}</title>
<style>${css(REPORT_INKS[ink])}</style>
</head>
<body>
<header>
${logo ? `<img class="logo" src="${escaped(logo)}" alt="">\n` : ''}<p class="muted">${escaped(headLine(report))}</p>
<h1>${escaped(content.title)}</h1>
<p class="muted">${escaped(readLine(report))}</p>
</header>
<main>
${content.parts.map((part) => partHtml(part, report)).join('\n')}
${changedHtml(report)}</main>
</body>
</html>
`;
}

/** What a report is about, and when. */
export function headLine({ content: { site, about, span } }: ShownReport): string {
  return `${site} · ${about} · ${spanText(span)}`;
}

/** When its figures were read, and which issue it is. */
export function readLine({ content: { readOn, figuresTo }, issue }: ShownReport): string {
  const to = figuresTo === null ? '' : `, final to ${mediumDay(figuresTo)}`;
  const which = issue ? ` Issue ${issue.number}, sent ${mediumDay(issue.day)}.` : '';
  return `Figures as read on ${longDay(readOn)}${to}.${which}`;
}

function changedHtml({ changed, issue }: ShownReport): string {
  if (changed.length === 0) return '';
  const items = changed.map((one) => `<li>${escaped(one)}</li>`).join('');
  return `<section><h2>Since ${issue && issue.number > 1 ? `issue ${issue.number - 1}` : 'the last issue'}</h2><ul>${items}</ul></section>\n`;
}

function partHtml({ key, heading, sentences, tables, strips }: ReportPart, { words }: ShownReport): string {
  const own = words[key];
  const [first, ...rest] = sentences;
  return `<section>
<h2>${escaped(heading)}</h2>
${ownHtml(own?.before)}${first === undefined ? '' : `<p class="lead">${escaped(first)}</p>\n`}${rest.map((one) => `<p>${escaped(one)}</p>\n`).join('')}${tables.map(tableHtml).join('')}${strips ? `<h3>${escaped(strips.title)}</h3>\n${stripsSvg(strips)}\n` : ''}${ownHtml(own?.after)}</section>`;
}

const ownHtml = (text: string | undefined): string =>
  text
    ? text
        .split(/\n{2,}/)
        .map((part) => `<p class="own">${escaped(part).replaceAll('\n', '<br>')}</p>\n`)
        .join('')
    : '';

/** A day, or a word or two: not worth a second line. */
const SHORT = 12;

function tableHtml({ title, columns, rows }: ReportTable): string {
  const head = columns
    .map(({ name, figures }) => `<th scope="col"${figures ? ' class="figure"' : ''}>${escaped(name)}</th>`)
    .join('');
  const body = rows
    .map(
      (row) =>
        `<tr>${row
          .map(({ text }, i) => {
            if (i === 0) return `<th scope="row">${escaped(text)}</th>`;
            const shape = columns[i]?.figures ? 'figure' : text.length <= SHORT ? 'short' : null;
            return `<td${shape ? ` class="${shape}"` : ''}>${escaped(text)}</td>`;
          })
          .join('')}</tr>`,
    )
    .join('\n');
  return `<h3>${escaped(title)}</h3>
<div class="wide" tabindex="0" role="region" aria-label="${escaped(title)}"><table>
<thead><tr>${head}</tr></thead>
<tbody>
${body}
</tbody>
</table></div>
`;
}
