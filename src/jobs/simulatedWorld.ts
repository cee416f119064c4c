import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { z } from 'zod';
import { pagePath } from '../core/address/address';
import { parseIsoDay, type Day } from '../core/calendar/day';
import type { Change } from '../core/model/change';
import { isoDaySchema } from '../core/model/fields';
import { isMade } from '../core/model/steps';
import { simulatedResultsSchema, type SimulatedResults } from '../outside/resultPages/simulated';
import { simulatedIndex } from '../outside/searchIndex/simulated';
import type { SearchIndex } from '../outside/searchIndex/searchIndex';
import type { SimulatedPage } from '../outside/sitePages/simulated';

/*
 * The made-up site as it stands outside of this program: its pages and what was done to them. It is a file that the demo
 * leaves and that anybody may edit, and it follows the ledger: what was logged as made is what its people did.
 */

const pageSchema = z.object({
  title: z.string(),
  description: z.string(),
  heading: z.string(),
  sections: z.array(z.object({ heading: z.string(), text: z.string() })),
  types: z.array(z.string()),
  links: z.array(z.string()),
});

const worldSchema = z.object({
  firstDay: isoDaySchema,
  pages: z.record(z.string(), pageSchema),
  /** Paths of pages that are often visited. */
  busy: z.array(z.string()),
  /** What was done to pages without being logged. */
  edits: z.array(z.object({ day: isoDaySchema, path: z.string(), page: pageSchema.partial() })),
});
export type SimulatedWorld = z.infer<typeof worldSchema>;

/** Where the demo leaves its pages. */
export function simulatedPagesFile(dir: string): string {
  return path.join(dir, 'outside', 'pages.json');
}

/** The made-up site, where the demo left one. */
export function readWorld(dir: string): SimulatedWorld | null {
  const file = simulatedPagesFile(dir);
  return existsSync(file) ? worldSchema.parse(JSON.parse(readFileSync(file, 'utf8'))) : null;
}

/** Where the demo leaves what its searches show. */
export function simulatedResultsFile(dir: string): string {
  return path.join(dir, 'outside', 'results.json');
}

/** What the searches of the made-up site show, where the demo left it. */
export function readResults(dir: string): SimulatedResults | null {
  const file = simulatedResultsFile(dir);
  return existsSync(file) ? simulatedResultsSchema.parse(JSON.parse(readFileSync(file, 'utf8'))) : null;
}

/** What one edit makes of a page: by the kind of a logged change, or where its old text stood. */
function edited(
  page: SimulatedPage,
  kind: string,
  oldText: string | null,
  newText: string | null,
): SimulatedPage {
  if (newText === null) return page;
  if (kind === 'title-rewrite') return { ...page, title: newText };
  if (kind === 'meta-description') return { ...page, description: newText };
  if (kind === 'headings') return { ...page, heading: newText.replace(/^H1 /, '') };
  if (oldText === null) return page;
  const swap = (text: string) => (text === oldText ? newText : text);
  return {
    ...page,
    title: swap(page.title),
    description: swap(page.description),
    heading: swap(page.heading),
    sections: page.sections.map(({ heading, text }) => ({ heading, text: swap(text) })),
  };
}

/** A page of the invented site on a day, with all edits until then, in order. */
export function simulatedPageOn(
  { pages, edits }: SimulatedWorld,
  changes: readonly Change[],
  at: string,
  day: Day,
): SimulatedPage | null {
  const made = pages[at];
  if (!made) return null;
  const steps: { day: number; order: number; apply: (page: SimulatedPage) => SimulatedPage }[] = edits
    .filter((edit) => edit.path === at)
    .map((edit) => ({
      day: parseIsoDay(edit.day) as number,
      order: Infinity,
      apply: (page) => ({ ...page, ...(edit.page as Partial<SimulatedPage>) }),
    }));
  for (const change of changes) {
    const here = change.pages.find(({ address }) => pagePath(address) === at);
    if (!here || !isMade(change)) continue;
    const texts = [
      { kind: change.kind, page: null, oldText: change.oldText, newText: change.newText },
      ...change.parts,
    ].filter(({ page }) => page === null || page.id === here.id);
    const apply = (page: SimulatedPage) =>
      texts.reduce((now, { kind, oldText, newText }) => edited(now, kind, oldText, newText), page);
    steps.push({ day: change.day, order: change.id, apply });
  }
  return steps
    .filter((step) => step.day <= day)
    .sort((a, b) => a.day - b.day || a.order - b.order)
    .reduce<SimulatedPage>((page, { apply }) => apply(page), made);
}

/** An index that crawls the made-up site, and is asked for a reindex where the ledger says so. */
export function indexOfWorld(world: SimulatedWorld, changes: readonly Change[], today: Day): SearchIndex {
  return simulatedIndex({
    today,
    firstDay: parseIsoDay(world.firstDay) as Day,
    titleOn: (address, day) => simulatedPageOn(world, changes, pagePath(address), day)?.title ?? null,
    requestsOf: (address) =>
      changes
        .filter((change) => change.pages.some((page) => page.address === address))
        .flatMap(({ steps }) => steps['reindex-requested'] ?? []),
    busy: (address) => world.busy.includes(pagePath(address)),
  });
}
