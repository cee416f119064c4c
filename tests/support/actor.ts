import { DEFAULT_ADDRESS_RULES } from '@/core/model/addressRules';
import { newChangeSchema, changeEditSchema, type NewChange } from '@/core/model/change';
import { fieldsInConflict } from '@/core/model/edits';
import { importFile } from '@/jobs/importFile';
import { saveRules, undoRules } from '@/store/addresses/rekey';
import { connect } from '@/store/database';
import { putBackDeleted } from '@/store/deleted';
import { clearUnfinished } from '@/store/figures/arrival';
import { nextQueued } from '@/store/figures/imports';
import { redoImport, undoImport } from '@/store/figures/undo';
import { addChange, editChange, setChangeDeleted } from '@/store/ledger/changes';
import { findChange } from '@/store/ledger/findChanges';
import { findSite } from '@/store/sites';

/*
 * One of several processes that work on the same database, told by messages what to do. A process of its own, so that it can be
 * killed in the middle of anything.
 */

/** What an actor can be told. Pages are paths, as people type them. */
export type Order =
  | { readonly do: 'log'; readonly title: string; readonly pages: readonly string[] }
  | {
      readonly do: 'edit';
      readonly id: number;
      readonly field: 'title' | 'note' | 'pages';
      readonly value: string | readonly string[];
      /** What stood there when the edit began. */
      readonly base: string | readonly string[];
    }
  | { readonly do: 'delete' | 'restore'; readonly id: number }
  | { readonly do: 'import' }
  | { readonly do: 'undo' | 'redo'; readonly importId: number }
  | { readonly do: 'rules'; readonly slash: 'as-written' | 'with' | 'without' }
  | { readonly do: 'rules back' };

const [file, files] = process.argv.slice(2) as [string, string];
const db = connect(file);
const SITE = 1;

async function carryOut(order: Order): Promise<boolean> {
  const site = findSite(db, SITE)!;
  switch (order.do) {
    case 'log': {
      const { title, pages } = order;
      const input = { title, kind: 'other', day: '2026-09-14', pages: [...pages] };
      await addChange(db, site, newChangeSchema.parse(input));
      return true;
    }
    case 'edit': {
      const { id, field, value, base } = order;
      const edit = changeEditSchema.parse({ [field]: value });
      await editChange(db, site, id, { [field]: edit[field] } as Partial<NewChange>, () => {
        const change = findChange(db, id)!;
        const pages = change.pages.map((page) => new URL(page.address).pathname);
        const now = { title: change.title, note: change.note ?? '', pages };
        if (fieldsInConflict({ [field]: value }, { [field]: base }, now).length > 0)
          throw new Error('conflict');
      });
      return true;
    }
    case 'delete':
      return setChangeDeleted(db, order.id, true);
    case 'restore':
      return putBackDeleted(db, SITE, 'change', order.id);
    case 'import':
      // What a killed process left is cleared away and begun again, as at the start of the server.
      await clearUnfinished(db);
      for (let next = nextQueued(db); next; next = nextQueued(db))
        await importFile(db, next.id, `${files}/${next.id}.csv`, { threads: 0 });
      return true;
    case 'undo':
      return undoImport(db, site, order.importId);
    case 'redo':
      return redoImport(db, site, order.importId);
    case 'rules':
      await saveRules(db, site, { ...DEFAULT_ADDRESS_RULES, trailingSlash: order.slash });
      return true;
    case 'rules back':
      return undoRules(db, site);
  }
}

process.on('message', (order: Order) => {
  carryOut(order).then(
    (done) => process.send!(done),
    () => process.send!(false),
  );
});
process.send!('ready');
