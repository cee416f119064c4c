import type { Metadata } from 'next';
import { listImports } from '@/store/imports';
import { ImportList } from '@/ui/intake/ImportList';
import { UploadBox } from '@/ui/intake/UploadBox';
import { Screen } from '@/ui/parts/Screen';
import { siteFromPath, type SitePageProps } from '../site';
import { importLine } from './importLine';

export const metadata: Metadata = { title: 'Intake' };

export default async function IntakePage({ params }: SitePageProps) {
  const { db, site } = siteFromPath((await params).siteId);
  const lines = listImports(db, site.id).map(importLine);
  return (
    <Screen
      title="Intake"
      lead={`Daily search figures of ${site.address} come in as files, from wherever you get them.`}
    >
      <div className="max-w-5xl space-y-7">
        <UploadBox siteId={site.id} />
        <section aria-labelledby="wanted">
          <h2 id="wanted" className="mb-1 text-xl">
            What a file needs
          </h2>
          <p className="max-w-2xl">
            One row for each day and page, or each day, page and query: the <b>date</b>, the <b>page</b>,{' '}
            <b>clicks</b> and <b>impressions</b>; <b>query</b>, <b>position</b>, <b>device</b> and{' '}
            <b>country</b> where you have them. Commas, semicolons or tabs, in UTF-8. Columns are recognised
            by their names, in any order. CTR is left out and worked out again. Page totals and query rows are
            separate facts: bring in both where you can, since rare searches are missing from the query rows.
          </p>
        </section>
        {lines.length > 0 && (
          <section aria-labelledby="so-far">
            <h2 id="so-far" className="mb-1 text-xl">
              Brought in so far
            </h2>
            <ImportList siteId={site.id} lines={lines} />
          </section>
        )}
      </div>
    </Screen>
  );
}
