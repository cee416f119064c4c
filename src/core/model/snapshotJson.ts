import { z } from 'zod';
import type { PageRef } from './change';
import type { Snapshot } from './evidence';
import { addressJson, dayJson, jsonFrom } from './json';

/** A snapshot of a page as the API answers with it. */
export const snapshotJson = jsonFrom(
  z
    .object({
      id: z.int(),
      page: addressJson,
      day: dayJson,
      lastDay: dayJson.meta({ description: 'The last day on which the page was found the same.' }),
      takenAt: z.iso.datetime(),
      status: z.int(),
      finalAddress: z.string().meta({ description: 'After redirects.' }),
      title: z.string().nullable(),
      description: z.string().nullable(),
      canonical: z.string().nullable(),
      robots: z.array(z.string()),
      headings: z.array(z.object({ level: z.int(), text: z.string() })),
      structuredData: z.array(z.object({ types: z.array(z.string()), problem: z.string().nullable() })),
      words: z.int(),
      text: z.string(),
      links: z.array(z.string()),
      images: z.int(),
      imagesWithoutAlt: z.array(z.string()),
      encoding: z.string(),
      misfits: z.int().meta({ description: 'Characters that make no sense in that encoding.' }),
    })
    .meta({ id: 'Snapshot' }),
  ({ snapshot, page }: { readonly snapshot: Snapshot; readonly page: PageRef }) => ({
    ...snapshot,
    ...snapshot.evidence,
    page,
  }),
);

export const snapshotsJson = z
  .object({
    items: z.array(snapshotJson),
    next: z.int().nullable().meta({ description: 'The cursor of those before; null where there are none.' }),
  })
  .meta({ id: 'Snapshots' });

const differencesJson = z.array(
  z.object({
    aspect: z.string(),
    kind: z.string().meta({ description: 'The kind of change that makes such a difference.' }),
    before: z.string().nullable(),
    after: z.string().nullable(),
  }),
);

/** The numbers of two snapshots, and in what they differ. */
export const snapshotComparisonJson = z
  .object({ before: z.int(), after: z.int(), differences: differencesJson })
  .meta({ id: 'SnapshotComparison' });

/** Differences between snapshots that no logged change explains. */
export const unloggedJson = z
  .object({
    items: z.array(
      z.object({
        snapshotId: z.int(),
        page: addressJson,
        from: dayJson.meta({ description: 'The last day on which the page was seen as it was before.' }),
        to: dayJson.meta({ description: 'The day on which it was first seen as it is now.' }),
        differences: differencesJson,
      }),
    ),
  })
  .meta({ id: 'Unlogged' });
