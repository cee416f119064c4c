import { Readable } from 'node:stream';
import type { Get } from '../http/get';

/** A page of a simulated site: what its makers put in. An empty heading is none. */
export type SimulatedPage = {
  readonly title: string;
  readonly description: string;
  readonly heading: string;
  readonly sections: readonly { readonly heading: string; readonly text: string }[];
  readonly types: readonly string[];
  readonly links: readonly string[];
};

/** A stand-in for `get` that answers as a small site would: with its pages, its robots.txt, and 404 for all else. */
export function simulatedSite(pageAt: (path: string) => SimulatedPage | null): Get {
  return async (address, { mayAsk }) => {
    const url = new URL(address);
    await mayAsk?.(url);
    if (url.pathname === '/robots.txt')
      return answer(address, 200, 'text/plain', 'User-agent: *\nDisallow: /basket/\n');
    const page = pageAt(url.pathname);
    return page
      ? answer(address, 200, 'text/html; charset=utf-8', asHtml(page, url))
      : answer(
          address,
          404,
          'text/html; charset=utf-8',
          '<!doctype html><title>Not found</title><h1>Not found</h1>',
        );
  };
}

function answer(address: string, status: number, type: string, body: string) {
  return {
    ...{ status, address, headers: { 'content-type': type }, delimited: true },
    body: Readable.from([Buffer.from(body)]),
  };
}

function asHtml({ title, description, heading, sections, types, links }: SimulatedPage, url: URL): string {
  const data = types.map((type) => ({ '@context': 'https://schema.org', '@type': type, name: heading }));
  return [
    '<!doctype html><html lang="en"><head><meta charset="utf-8">',
    `<title>${escaped(title)}</title><meta name="description" content="${escaped(description)}">`,
    `<link rel="canonical" href="${escaped(url.origin + url.pathname)}">`,
    ...data.map(
      (one) =>
        `<script type="application/ld+json">${JSON.stringify(one).replaceAll('<', '\\u003c')}</script>`,
    ),
    '</head><body><nav><a href="/">Home</a></nav><main>',
    heading === '' ? '' : `<h1>${escaped(heading)}</h1>`,
    ...sections.map((section) => `<h2>${escaped(section.heading)}</h2><p>${escaped(section.text)}</p>`),
    ...links.map((link) => `<p><a href="${escaped(link)}">${escaped(link)}</a></p>`),
    '</main></body></html>',
  ].join('\n');
}

function escaped(text: string): string {
  return text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('"', '&quot;');
}
