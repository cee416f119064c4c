'use client';

import { settingsOf, siteSettingsSchema, type Site, type SiteSettings } from '@/core/model/site';
import { LANGUAGE_NAMES, LANGUAGES, type Language } from '@/core/model/languages';
import type { Act } from '../kit/attempt';
import { EntityForm } from '../kit/EntityForm';
import { useEntityForm } from '../kit/useEntityForm';
import { Field } from '../kit/Field';
import { useToast } from '../kit/Toast';

type Values = Record<keyof SiteSettings, string>;

type Props = {
  site: Site;
  /** Whether whoever is here may have the server ask within its own network. */
  mayAllowHosts: boolean;
  /** Saves those settings that were changed, from what stood there when the edit began. */
  save: Act<[siteId: number, edit: Partial<SiteSettings>, base: Record<string, unknown>]>;
};

const LABELS = {
  name: 'Name',
  windowDays: 'Days in each span',
  settlingDays: 'Settling days',
  provisionalDays: 'Provisional days',
  undoDays: 'Days for which a file can be undone',
  privateHosts: 'Hosts on your own network',
  brandWords: 'Words of searches for the site itself',
  language: 'Language',
  worthOfClick: 'Worth of a click',
  worthOfConversion: 'Worth of a conversion',
  timeZone: 'Time zone',
  fallShare: 'List a fall from, in %',
  fallBeyond: 'And times its ordinary movement',
} as const satisfies Record<keyof SiteSettings, string>;

/** Settings as they are typed. */
function valuesOf({ name, privateHosts, brandWords, language, ...numbers }: SiteSettings): Values {
  const { windowDays, settlingDays, provisionalDays, undoDays } = numbers;
  return {
    ...{ name, language, windowDays: String(windowDays), settlingDays: String(settlingDays) },
    ...{ provisionalDays: String(provisionalDays), undoDays: String(undoDays) },
    ...{ privateHosts: privateHosts.join('\n'), brandWords: brandWords.join('\n') },
    worthOfClick: numbers.worthOfClick === null ? '' : String(numbers.worthOfClick),
    worthOfConversion: numbers.worthOfConversion === null ? '' : String(numbers.worthOfConversion),
    timeZone: numbers.timeZone ?? '',
    fallShare: String(Number((100 * numbers.fallShare).toFixed(2))),
    fallBeyond: String(numbers.fallBeyond),
  };
}

/** What is sent of settings as they are typed; a text that is no number is none. */
function settingsTyped(values: Values): SiteSettings {
  const number = (text: string) => (text.trim() === '' ? NaN : Number(text));
  const lines = (text: string) =>
    text
      .split('\n')
      .map((line) => line.trim())
      .filter(Boolean);
  return {
    name: values.name,
    language: values.language as Language,
    windowDays: number(values.windowDays),
    settlingDays: number(values.settlingDays),
    provisionalDays: number(values.provisionalDays),
    undoDays: number(values.undoDays),
    privateHosts: lines(values.privateHosts),
    brandWords: lines(values.brandWords),
    worthOfClick: values.worthOfClick.trim() === '' ? null : number(values.worthOfClick),
    worthOfConversion: values.worthOfConversion.trim() === '' ? null : number(values.worthOfConversion),
    timeZone: values.timeZone.trim() === '' ? null : values.timeZone.trim(),
    fallShare: number(values.fallShare) / 100,
    fallBeyond: number(values.fallBeyond),
  };
}

const NUMBERS = [
  ['windowDays', 'Whole weeks count each weekday equally; 28 is usual.'],
  ['settlingDays', 'Left out after a change, until the result page shows it.'],
  ['provisionalDays', 'The newest days of a fresh file, still revised at the source: shown, not read.'],
  [
    'undoDays',
    'What was replaced longer ago is folded together, so that a daily feed does not fill the disk.',
  ],
] as const;

/** Name of a site and the numbers that shape its readings. */
export function SettingsForm({ site, mayAllowHosts, save }: Props) {
  const say = useToast();
  const form = useEntityForm<Values, SiteSettings, null>({
    what: `settings:${site.id}`,
    initial: valuesOf(settingsOf(site)),
    codec: { toSent: settingsTyped, toTyped: valuesOf },
    schema: siteSettingsSchema,
    editing: true,
    send: (edit, base) => save(site.id, edit, base),
    inWords: (field, values) => ({
      name: LABELS[field as keyof Values],
      text: values[field as keyof Values],
    }),
    done: () => say('Saved. Readings follow the new settings at once.'),
  });
  const { register, errorOf } = form;
  return (
    <EntityForm
      form={form}
      draftName={({ name }) => name}
      className="max-w-md"
      buttons={
        <button type="submit" className="btn btn-primary btn-sm" disabled={form.busy}>
          Save
        </button>
      }
    >
      <Field label="Name" error={errorOf('name')}>
        {(c) => <input {...c} {...register('name')} className="input w-full" />}
      </Field>
      <Field label="Address" hint="Stays as it is: the addresses of all pages begin with it.">
        {(c) => <input {...c} value={site.address} readOnly className="input w-full opacity-70" />}
      </Field>
      <Field
        label={LABELS.language}
        hint="Of its pages and searches: it says which words are one word, which only join others, and what a search is after."
        error={errorOf('language')}
      >
        {(c) => (
          <select {...c} {...register('language')} className="select w-full">
            {LANGUAGES.map((language) => (
              <option key={language} value={language}>
                {LANGUAGE_NAMES[language]}
              </option>
            ))}
          </select>
        )}
      </Field>
      {NUMBERS.map(([name, hint]) => (
        <Field key={name} label={LABELS[name]} hint={hint} error={errorOf(name)}>
          {(c) => <input {...c} {...register(name)} inputMode="numeric" className="input w-24" />}
        </Field>
      ))}
      <Field
        label={LABELS.brandWords}
        hint="One a line. Left empty: the words that the name and the address of the site have in common. Openings leave such searches out."
        error={errorOf('brandWords')}
      >
        {(c) => <textarea {...c} {...register('brandWords')} rows={2} className="textarea w-full" />}
      </Field>
      <div className="flex gap-4">
        {(['worthOfClick', 'worthOfConversion'] as const).map((name) => (
          <Field
            key={name}
            label={LABELS[name]}
            hint="In your own money; left empty, worth is not told."
            error={errorOf(name)}
          >
            {(c) => <input {...c} {...register(name)} inputMode="decimal" className="input w-24" />}
          </Field>
        ))}
      </div>
      <Field
        label={LABELS.timeZone}
        hint="Days begin by it: what counts as today, and the day a form starts with. If empty, that of the server."
        error={errorOf('timeZone')}
      >
        {(c) => (
          <>
            <input {...c} {...register('timeZone')} list="time-zones" className="input w-60" />
            <datalist id="time-zones">
              {Intl.supportedValuesOf('timeZone').map((zone) => (
                <option key={zone} value={zone} />
              ))}
            </datalist>
          </>
        )}
      </Field>
      <div className="flex gap-4">
        <Field
          label={LABELS.fallShare}
          hint="The Desk lists a page whose weekly clicks fell by more than this share …"
          error={errorOf('fallShare')}
        >
          {(c) => <input {...c} {...register('fallShare')} inputMode="decimal" className="input w-24" />}
        </Field>
        <Field
          label={LABELS.fallBeyond}
          hint="… and by more than this many times its usual week-to-week movement."
          error={errorOf('fallBeyond')}
        >
          {(c) => <input {...c} {...register('fallBeyond')} inputMode="decimal" className="input w-24" />}
        </Field>
      </div>
      <Field
        label={LABELS.privateHosts}
        hint={`One a line, with its port where that is not the usual one. Pages are fetched from the open internet only, unless their host stands here.${mayAllowHosts ? '' : ' Only an owner of the whole installation can add hosts.'}`}
        error={errorOf('privateHosts')}
      >
        {(c) => (
          <textarea
            {...c}
            {...register('privateHosts')}
            readOnly={!mayAllowHosts}
            rows={2}
            className="textarea w-full"
            placeholder="staging.quillow-bees.example"
          />
        )}
      </Field>
    </EntityForm>
  );
}
