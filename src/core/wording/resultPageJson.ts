import { z } from 'zod';
import { DEVICES } from '../intake/rowReader';
import { dayJson, jsonFrom } from '../model/json';
import { daysSentence, type DaysCompared } from './days';
import { ABOVE_KINDS, RESULT_EXTRAS, RESULT_KINDS, type ResultPage } from './resultPage';

const resultJson = z
  .object({
    rank: z.int(),
    address: z.string(),
    title: z.string(),
    description: z.string().nullable(),
    kind: z.enum(RESULT_KINDS).nullable(),
    dateShown: z.string().nullable(),
    extras: z.array(z.enum(RESULT_EXTRAS)),
  })
  .meta({ id: 'Result' });

const deviceName = (device: number) => Object.entries(DEVICES).find(([, code]) => code === device)?.[0];

/** The results of a query on a day, as the API answers with them. */
export const resultPageJson = jsonFrom(
  z
    .object({
      id: z.int(),
      query: z.string(),
      day: dayJson,
      device: z.string(),
      results: z.array(resultJson),
      above: z.array(z.object({ kind: z.enum(ABOVE_KINDS), own: z.boolean().nullable() })),
      ownQuestions: z.array(z.string()),
      asked: z.array(z.string()),
      related: z.array(z.string()),
      bold: z.array(z.string()),
    })
    .meta({ id: 'ResultPage' }),
  (page: ResultPage) => ({ ...page, query: page.query.text, device: deviceName(page.device) ?? 'all' }),
);

const idAndDay = z.object({ id: z.int(), day: dayJson });

const stayed = jsonFrom(
  z.object({
    address: z.string(),
    rankBefore: z.int(),
    rankAfter: z.int(),
    placesGained: z.int(),
    titleBefore: z.string(),
    titleAfter: z.string(),
    retitled: z.boolean(),
    redescribed: z.boolean(),
    extrasGained: z.array(z.enum(RESULT_EXTRAS)),
    extrasLost: z.array(z.enum(RESULT_EXTRAS)),
  }),
  ({ before, after, gained, ...rest }: DaysCompared['stayed'][number]) => ({
    ...rest,
    rankBefore: before.rank,
    rankAfter: after.rank,
    placesGained: gained,
    titleBefore: before.title,
    titleAfter: after.title,
  }),
);

/** In what the results of two days differ, as the API answers with it. */
export const resultsComparisonJson = jsonFrom(
  z
    .object({
      sentence: z.string(),
      before: idAndDay,
      after: idAndDay,
      came: z.array(resultJson),
      went: z.array(resultJson),
      stayed: z.array(stayed),
      aboveCame: z.array(z.enum(ABOVE_KINDS)),
      aboveWent: z.array(z.enum(ABOVE_KINDS)),
      kindChanged: z.object({ from: z.enum(RESULT_KINDS), to: z.enum(RESULT_KINDS) }).nullable(),
    })
    .meta({ id: 'ResultsComparison' }),
  ({ before, after, compared }: ComparedPages) => ({
    ...compared,
    sentence: daysSentence(compared),
    before,
    after,
  }),
);

type ComparedPages = {
  readonly before: ResultPage;
  readonly after: ResultPage;
  readonly compared: DaysCompared;
};
