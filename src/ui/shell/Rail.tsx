'use client';

import { AppLink } from '../kit/AppLink';
import { usePathname, useRouter } from 'next/navigation';
import type { Site } from '@/core/model/site';
import { routes, SCREENS } from './routes';
import { Fragment } from 'react';
import { useRights } from './May';
import { TallyMark } from './TallyMark';
import { ThemeSwitch } from './ThemeSwitch';
import type { Theme } from './theme';

type Props = {
  site: Site;
  sites: readonly Site[];
  figures: string;
  /** Whether newer figures came in than those that are shown. */
  behind: boolean;
  theme: Theme;
  /** Who is signed in; null where nobody has an account. */
  who: string | null;
  /** Whether sites may be added. */
  mayAdd: boolean;
};

/** The narrow rail on the left; a bar at the top where the screen is narrow. */
export function Rail({ site, sites, figures, behind, theme, who, mayAdd }: Props) {
  const path = usePathname();
  const rights = useRights();
  const screens = SCREENS.filter(({ may }) => rights.includes(may));
  return (
    <header className="hairline flex shrink-0 flex-col bg-base-200 max-wide:border-b wide:h-screen wide:w-36 wide:border-r">
      <div className="flex items-center justify-between pr-4">
        <AppLink href={routes.ledger(site.id)} className="flex items-center gap-2 px-3.5 pt-3 wide:pt-4">
          <TallyMark className="h-6 w-7 shrink-0" />
          <span className="font-serif text-[1.05rem] leading-[1.05] font-semibold">
            Modest <br className="max-wide:hidden" />
            Tally
          </span>
        </AppLink>
        <div className="w-40 text-[0.8rem] wide:hidden">
          <SiteChoice site={site} sites={sites} mayAdd={mayAdd} />
        </div>
      </div>
      <nav
        aria-label="Screens"
        className="flex max-wide:overflow-x-auto wide:mt-2 wide:min-h-0 wide:flex-col wide:overflow-y-auto"
      >
        {screens.map(({ name, to, part }, i) => {
          const href = to(site.id);
          const here = path.startsWith(href);
          const begins = part !== null && screens[i - 1]?.part !== part;
          return (
            <Fragment key={name}>
              {begins && (
                <span className="muted px-3.5 pt-1 font-serif text-[0.8rem] leading-tight italic max-wide:hidden">
                  {part}
                </span>
              )}
              <AppLink
                href={href}
                aria-current={here ? 'page' : undefined}
                className={`px-3.5 max-wide:py-1 wide:flex wide:min-h-[24.5px] wide:shrink-0 wide:items-center max-wide:border-b-3 wide:border-l-3 ${
                  here ? 'border-base-content font-bold' : 'muted border-transparent hover:text-base-content'
                }`}
              >
                {name}
              </AppLink>
            </Fragment>
          );
        })}
      </nav>
      {behind && <p className="muted px-3.5 py-1 text-[0.8rem] leading-snug wide:hidden">{figures}</p>}
      <div className="mt-auto space-y-1.5 px-3.5 pb-3 text-[0.8rem] max-wide:hidden">
        <SiteChoice site={site} sites={sites} mayAdd={mayAdd} />
        <p className="muted leading-snug">{figures}</p>
        {who !== null && (
          <p className="leading-snug">
            <AppLink href={routes.account()} className="inline-link">
              {who}
            </AppLink>
            {!rights.includes('log') && <span className="muted">, reads</span>}
          </p>
        )}
        <p className="muted leading-snug">
          <kbd className="font-sans font-semibold">?</kbd> lists the keys
        </p>
        <ThemeSwitch theme={theme} />
      </div>
    </header>
  );
}

function SiteChoice({ site, sites, mayAdd }: { site: Site; sites: readonly Site[]; mayAdd: boolean }) {
  const router = useRouter();
  return (
    <label className="block">
      <span className="sr-only">Site</span>
      <select
        className="-ml-1 w-[calc(100%+0.6rem)] bg-transparent text-[0.76rem] font-bold"
        value={site.id}
        onChange={(e) =>
          router.push(e.target.value === 'new' ? routes.newSite() : routes.ledger(Number(e.target.value)))
        }
      >
        {sites.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
        {mayAdd && <option value="new">Add a site …</option>}
      </select>
    </label>
  );
}
