import { pagePath } from '@/core/address/address';
import { kindsOf } from '@/core/model/change';
import type { Site } from '@/core/model/site';
import { listChanges } from '@/store/changes';
import { database } from '@/store/database';
import { listPages } from '@/store/pages';
import { ChangeForm } from '@/ui/change/ChangeForm';
import { kindChoices, type ChangeFormValues } from '@/ui/change/formValues';
import { foresee, inTheWay, saveChange } from './actions';

/** The form for a change with what it offers: the site's pages and kinds. */
export function FormFor({
  site,
  changeId,
  initial,
}: {
  site: Site;
  changeId: number | null;
  initial: ChangeFormValues;
}) {
  const db = database();
  const changes = listChanges(db, site.id);
  return (
    <ChangeForm
      siteId={site.id}
      changeId={changeId}
      initial={initial}
      knownPages={listPages(db, site.id).map((page) => pagePath(page.address))}
      kinds={kindChoices(changes.flatMap(kindsOf))}
      knownTags={[...new Set(changes.flatMap((change) => change.tags))].sort()}
      site={{ windowDays: site.windowDays, settlingDays: site.settlingDays }}
      save={saveChange}
      inTheWay={inTheWay}
      foresee={foresee}
    />
  );
}
