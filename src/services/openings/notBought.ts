import { lackingConversions } from '../../core/openings/visited';
import type { SearchContext, Found } from './searchContext';

/** A group of pages has a usual share of its own where so many conversions tell it; guides are not bought from like a shop. */
const FEWEST_CONVERSIONS = 20;

/** Visited, not bought: landing pages whose visits bring fewer conversions than chance allows. */
export function notBought({ landing, months, figures }: SearchContext): Found[] {
  const ids = [...landing.keys()];
  const { of, names } = figures.groupsOf(ids);
  const sums = Array.from({ length: names.length + 1 }, () => ({ sessions: 0, conversions: 0 }));
  ids.forEach((id, i) => {
    const { sessions, conversions } = landing.get(id)!;
    if (conversions === null) return;
    for (const group of [of[i]!, names.length]) {
      sums[group]!.sessions += sessions;
      sums[group]!.conversions += conversions;
    }
  });
  const whole = sums[names.length]!;
  if (whole.conversions === 0) return [];
  return ids.flatMap((pageId, i): Found[] => {
    const one = landing.get(pageId)!;
    if (one.conversions === null) return [];
    const group = sums[of[i]!]!;
    const { conversions, sessions } = group.conversions >= FEWEST_CONVERSIONS ? group : whole;
    const usual = conversions / sessions;
    const visits = { sessions: one.sessions, conversions: one.conversions };
    const lacking = lackingConversions(visits, usual);
    if (!lacking || lacking.conversions / months < 0.5) return [];
    return [
      {
        opening: {
          ...{ pageId, queryId: null, gain: null },
          figures: { ...visits, usual: usual * one.sessions, lacking: lacking.conversions / months },
        },
      },
    ];
  });
}
