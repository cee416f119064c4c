/** All of the site as one file, for another installation or to look into. */
export function WholeSite({ siteId }: { siteId: number }) {
  return (
    <section aria-labelledby="whole-site">
      <h2 id="whole-site" className="text-lg">
        All of this site
      </h2>
      <p className="muted mt-1 mb-2 text-[0.9rem]">
        One ZIP: the figures as CSV, everything else as JSON, with checksums. Another Modest Tally takes it in
        under “Add a site”, and has the same. Tokens and hosts on private networks stay here.
      </p>
      <a href={`/api/v1/sites/${siteId}/export`} download className="btn btn-sm">
        Save all of it
      </a>
    </section>
  );
}
