import type { NamedOpening } from '../../core/openings/named';
import type { Opening } from '../../core/openings/opening';
import { openingSentence } from '../../core/openings/openingSentence';
import type { SearchContext, Found } from './searchContext';

/** An opening as it is told: its names, its sentence and its worth. */
export function inWords(
  work: SearchContext,
  { opening, named }: Found & { readonly opening: Opening },
): NamedOpening {
  const { context, figures, texts, landing } = work;
  const { pageId, queryId, ...rest } = opening;
  const [page] = pageId === null ? [] : figures.pages([pageId]);
  const { worthOfClick, worthOfConversion } = context.site;
  const visits = pageId === null ? undefined : landing.get(pageId);
  const rate =
    visits && visits.conversions !== null && visits.sessions > 0
      ? visits.conversions / visits.sessions
      : null;
  const conversions =
    opening.figures['lacking'] ?? (rate === null || !opening.gain ? null : opening.gain.clicks * rate);
  const worth =
    conversions !== null && worthOfConversion !== null
      ? conversions * worthOfConversion
      : worthOfClick !== null && opening.gain
        ? opening.gain.clicks * worthOfClick
        : null;
  return {
    ...rest,
    key: [opening.kind, page?.address ?? '', queryId === null ? '' : texts.get(queryId)].join('|'),
    page: page ?? null,
    query: queryId === null ? null : { id: queryId, text: texts.get(queryId) ?? '' },
    sentence: openingSentence(opening, named),
    ...{ conversions, worth },
  };
}
