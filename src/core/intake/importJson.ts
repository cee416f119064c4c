import { z } from 'zod';
import { GRAIN_KEYS } from '../facts/grains';
import { addressRulesSchema } from '../model/addressRules';
import { dayJson, jsonFrom, type Immutable } from '../model/json';

const fields = z
  .object({
    id: z.int(),
    state: z.enum(['queued', 'running', 'done', 'failed', 'undone']),
    about: z
      .enum(['figures', 'changes'])
      .meta({ description: 'Figures, or changes that were logged in a sheet.' }),
    grain: z.enum(GRAIN_KEYS).nullable().meta({ description: 'What rows of figures are about.' }),
    fileName: z.string(),
    dialect: z.string().nullable().meta({ description: 'How the file is written.' }),
    bytesTotal: z.int(),
    bytesRead: z.int().meta({ description: 'How far the file has been read, as it was sent.' }),
    rowsRead: z.int(),
    rowsStored: z.int(),
    rowsRefused: z.int(),
    rowsLeftOut: z.int().meta({ description: 'Of channels or kinds of search that do not count.' }),
    rowsRepeated: z.int().meta({
      description: 'Lines with the same key as a later one of the same file, which stands instead.',
    }),
    rowsReplaced: z.int().meta({ description: 'Keys that were there before.' }),
    rowsChanged: z.int().meta({ description: 'Of these, keys whose values are now others.' }),
    firstDay: dayJson.nullable(),
    lastDay: dayJson.nullable(),
    foldedAt: z.iso.datetime().nullable().meta({
      description: 'Since when it lies folded together with older files, and can no longer be undone.',
    }),
    problems: z.array(z.object({ line: z.int(), message: z.string() })),
  })
  .meta({ id: 'Import' });

const missedJoins = z
  .object({ sentence: z.string(), rules: addressRulesSchema.meta({ id: 'AddressRules' }) })
  .nullable()
  .meta({
    description:
      'That most of its pages miss the other source by their spelling alone, and the rules of addresses that would join them.',
  });

type Fields = Immutable<z.input<typeof fields>>;
type Import = Omit<Fields, 'state'> & {
  readonly state: Fields['state'] | 'draft';
  /** Why the whole file was refused. */
  readonly failure: string | null;
};

const described = (row: Import) => ({
  ...row,
  state: row.state === 'draft' ? 'queued' : row.state,
  problems: row.failure ? [{ line: 1, message: row.failure }, ...row.problems] : row.problems,
});

/** An import as the API answers with it; a reason to refuse the whole file is its first problem. */
export const importJson = jsonFrom(fields, described);

export const importsJson = z.object({ items: z.array(importJson) }).meta({ id: 'Imports' });

/** An import looked at by itself. */
export const oneImportJson = jsonFrom(
  fields.extend({ missedJoins }).meta({ id: 'OneImport' }),
  (row: Import & { readonly missedJoins: Immutable<z.input<typeof missedJoins>> }) => ({
    ...described(row),
    missedJoins: row.missedJoins,
  }),
);
