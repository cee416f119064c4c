/** A question about a site, answered by the thread that has its figures. */
export type OfSite = { readonly siteId: number };
