'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState, useTransition } from 'react';
import type { AddressRules } from '@/core/model/addressRules';
import { shownAddress } from '@/core/address/address';
import { plural } from '@/core/words/format';
import { FormBody } from '../kit/FormBody';
import { attempt, failureOf, type Act } from '../kit/attempt';
import { DraftNote } from '../kit/DraftNote';
import { useToast } from '../kit/Toast';
import { useDraft } from '../kit/useDraft';

type Joined = { readonly page: string; readonly addresses: readonly string[] };
type Preview = {
  readonly pagesNow: number;
  readonly pagesThen: number;
  readonly joined: readonly Joined[];
  readonly parted: readonly Joined[];
};

type Props = {
  siteId: number;
  home: string;
  rules: AddressRules;
  before: AddressRules | null;
  /** Rules to begin with instead of those that hold, and what they would join; null without. */
  tried: { readonly rules: AddressRules; readonly preview: Preview } | null;
  look: Act<[siteId: number, rules: AddressRules], Preview>;
  /** Stores rules, from those that held when the edit began. */
  keep: Act<[siteId: number, rules: AddressRules, base: AddressRules]>;
  undo: Act<[siteId: number]>;
};

const SWITCHES = [
  ['joinSchemes', 'http and https are one page'],
  ['joinWww', 'with and without www. are one page'],
  ['dropIndexFiles', 'an index file is its folder', '/guides/index.html is /guides/'],
  ['ignoreCase', 'capital and small letters are one', '/Guides is /guides'],
] as const;

const SLASHES = [
  ['as-written', 'as written: /guides and /guides/ are two pages'],
  ['with', 'with it: both are /guides/'],
  ['without', 'without it: both are /guides'],
] as const;

const asText = (patterns: readonly string[] | null) => (patterns ?? []).join(' ');
const asPatterns = (text: string) => text.split(/[\s,]+/).filter((pattern) => pattern !== '');

/** The rules by which written addresses are one page, with what they would join shown before they are saved. */
export function RulesForm({ siteId, home, rules, before, tried, look, keep, undo }: Props) {
  const router = useRouter();
  const say = useToast();
  const [draft, setDraft] = useState(tried?.rules ?? rules);
  const [dropped, setDropped] = useState(asText((tried?.rules ?? rules).droppedParameters));
  const [kept, setKept] = useState(asText((tried?.rules ?? rules).keptParameters));
  const [preview, setPreview] = useState<Preview | null>(tried?.preview ?? null);
  const [error, setError] = useState<string | null>(null);
  /** The rules that somebody else has saved while these were edited. */
  const [theirs, setTheirs] = useState<AddressRules | null>(null);
  const [busy, start] = useTransition();
  /** The rules that the edit began from. */
  const [base, setBase] = useState(rules);

  const show = (now: AddressRules) => {
    setPreview(null);
    setDraft(now);
    setDropped(asText(now.droppedParameters));
    setKept(asText(now.keptParameters));
  };
  const typed = useDraft<AddressRules>({
    what: `rules:${siteId}`,
    base: rules,
    show: (now, from) => {
      setBase(from);
      show(now);
    },
  });
  const current = (): AddressRules => ({
    ...draft,
    droppedParameters: asPatterns(dropped),
    keptParameters: draft.keptParameters === null ? null : asPatterns(kept),
  });
  const now = JSON.stringify(current());
  const { keep: keepTyped } = typed;
  const touched = useRef(false);
  useEffect(() => {
    // What the form begins with was typed by nobody.
    if (touched.current) keepTyped(JSON.parse(now) as AddressRules);
  }, [keepTyped, now]);
  const change = (part: Partial<AddressRules>) => {
    touched.current = true;
    setDraft({ ...draft, ...part });
    setPreview(null);
  };
  const lookAtIt = () =>
    start(async () => {
      const result = await attempt(() => look(siteId, current()));
      setError(result.ok ? null : failureOf(result));
      setPreview(result.ok ? result.value : null);
    });
  const save = (wanted: AddressRules | null) =>
    start(async () => {
      const result = await attempt(() => (wanted ? keep(siteId, wanted, base) : undo(siteId)));
      if (!result.ok) {
        setError(failureOf(result));
        // Whoever saves again now does so over the rules that somebody else has made meanwhile, which are shown.
        if (result.meanwhile) {
          const now = result.meanwhile.now as { rules: AddressRules };
          setBase(now.rules);
          setTheirs(now.rules);
        }
        return;
      }
      const saved = wanted ?? before!;
      setError(null);
      setTheirs(null);
      setBase(saved);
      touched.current = false;
      typed.forget(saved);
      show(saved);
      say(wanted ? 'Saved. All figures follow the new rules.' : 'The rules before are back.');
      router.refresh();
    });

  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        lookAtIt();
      }}
      className="max-w-5xl"
    >
      <h2 className="mb-1 text-xl">Which addresses are one page</h2>
      <DraftNote kept={typed} nameOf={() => 'rules of addresses'} />
      <FormBody className="grid gap-x-10 gap-y-3 md:grid-cols-2">
        <div className="space-y-1.5">
          {SWITCHES.map(([name, label, example]) => (
            <label key={name} className="flex items-baseline gap-2">
              <input
                type="checkbox"
                className="checkbox checkbox-sm translate-y-0.5"
                checked={draft[name]}
                onChange={(e) => change({ [name]: e.target.checked })}
              />
              <span>
                {label} {example && <span className="muted text-[0.85rem]">{example}</span>}
              </span>
            </label>
          ))}
          <label className="block pt-1 text-[0.85rem]">
            <span className="block font-semibold">Slash at the end</span>
            <select
              className="select select-sm mt-0.5 w-full max-w-sm"
              value={draft.trailingSlash}
              onChange={(e) => change({ trailingSlash: e.target.value as AddressRules['trailingSlash'] })}
            >
              {SLASHES.map(([value, label]) => (
                <option key={value} value={value}>
                  {label}
                </option>
              ))}
            </select>
          </label>
        </div>
        <div className="space-y-3 text-[0.85rem]">
          <label className="block">
            <span className="block font-semibold">Parameters left out</span>
            <input
              className="input input-sm mt-0.5 w-full"
              value={dropped}
              onChange={(e) => {
                touched.current = true;
                setDropped(e.target.value);
                setPreview(null);
              }}
            />
            <span className="muted block">
              Those that only tell where a visitor came from; * stands for any letters.
            </span>
          </label>
          <div>
            <label className="flex items-baseline gap-2">
              <input
                type="checkbox"
                className="checkbox checkbox-sm translate-y-0.5"
                checked={draft.keptParameters !== null}
                onChange={(e) => change({ keptParameters: e.target.checked ? [] : null })}
              />
              <span className="font-semibold">Keep these parameters only, leave out all others</span>
            </label>
            {draft.keptParameters !== null && (
              <input
                aria-label="Parameters kept"
                placeholder="page size colour"
                className="input input-sm mt-1 w-full"
                value={kept}
                onChange={(e) => {
                  touched.current = true;
                  setKept(e.target.value);
                  setPreview(null);
                }}
              />
            )}
          </div>
        </div>
      </FormBody>
      {error && (
        <p role="alert" className="mt-2 font-medium text-error">
          {error}
        </p>
      )}
      {theirs && (
        <p className="mt-2 text-[0.9rem]">
          <button
            type="button"
            className="inline-link"
            onClick={() => {
              touched.current = false;
              typed.forget(theirs);
              setTheirs(null);
              setError(null);
              show(theirs);
            }}
          >
            Show the rules that were saved meanwhile
          </button>
          , or save yours over them.
        </p>
      )}
      <div className="mt-4 flex flex-wrap items-center gap-3">
        <button type="submit" className="btn btn-outline btn-sm" disabled={busy}>
          Show what this joins
        </button>
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={busy || preview === null}
          onClick={() => save(current())}
        >
          Save these rules
        </button>
        {before && (
          <button type="button" className="btn btn-ghost btn-sm" disabled={busy} onClick={() => save(null)}>
            Put the rules before back
          </button>
        )}
        <span className="muted text-[0.85rem]" aria-live="polite">
          {busy ? 'Looking …' : preview === null ? 'Nothing changes before you have seen it.' : ''}
        </span>
      </div>
      {preview && <PreviewList preview={preview} home={home} />}
    </form>
  );
}

function PreviewList({ preview, home }: { preview: Preview; home: string }) {
  const { pagesNow, pagesThen, joined, parted } = preview;
  return (
    <div className="mt-4" role="status">
      <p className="font-serif text-lg">
        {joined.length + parted.length === 0
          ? `Nothing changes: ${plural(pagesNow, 'page')} before and after.`
          : `${plural(pagesNow, 'page')} become ${plural(pagesThen, 'page')}.`}
      </p>
      <Groups title="Joined" verb="comes of" groups={joined} home={home} />
      <Groups title="Parted" verb="falls into" groups={parted} home={home} />
    </div>
  );
}

type GroupsProps = { title: string; verb: string; groups: readonly Joined[]; home: string };

function Groups({ title, verb, groups, home }: GroupsProps) {
  if (groups.length === 0) return null;
  return (
    <div className="mt-2">
      <h3 className="font-semibold">{title}</h3>
      <ul className="max-h-72 space-y-1 overflow-y-auto text-[0.87rem]" tabIndex={0} aria-label={title}>
        {groups.map(({ page, addresses }) => (
          <li key={page}>
            <span className="font-medium break-all">{shownAddress(page, home)}</span>{' '}
            <span className="muted">{verb}</span>{' '}
            <span className="break-all">
              {addresses.map((address) => shownAddress(address, home)).join(', ')}
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}
