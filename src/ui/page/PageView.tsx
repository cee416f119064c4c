import { AppLink } from '../kit/AppLink';
import type { Day } from '@/core/calendar/day';
import type { Difference } from '@/core/markup/differences';
import type { Finding } from '@/core/markup/findings';
import type { PageEvidence } from '@/core/model/evidence';
import type { PageChain } from '@/core/reading/pageChain';
import { mediumDay } from '@/core/words/format';
import type { FormResult } from '../kit/formResult';
import { RowKeys } from '../kit/RowKeys';
import { Part } from '../reading/HowTo';
import { routes } from '../shell/routes';
import { Differences } from './Differences';
import { Evidence } from './Evidence';
import { PageChainTable } from './PageChainTable';
import { SnapshotList, type SnapshotLine } from './SnapshotList';
import { TitleCheckPart, type CheckedTitle } from './TitleCheckPart';
import type { Act } from '../kit/attempt';
import { UnloggedPart } from './UnloggedPart';

type Props = {
  siteId: number;
  pageId: number;
  /** Why the last try to fetch it failed; null where it did not. */
  failure: string | null;
  latest: PageEvidence | null;
  findings: readonly Finding[];
  unlogged: readonly {
    readonly snapshotId: number;
    readonly from: Day;
    readonly to: Day;
    readonly differences: readonly Difference[];
  }[];
  passOver: Act<[siteId: number, snapshotId: number, passedOver: boolean]>;
  titles: CheckedTitle;
  recordSighting: (siteId: number, pageId: number, title: string) => Promise<FormResult<null>>;
  chain: PageChain | null;
  snapshots: readonly SnapshotLine[];
  /** Where the snapshots before these are; null where there are none. */
  earlier: string | null;
  compared: {
    readonly before: Day;
    readonly after: Day;
    readonly differences: readonly Difference[];
  } | null;
};

/** One page: what was done to it and not logged, what wants a look, its changes, and what it says. */
export function PageView(props: Props) {
  const { siteId, pageId, failure, latest, findings, unlogged, chain, snapshots, compared } = props;
  return (
    <RowKeys>
      <div className="max-w-5xl space-y-5">
        {failure && (
          <p role="alert" className="border-l-3 border-error pl-3">
            The last try to fetch it failed. {failure}
          </p>
        )}
        {unlogged.map((one) => (
          <UnloggedPart key={one.snapshotId} siteId={siteId} passOver={props.passOver} {...one} />
        ))}
        <div className="grid gap-x-10 gap-y-5 md:grid-cols-2">
          {latest && (
            <Part title="What wants a look">
              {findings.length === 0 ? (
                <p>Nothing: title, headings and structured data are in order.</p>
              ) : (
                <ul className="space-y-1">
                  {findings.map(({ message }) => (
                    <li key={message} className="border-l-2 border-(--band) pl-2">
                      {message}
                    </li>
                  ))}
                </ul>
              )}
            </Part>
          )}
          <Part title="Title on the page and in the results">
            <TitleCheckPart siteId={siteId} checked={[props.titles]} record={props.recordSighting} />
          </Part>
        </div>
        <Part title="Its changes">
          {chain && chain.links.length > 0 ? (
            <PageChainTable siteId={siteId} chain={chain} />
          ) : (
            <p>Nobody has logged a change of this page.</p>
          )}
        </Part>
        {compared && (
          <Part title={`What differs between ${mediumDay(compared.before)} and ${mediumDay(compared.after)}`}>
            {compared.differences.length === 0 ? (
              <p>Nothing differs.</p>
            ) : (
              <Differences differences={compared.differences} />
            )}
          </Part>
        )}
        {latest && (
          <Part title="What it says">
            <Evidence page={latest} />
          </Part>
        )}
        {snapshots.length > 0 && (
          <Part title="How it was found">
            <SnapshotList
              snapshots={snapshots}
              compare={(before, after) => `${routes.page(siteId, pageId)}?before=${before}&after=${after}`}
            />
            {props.earlier && (
              <p id="snapshots" className="mt-1">
                <AppLink href={props.earlier} className="inline-link">
                  Earlier snapshots
                </AppLink>
              </p>
            )}
          </Part>
        )}
      </div>
    </RowKeys>
  );
}
