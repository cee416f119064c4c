'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { newFeedSchema, type FeedInput } from '@/core/model/feed';
import { plural } from '@/core/words/format';
import type { Act } from '../kit/attempt';
import { EntityForm } from '../kit/EntityForm';
import { Field } from '../kit/Field';
import { useAct } from '../kit/useAct';
import { AS_TYPED, useEntityForm } from '../kit/useEntityForm';
import { useToast } from '../kit/Toast';

/** A feed as its line shows it. The token is never shown. */
export type FeedLine = {
  readonly id: number;
  readonly name: string;
  readonly address: string;
  readonly daily: boolean;
  readonly state: 'idle' | 'asked' | 'fetching';
  readonly pagesFetched: number;
  readonly lastFetchedAt: string | null;
  readonly failure: string | null;
};

type Props = {
  siteId: number;
  feeds: readonly FeedLine[];
  /** Whether whoever is here may have the server ask within its own network. */
  mayAllowHosts: boolean;
  setUp: Act<[siteId: number, input: FeedInput]>;
  fetchNow: Act<[siteId: number, feedId: number]>;
  remove: Act<[siteId: number, feedId: number]>;
  restore: Act<[siteId: number, kind: 'feed', id: number]>;
};

const LOOK_EVERY_MS = 700;

/** Addresses that answer with figures: what they brought last, fetching one now, setting one up. */
export function Feeds({ siteId, feeds, mayAllowHosts, setUp, fetchNow, remove, restore }: Props) {
  const router = useRouter();
  const say = useToast();
  const [open, setOpen] = useState(false);
  const { busy, act } = useAct();
  const moving = feeds.some(({ state }) => state !== 'idle');
  useEffect(() => {
    if (!moving) return;
    const clock = setInterval(() => router.refresh(), LOOK_EVERY_MS);
    return () => clearInterval(clock);
  }, [moving, router]);

  const takeAway = (feed: FeedLine) =>
    act(
      () => remove(siteId, feed.id),
      () =>
        say(`${feed.name} is taken away. What it brought stays.`, () =>
          act(() => restore(siteId, 'feed', feed.id)),
        ),
    );

  return (
    <div>
      {feeds.length > 0 && (
        <ul className="hairline divide-y divide-base-300 border-y">
          {feeds.map((feed) => (
            <li key={feed.id} className="flex flex-wrap items-baseline gap-x-5 gap-y-1 py-2">
              <span className="font-semibold">{feed.name}</span>
              <span className="muted text-[0.85rem] break-all">{feed.address}</span>
              <span className="text-[0.85rem]" role="status">
                {stateOf(feed)}
              </span>
              <span className="ml-auto flex gap-4 text-[0.85rem]">
                <button
                  type="button"
                  className="inline-link"
                  disabled={busy || feed.state !== 'idle'}
                  aria-label={`Fetch ${feed.name} now`}
                  onClick={() => act(() => fetchNow(siteId, feed.id))}
                >
                  Fetch now
                </button>
                <button
                  type="button"
                  className="inline-link"
                  disabled={busy}
                  aria-label={`Take ${feed.name} away`}
                  onClick={() => takeAway(feed)}
                >
                  Take away
                </button>
              </span>
              {feed.failure && (
                <span role="alert" className="basis-full text-error">
                  {feed.failure}
                </span>
              )}
            </li>
          ))}
        </ul>
      )}
      {open ? (
        <FeedForm {...{ siteId, mayAllowHosts, setUp }} done={() => setOpen(false)} />
      ) : (
        <button type="button" className="btn btn-outline btn-sm mt-2" onClick={() => setOpen(true)}>
          Set up a feed
        </button>
      )}
    </div>
  );
}

function stateOf({ state, pagesFetched, lastFetchedAt, daily }: FeedLine): string {
  if (state === 'asked') return 'is about to be fetched …';
  if (state === 'fetching') return `being fetched, ${plural(pagesFetched, 'page')} so far …`;
  const last = lastFetchedAt
    ? `last fetched ${lastFetchedAt.slice(0, 16).replace('T', ' ')} UTC`
    : 'not fetched yet';
  return `${last}, ${daily ? 'daily' : 'on demand'}`;
}

const EMPTY: FeedInput = { name: '', address: '', token: '', daily: true, allowPrivate: false };

function FeedForm({
  siteId,
  mayAllowHosts,
  setUp,
  done,
}: Pick<Props, 'siteId' | 'mayAllowHosts' | 'setUp'> & { done: () => void }) {
  const say = useToast();
  const form = useEntityForm<FeedInput, FeedInput, null>({
    ...{ what: `feed:new:${siteId}`, initial: EMPTY, codec: AS_TYPED, schema: newFeedSchema, editing: false },
    // A token is nothing to leave lying about in a browser.
    draftOf: (typed) => ({ ...typed, token: '' }),
    send: (_, __, { given }) => setUp(siteId, given),
    done: () => {
      say('The feed is set up, and is fetched for the first time.');
      done();
    },
  });
  const { register, errorOf } = form;
  return (
    <EntityForm
      form={form}
      className="mt-3 max-w-2xl"
      draftName={({ name }) => name}
      buttons={
        <>
          <button type="submit" className="btn btn-primary btn-sm" disabled={form.busy}>
            Set it up and fetch
          </button>
          <button type="button" className="btn btn-ghost btn-sm" onClick={done}>
            Not now
          </button>
        </>
      }
    >
      <Field label="Name of the feed" error={errorOf('name')}>
        {(c) => <input {...c} autoFocus className="input w-full max-w-xs" {...register('name')} />}
      </Field>
      <Field
        label="Address"
        hint="It is asked for days as from=YYYY-MM-DD and to=YYYY-MM-DD, or where it says {from} and {to}, and answers with CSV."
        error={errorOf('address')}
      >
        {(c) => (
          <input
            {...c}
            className="input w-full"
            inputMode="url"
            placeholder="https://figures.quillow-bees.example/daily"
            {...register('address')}
          />
        )}
      </Field>
      <Field
        label="Token"
        hint="Where the address asks for one: sent as a bearer token, never shown again."
        error={errorOf('token')}
      >
        {(c) => (
          <input
            {...c}
            type="password"
            autoComplete="off"
            className="input w-full max-w-xs"
            {...register('token')}
          />
        )}
      </Field>
      <label className="flex items-baseline gap-2">
        <input type="checkbox" className="checkbox checkbox-sm translate-y-0.5" {...register('daily')} />
        fetch it daily
      </label>
      {mayAllowHosts && (
        <label className="flex items-baseline gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-sm translate-y-0.5"
            {...register('allowPrivate')}
          />
          <span>
            its host is on my own network or this machine{' '}
            <span className="muted text-[0.85rem]">without this, such hosts are never asked</span>
          </span>
        </label>
      )}
    </EntityForm>
  );
}
