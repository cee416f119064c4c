'use server';

import { z } from 'zod';
import { action, question } from '@/app/action';
import { mergedEdit } from '@/app/formResult';
import { foundOr404, Problem } from '@/app/problem';
import { isoDay } from '@/core/calendar/day';
import { DEVICES } from '@/core/intake/rowReader';
import { newChangeSchema } from '@/core/model/change';
import { isoDaySchema, lineText } from '@/core/model/fields';
import { plural } from '@/core/words/format';
import type { DraftReport } from '@/core/wording/draft';
import { newResultPageSchema, WORDED } from '@/core/wording/resultPage';
import { reachResults } from '@/jobs/outsideWorld';
import { ask } from '@/app/ask';
import { lookAtRivals } from '@/jobs/inWorker';
import { AddressRefused } from '@/outside/http/address';
import { AskFailed } from '@/outside/http/get';
import { SourceRefused } from '@/outside/resultPages/source';
import { bringInResultPage, ownResults } from '@/services/wording/resultPages';
import { today } from '@/store/clock';
import { MOST_PAGES } from '@/services/wording/pageDrafts';
import { findPage } from '@/store/addresses/pages';
import { latestTitles } from '@/store/evidence/snapshots';
import { addChange } from '@/store/ledger/changes';
import { addDraft, draftsOf, saveDraft, setDraftDeleted } from '@/store/wording/drafts';
import { setLeftOut } from '@/store/wording/leftOut';
import { resultsAccess } from '@/store/wording/access';
import { setResultPageDeleted } from '@/store/wording/resultPages';

/** Keeps what a search showed, as it was looked through, and gives its number. */
export const keepResults = action(
  { on: 'site', may: 'edit', auditAction: 'kept a result page' },
  [newResultPageSchema],
  async ({ db, site }, given) => {
    const { id } = await bringInResultPage(db, site, given);
    return id;
  },
);

const deviceSchema = z.enum(Object.keys(DEVICES) as [keyof typeof DEVICES, ...(keyof typeof DEVICES)[]]);
const querySchema = lineText().min(1, 'Which query?').max(500).toLowerCase();

/** Asks the source of result pages what a search shows today, keeps it, and gives its number. */
export const lookUp = action(
  { on: 'site', may: 'edit', auditAction: 'looked up a result page' },
  [querySchema, deviceSchema],
  async ({ db, site }, query, device) => {
    const source = reachResults(db, site);
    if (!source) throw new Problem(409, 'No source of result pages is set; see Settings.');
    const { country } = resultsAccess(db, site.id);
    try {
      const shown = await source({ query, language: site.language, country, device });
      const { id } = await bringInResultPage(db, site, {
        ...shown,
        query,
        day: isoDay(today(site.timeZone)),
        device,
      });
      return id;
    } catch (error) {
      if ([SourceRefused, AskFailed, AddressRefused].some((kind) => error instanceof kind))
        throw new Problem(502, (error as Error).message);
      throw error;
    }
  },
);

/** Deletes a result page. */
export const dropResults = action(
  { on: 'resultPage', may: 'edit', auditAction: 'deleted a result page' },
  [],
  async ({ db, resultPage }) => {
    await setResultPageDeleted(db, resultPage.id, true);
    return null;
  },
);

/** Puts a result page back. */
export const putBackResults = action(
  { on: 'site', may: 'edit', auditAction: 'put a result page back' },
  [z.int().positive()],
  async ({ db, site }, id) => {
    return foundOr404(await setResultPageDeleted(db, id, false, site.id), 'result page');
  },
);

/** Fetches the pages of the results that are not one's own. */
export const lookAtPages = action(
  { on: 'resultPage', may: 'edit', auditAction: 'had the pages of results fetched' },
  [],
  async ({ site, resultPage }) => {
    await lookAtRivals(resultPage, ownResults(site));
    return null;
  },
);

/** Has a term count no longer, or again. */
export const leaveOut = action(
  { on: 'site', may: 'edit', auditAction: 'left a term out, or not' },
  [z.strictObject({ term: z.string().min(1).max(200), written: z.string().min(1).max(200) }), z.boolean()],
  async ({ db, site }, term, out) => {
    await setLeftOut(db, site.id, term, out);
    return null;
  },
);

const draftText = lineText().max(1000, 'At most 1,000 characters.');

// The bench itself keeps what is typed, so that no screen is drawn anew under somebody's hands.

/** Begins a draft of a page, and gives its number. */
export const beginDraft = question(
  { on: 'page', may: 'edit', auditAction: 'began a draft' },
  [z.enum(WORDED), draftText],
  async ({ db, site, page }, of, text) => addDraft(db, site.id, { pageId: page.id, of, text }),
);

/** Writes a draft anew, from the text that it had when that began. */
export const writeDraft = question(
  { on: 'site', may: 'edit', auditAction: 'wrote a draft' },
  [z.int().positive(), draftText, draftText],
  async ({ db, site }, id, text, base) => {
    await saveDraft(db, site.id, id, text, (now) => void mergedEdit({ text }, { text: base }, { text: now }));
    return null;
  },
);

/** Drops a draft, or takes it back. */
export const dropDraft = question(
  { on: 'site', may: 'edit', auditAction: 'dropped a draft, or not' },
  [z.int().positive(), z.boolean()],
  async ({ db, site }, id, dropped) => {
    return foundOr404(await setDraftDeleted(db, site.id, id, dropped), 'draft');
  },
);

/** Holds drafts against the results. */
export const holdDrafts = question(
  { on: 'resultPage', may: 'read' },
  [z.enum(WORDED), z.array(draftText).max(20)],
  async ({ site, resultPage }, of, texts): Promise<DraftReport[]> => {
    const wish = { resultPageId: resultPage.id, of, texts };
    return (await ask('drafts', { siteId: site.id, wish })) ?? [];
  },
);

/** Keeps drafts of several pages, logs them as one planned change, and gives its number. */
export const planDrafts = action(
  { on: 'site', may: 'edit', auditAction: 'planned a change of titles' },
  [
    z
      .array(z.strictObject({ pageId: z.int().positive(), text: draftText.min(1) }))
      .min(1, 'There is no draft.')
      .max(MOST_PAGES, `At most ${MOST_PAGES} pages at a time.`),
    isoDaySchema,
  ],
  async ({ db, site }, drafts, day) => {
    const titles = latestTitles(db, site.id);
    const pages = drafts.map(({ pageId, text }) => {
      const page = findPage(db, site.id, pageId);
      if (!page) throw new Problem(404, 'One of the pages is no longer there.');
      return { page, text };
    });
    const change = newChangeSchema.parse({
      ...{ title: `Titles of ${plural(pages.length, 'page')}`, kind: 'title-rewrite', day, planned: true },
      pages: pages.map(({ page }) => page.address),
      parts: pages.map(({ page, text }) => ({
        ...{ kind: 'title-rewrite', page: page.address, newText: text },
        oldText: titles.get(page.id) ?? null,
      })),
    });
    const { id } = await addChange(db, site, change);
    for (const { page, text } of pages)
      if (!draftsOf(db, [page.id], 'title').some((draft) => draft.text === text))
        await addDraft(db, site.id, { pageId: page.id, of: 'title', text });
    return id;
  },
);
