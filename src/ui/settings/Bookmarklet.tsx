'use client';

import { useEffect, useRef } from 'react';
import { routes } from '../shell/routes';
import { bookmarkScript } from './bookmarkScript';

/** A link to drag to the bookmarks, by which a change is logged from the page one is on. */
export function Bookmarklet({ siteId }: { siteId: number }) {
  const link = useRef<HTMLAnchorElement>(null);
  // The library lets no script into an address. Here it is the point, and nothing of it comes from outside.
  useEffect(() => {
    link.current?.setAttribute('href', bookmarkScript(location.origin + routes.newChange(siteId)));
  }, [siteId]);
  return (
    <section aria-labelledby="bookmark" className="max-w-md">
      <h2 id="bookmark" className="mb-1 text-xl">
        Log from the page you are on
      </h2>
      <p>
        Drag{' '}
        <a
          ref={link}
          href={routes.newChange(siteId)}
          onClick={(e) => e.preventDefault()}
          className="hairline border bg-(--marked) px-2 py-0.5 font-semibold"
        >
          Log a change
        </a>{' '}
        to your bookmarks. Clicked on a page of the site, it opens the form with its address and title filled
        in, the title also as the old text.
      </p>
      <p className="muted mt-2 text-[0.85rem]">
        Scripts and other tools can link to the form too:{' '}
        <code className="break-all">
          {routes.newChange(siteId)}?page=&amp;title=&amp;old=&amp;new=&amp;kind=&amp;day=
        </code>
      </p>
    </section>
  );
}
