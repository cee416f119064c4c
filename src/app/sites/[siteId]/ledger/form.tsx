import { kindsOf } from '@/core/model/change';
import type { Site } from '@/core/model/site';
import { listChanges } from '@/store/ledger/findChanges';
import { database } from '@/store/database';
import { SiteContext } from '@/services/site/siteContext';
import { pageChoices } from '@/services/pages/twins';
import { ChangeForm } from '@/ui/change/ChangeForm';
import { kindChoices, type ChangeFormValues } from '@/ui/change/formValues';
import { broughtSoFar, foresee, inTheWay, logChange, saveChange } from './actions';

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
      knownPages={pageChoices(new SiteContext(db, site))}
      kinds={kindChoices(changes.flatMap(kindsOf))}
      knownTags={[...new Set(changes.flatMap((change) => change.tags))].sort()}
      site={{ windowDays: site.windowDays, settlingDays: site.settlingDays }}
      log={logChange}
      save={saveChange}
      inTheWay={inTheWay}
      foresee={foresee}
      broughtSoFar={broughtSoFar}
    />
  );
}
