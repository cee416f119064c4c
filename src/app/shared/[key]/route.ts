import { z } from 'zod';
import { operation } from '@/app/api/v1/doorway';
import { Problem } from '@/app/problem';
import { escaped } from '@/core/report/escape';
import { reportHtml } from '@/core/report/html';
import type { ShownReport } from '@/core/model/reportContent';
import { ask } from '@/app/ask';
import { isLinkPassword, isProof, openLink, proofFor } from '@/services/access/shareLinks';
import { TooManyTries } from '@/services/access/slowing';
import { shownReport } from '@/services/report/shown';
import { rememberOpening, type SharedLink } from '@/store/access/links';
import { publicAddress } from '@/store/access/publicAddress';
import { REMOTE_HEADER } from '@/store/access/toldHeaders';
import type { Db } from '@/store/database';
import { findReport } from '@/store/reports/reports';

/*
 * What a read-only link shows: one document without scripts, which leads nowhere else. Any key that opens nothing, whether it ended,
 * was withdrawn or never was, is answered in the same way.
 */

const PROOF = 'tally.link';
const PROOF_SECONDS = 12 * 3600;

/** Nothing of it is kept by anybody on the way, found by a search, or able to run. */
const HEADERS = {
  'Content-Type': 'text/html; charset=utf-8',
  'Cache-Control': 'private, no-store',
  'X-Robots-Tag': 'noindex, nofollow, noarchive',
};

const page = (title: string, body: string) => `<!DOCTYPE html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta name="robots" content="noindex">
<title>${escaped(title)}</title>
<style>
body { margin: 3rem auto; max-width: 30rem; padding: 0 1.2rem; background: #fcf9f1; color: #22201b; font: 16px/1.45 system-ui, sans-serif; }
h1 { font: 600 1.6rem/1.2 Georgia, serif; }
label { display: block; font-weight: 600; margin-bottom: .2rem; }
input { font: inherit; padding: .4rem .5rem; border: 1px solid #6b655a; background: #fff; width: 100%; box-sizing: border-box; }
button { font: inherit; margin-top: .8rem; padding: .4rem 1rem; border: 1px solid #22201b; background: #22201b; color: #fcf9f1; }
.wrong { color: #9c3a17; font-weight: 600; }
</style>
</head>
<body>
<main>
${body}
</main>
</body>
</html>
`;

const html = (body: string, status = 200, more: Record<string, string> = {}) =>
  new Response(body, { status, headers: { ...HEADERS, ...more } });

const nothing = () =>
  html(
    page(
      'Nothing stands here',
      '<h1>Nothing stands here</h1><p>The link is over, was withdrawn, or was cut off when it was copied. Ask whoever sent it for a new one.</p>',
    ),
    404,
  );

const passwordAsked = (wrong: string | null, status: number) =>
  html(
    page(
      'A password, please',
      `<h1>A password, please</h1>
${wrong === null ? '' : `<p class="wrong" role="alert">${escaped(wrong)}</p>\n`}<form method="post">
<p><label for="password">The password that came with the link</label>
<input id="password" name="password" type="password" autocomplete="off" required maxlength="128" autofocus></p>
<button type="submit">Show it</button>
</form>`,
    ),
    status,
  );

/** What a link leads to, as its figures stand now; null where there is nothing to show of it yet. */
async function shownOf(db: Db, { of, siteId, thingId }: SharedLink): Promise<ShownReport | null> {
  if (of === 'report') {
    const report = findReport(db, thingId);
    const content = report && (await ask('report', { siteId: report.siteId, reportId: report.id }));
    return report && content ? shownReport(db, report, content) : null;
  }
  const content =
    of === 'reading'
      ? await ask('readingReport', { siteId, changeId: thingId })
      : await ask('roundReport', { siteId, roundId: thingId });
  return content && { content, words: {}, ink: 'ink', logo: null, issue: null, changed: [] };
}

async function shown(db: Db, link: SharedLink, more: Record<string, string> = {}): Promise<Response> {
  const report = await shownOf(db, link);
  if (!report)
    return html(page(link.title, '<h1>Not yet</h1><p>There are no figures to show of it yet.</p>'), 200);
  rememberOpening(db, link.id);
  return html(reportHtml(report), 200, more);
}

const proofIn = (request: Request) =>
  new RegExp(`(?:^|; *)${PROOF.replace('.', '\\.')}=([\\w-]+)`).exec(
    request.headers.get('cookie') ?? '',
  )?.[1] ?? '';

export const GET = operation(
  { summary: 'What a read-only link shows', on: 'nothing', may: 'anybody', answers: {} },
  async ({ db, request, path }) => {
    const link = openLink(db, path.key ?? '');
    if (!link) return nothing();
    if (link.password !== null && !isProof(link, proofIn(request))) return passwordAsked(null, 200);
    return shown(db, link);
  },
);

export const POST = operation(
  { summary: 'The password of a read-only link', on: 'nothing', may: 'anybody', answers: {} },
  async ({ db, request, path }) => {
    const key = path.key ?? '';
    const link = openLink(db, key);
    if (!link) return nothing();
    const form = new URLSearchParams((await textOf(request)).slice(0, 2000));
    const password = z.string().max(200).catch('').parse(form.get('password'));
    const from = request.headers.get(REMOTE_HEADER) ?? 'unknown';
    try {
      if (!(await isLinkPassword(link, password, from)))
        return passwordAsked('This is not the password.', 403);
    } catch (error) {
      if (error instanceof TooManyTries) return passwordAsked(error.message, 429);
      throw error;
    }
    const secure = publicAddress()?.protocol === 'https:' ? '; Secure' : '';
    const cookie = `${PROOF}=${proofFor(link)}; Path=/shared/${key}; Max-Age=${PROOF_SECONDS}; HttpOnly; SameSite=Lax${secure}`;
    return shown(db, link, { 'Set-Cookie': cookie });
  },
);

async function textOf(request: Request): Promise<string> {
  if (Number(request.headers.get('content-length') ?? 0) > 4000)
    throw new Problem(413, 'A password is not as long as this.');
  return request.text();
}
