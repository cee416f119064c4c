/* Reads what English titles name, with a library and a model that ship with the program. */

import type { Detail, ItsHelpers, Tokens } from 'wink-nlp';
import type { EntityKind, EntityReader, Mention } from './entities';

/** What the model calls things. */
const KINDS: Readonly<Record<string, EntityKind>> = {
  ...{ CARDINAL: 'number', ORDINAL: 'number', PERCENT: 'share', MONEY: 'money' },
  ...{ DATE: 'date', TIME: 'time', DURATION: 'time' },
};
/** What a page is, as titles say it: common practice, no published source. */
const FORMATS =
  /\b(?:guide|checklist|calculator|template|tutorial|recipe|video|review|list|calendar|chart|table|pdf|infographic|course|step by step)s?\b/gi;
const YEAR = /(?<!\d)(?:19|20)\d\d(?!\d)/g;

/**
 * Loads the model, which takes a second. A name is a run of proper nouns, unless the title
 * capitalises every word: then only text after a separator, or names known to the model, count.
 */
export async function englishReader(): Promise<EntityReader> {
  const [{ default: winkNLP }, { default: model }] = await Promise.all([
    import('wink-nlp'),
    import('wink-eng-lite-web-model'),
  ]);
  const nlp = winkNLP(model);
  const { its } = nlp;
  return (text) => {
    const document = nlp.readDoc(text);
    const found: Mention[] = [];
    for (const year of text.match(YEAR) ?? []) found.push({ text: year, kind: 'year' });
    for (const format of text.match(FORMATS) ?? [])
      found.push({ text: format.toLowerCase(), kind: 'format' });
    const details = document.entities().out(its.detail) as unknown as Detail[];
    for (const { value, type } of details) {
      const kind = KINDS[type];
      // Words such as “winter” or “month” are dates to the model, and terms like any other here.
      const dated = kind === 'date' || kind === 'time';
      if (kind && !/^(?:19|20)\d\d$/.test(value) && (!dated || /\d/.test(value)))
        found.push({ text: value, kind });
    }
    found.push(
      ...namesIn(document.tokens(), its, text).map((name): Mention => ({ text: name, kind: 'name' })),
    );
    return found;
  };
}

function namesIn(tokens: Tokens, its: ItsHelpers, text: string): string[] {
  const values = tokens.out(its.value) as string[];
  const tags = tokens.out(its.pos) as string[];
  const words = values.filter((value) => /\p{L}/u.test(value));
  const capitals = words.filter((value) => /^\p{Lu}/u.test(value)).length;
  // Where nearly all words have capitals, these say nothing.
  const telling = words.length > 0 && capitals / words.length < 0.6;
  const names: string[] = [];
  let run: string[] = [];
  let first = true;
  const end = () => {
    if (run.length > 0 && (run.length > 1 || !first)) names.push(run.join(' '));
    run = [];
  };
  values.forEach((value, i) => {
    const proper = tags[i] === 'PROPN' && /^\p{Lu}/u.test(value);
    if (proper && telling) run.push(value);
    else {
      end();
      if (/\p{L}/u.test(value)) first = false;
    }
  });
  end();
  if (names.length === 0 && !telling) {
    const last = /[|–—•»]\s*([^|–—•»]+)$/u.exec(text)?.[1]?.trim();
    if (last && last.split(/\s+/).length <= 4 && !/\d/.test(last)) names.push(last);
  }
  return names;
}
