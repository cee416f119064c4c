'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { z } from 'zod';
import { addressRulesSchema, DEFAULT_ADDRESS_RULES, type AddressRules } from '@/core/model/addressRules';
import { shownAddress } from '@/core/address/address';
import { plural } from '@/core/words/format';
import type { Act } from '../kit/attempt';
import { EntityForm } from '../kit/EntityForm';
import { useToast } from '../kit/Toast';
import { useAct } from '../kit/useAct';
import { useEntityForm, type FormCodec } from '../kit/useEntityForm';

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

type Typed = Omit<AddressRules, 'droppedParameters' | 'keptParameters'> & {
  droppedParameters: string;
  /** Whether only the parameters named are kept. */
  keepsOnly: boolean;
  keptParameters: string;
};
type Sent = { readonly rules: AddressRules };

const asPatterns = (text: string) => text.split(/[\s,]+/).filter((pattern) => pattern !== '');

const CODEC: FormCodec<Typed, Sent> = {
  toSent: ({ keepsOnly, droppedParameters, keptParameters, ...switches }) => ({
    rules: {
      ...switches,
      droppedParameters: asPatterns(droppedParameters),
      keptParameters: keepsOnly ? asPatterns(keptParameters) : null,
    },
  }),
  toTyped: ({ rules: { droppedParameters, keptParameters, ...switches } }) => ({
    ...switches,
    droppedParameters: droppedParameters.join(' '),
    keepsOnly: keptParameters !== null,
    keptParameters: (keptParameters ?? []).join(' '),
  }),
  fieldOf: () => 'root',
  typedIn: () => Object.keys(CODEC.toTyped({ rules: DEFAULT_ADDRESS_RULES })) as (keyof Typed)[],
};

function inWords(rules: Typed): string {
  return [
    ...SWITCHES.flatMap(([name, label]) => (rules[name] ? [label] : [])),
    `slash at the end ${SLASHES.find(([value]) => value === rules.trailingSlash)![1]}`,
    `parameters left out: ${rules.droppedParameters}`,
    ...(rules.keepsOnly ? [`parameters kept: ${rules.keptParameters}`] : []),
  ].join('; ');
}

/** The rules by which written addresses are one page, with what they would join shown before they are saved. */
export function RulesForm({ siteId, home, rules, before, tried, look, keep, undo }: Props) {
  const router = useRouter();
  const say = useToast();
  const { busy, act } = useAct();
  const [preview, setPreview] = useState<Preview | null>(tried?.preview ?? null);
  const form = useEntityForm<Typed, Sent, null>({
    // What is only tried was typed by nobody, so it is no draft.
    what: tried ? null : `rules:${siteId}`,
    ...{ initial: CODEC.toTyped({ rules }), codec: CODEC, editing: true },
    schema: z.object({ rules: addressRulesSchema }),
    send: (_, __, { given, base }) => keep(siteId, given.rules, base.rules),
    done: () => {
      say('Saved. All figures follow the new rules.');
      router.refresh();
    },
    inWords: (_, typed) => ({ name: 'These rules', text: inWords(typed) }),
  });
  const { register, reset, watch } = form;
  const offered = tried?.rules;
  useEffect(() => {
    if (offered) reset(CODEC.toTyped({ rules: offered }));
  }, [offered, reset]);
  useEffect(() => {
    const { unsubscribe } = watch((_, { type }) => type === 'change' && setPreview(null));
    return unsubscribe;
  }, [watch]);
  const lookAtIt = () => act(() => look(siteId, CODEC.toSent(form.getValues()).rules), setPreview);
  const putBack = () =>
    act(
      () => undo(siteId),
      () => {
        reset(CODEC.toTyped({ rules: before! }));
        setPreview(null);
        say('The rules before are back.');
        router.refresh();
      },
    );
  const waits = busy || form.busy;
  return (
    <div className="max-w-5xl">
      <EntityForm
        form={form}
        onEnter={lookAtIt}
        draftName={() => 'rules of addresses'}
        heading={<h2 className="mb-1 text-xl">Which addresses are one page</h2>}
        buttons={
          <>
            <button type="submit" className="btn btn-outline btn-sm" disabled={waits}>
              Show what this joins
            </button>
            <button
              type="button"
              className="btn btn-primary btn-sm"
              disabled={waits || preview === null}
              onClick={() => void form.submit()}
            >
              Save these rules
            </button>
            {before && (
              <button type="button" className="btn btn-ghost btn-sm" disabled={waits} onClick={putBack}>
                Put the rules before back
              </button>
            )}
            <span className="muted text-[0.85rem]" aria-live="polite">
              {waits ? 'Looking …' : preview === null ? 'Nothing changes before you have seen it.' : ''}
            </span>
          </>
        }
      >
        <div className="grid gap-x-10 gap-y-3 md:grid-cols-2">
          <div className="space-y-1.5">
            {SWITCHES.map(([name, label, example]) => (
              <label key={name} className="flex items-baseline gap-2">
                <input {...register(name)} type="checkbox" className="checkbox checkbox-sm translate-y-0.5" />
                <span>
                  {label} {example && <span className="muted text-[0.85rem]">{example}</span>}
                </span>
              </label>
            ))}
            <label className="block pt-1 text-[0.85rem]">
              <span className="block font-semibold">Slash at the end</span>
              <select {...register('trailingSlash')} className="select select-sm mt-0.5 w-full max-w-sm">
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
              <input {...register('droppedParameters')} className="input input-sm mt-0.5 w-full" />
              <span className="muted block">
                Those that only tell where a visitor came from; * stands for any letters.
              </span>
            </label>
            <div>
              <label className="flex items-baseline gap-2">
                <input
                  {...register('keepsOnly')}
                  type="checkbox"
                  className="checkbox checkbox-sm translate-y-0.5"
                />
                <span className="font-semibold">Keep these parameters only, leave out all others</span>
              </label>
              {watch('keepsOnly') && (
                <input
                  {...register('keptParameters')}
                  aria-label="Parameters kept"
                  placeholder="page size colour"
                  className="input input-sm mt-1 w-full"
                />
              )}
            </div>
          </div>
        </div>
      </EntityForm>
      {preview && <PreviewList preview={preview} home={home} />}
    </div>
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
