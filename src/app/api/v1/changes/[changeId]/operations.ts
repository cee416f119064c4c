import { changeEditSchema, type NewChange } from '@/core/model/change';
import { editChange, setChangeDeleted } from '@/store/ledger/changes';
import { changeJson, loggedChangeJson } from '@/core/model/changeJson';
import { toJson } from '@/core/model/json';
import { twinCautions } from '@/services/pages/twins';
import { SiteContext } from '@/services/site/siteContext';
import { answer, empty, operation } from '../../doorway';

export const GET = operation(
  { summary: 'One change', on: 'change', may: 'read', answers: { '200': answer('The change', changeJson) } },
  ({ change }) => Response.json(toJson(changeJson, change)),
);

export const PATCH = operation(
  {
    summary: 'Edit those fields that are given',
    on: 'change',
    may: 'edit',
    auditAction: 'edited a change',
    body: changeEditSchema,
    answers: { '200': answer('The change', loggedChangeJson) },
  },
  async ({ db, site, change, body, given, guard }) => {
    // Fields that were left out must not be filled with defaults: they stay as they are.
    const edit = Object.fromEntries(
      Object.entries(body).filter(([field]) => Object.hasOwn(given, field)),
    ) as Partial<NewChange>;
    const edited = await editChange(db, site, change.id, edit, guard);
    return Response.json(
      toJson(loggedChangeJson, {
        change: edited,
        cautions: twinCautions(new SiteContext(db, site), edited.pages),
      }),
    );
  },
);

export const DELETE = operation(
  {
    summary: 'Delete a change',
    on: 'change',
    may: 'edit',
    auditAction: 'deleted a change',
    answers: { '204': empty('Deleted') },
  },
  async ({ db, change, guard }) => {
    await setChangeDeleted(db, change.id, true, guard);
    return new Response(null, { status: 204 });
  },
);
