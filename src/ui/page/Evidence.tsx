import type { ReactNode } from 'react';
import { characterCount } from '@/core/markup/graphemes';
import { titlePixels } from '@/core/markup/titleWidth';
import type { PageEvidence } from '@/core/model/evidence';
import { count, plural } from '@/core/words/format';

/** What a page says, as it was served. */
export function Evidence({ page }: { page: PageEvidence }) {
  const { title, description, canonical, robots, headings, structuredData } = page;
  return (
    <div className="grid gap-x-10 gap-y-4 md:grid-cols-2">
      <dl className="space-y-1.5">
        <Fact name="title">
          {title ? (
            <>
              {title}{' '}
              <span className="muted text-[0.85rem] whitespace-nowrap">
                {plural(characterCount(title), 'character')}, {count(titlePixels(title))} pixels
              </span>
            </>
          ) : (
            <None />
          )}
        </Fact>
        <Fact name="meta description">
          {description ? (
            <>
              {description}{' '}
              <span className="muted text-[0.85rem] whitespace-nowrap">
                {plural(characterCount(description), 'character')}
              </span>
            </>
          ) : (
            <None />
          )}
        </Fact>
        <Fact name="canonical">
          {canonical === null ? <None /> : canonical === page.finalAddress ? 'itself' : canonical}
        </Fact>
        <Fact name="robots">{robots.length === 0 ? <None word="nothing said" /> : robots.join(', ')}</Fact>
        <Fact name="structured data">
          {structuredData.length === 0 ? (
            <None />
          ) : (
            <ul>
              {structuredData.map(({ types, problem }, i) => (
                <li key={i}>
                  {types.join(', ') || 'no type'}
                  {problem !== null && <span className="text-error"> {problem}</span>}
                </li>
              ))}
            </ul>
          )}
        </Fact>
        <Fact name="status">
          {page.status}
          {page.finalAddress && <span className="muted"> at {page.finalAddress}</span>}
        </Fact>
      </dl>
      <div>
        <h3 className="muted font-sans text-[0.85rem]">headings</h3>
        {headings.length === 0 ? (
          <None />
        ) : (
          <ol className="max-h-72 overflow-y-auto" tabIndex={0} aria-label="Headings of the page">
            {headings.map(({ level, text }, i) => (
              <li key={i} style={{ paddingLeft: `${(level - 1) * 1.1}rem` }} className="flex gap-2">
                <span className="muted shrink-0 text-[0.8rem]">H{level}</span>
                {text || <None word="empty" />}
              </li>
            ))}
          </ol>
        )}
        <p className="muted mt-3 text-[0.85rem]">
          {plural(page.words, 'word')} of main text, {plural(page.links.length, 'link')} to the same site,{' '}
          {plural(page.images, 'image')}
          {page.imagesWithoutAlt.length > 0 &&
            `, ${page.imagesWithoutAlt.length} of them without alternative text`}
          .
        </p>
        <Folded name="Main text">
          <p className="whitespace-pre-wrap">{page.text}</p>
        </Folded>
        <Folded name="Links to the same site">
          <List items={page.links} />
        </Folded>
        {page.imagesWithoutAlt.length > 0 && (
          <Folded name="Images without alternative text">
            <List items={page.imagesWithoutAlt.map((src) => src || 'one without an address')} />
          </Folded>
        )}
      </div>
    </div>
  );
}

function Fact({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className="grid grid-cols-[7.5rem_1fr] gap-2">
      <dt className="muted text-[0.85rem]">{name}</dt>
      <dd className="min-w-0 break-words">{children}</dd>
    </div>
  );
}

function None({ word = 'none' }: { word?: string }) {
  return <span className="muted">{word}</span>;
}

function Folded({ name, children }: { name: string; children: ReactNode }) {
  return (
    <details className="mt-1 text-[0.85rem]">
      <summary className="py-1">{name}</summary>
      <div className="mt-1 max-h-60 overflow-y-auto break-words" tabIndex={0} role="region" aria-label={name}>
        {children}
      </div>
    </details>
  );
}

function List({ items }: { items: readonly string[] }) {
  return (
    <ul>
      {items.map((item, i) => (
        <li key={i}>{item}</li>
      ))}
    </ul>
  );
}
