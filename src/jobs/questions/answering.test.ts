import { NotFittedError } from '../../core/effect/incrementalFit';
import { TempStore } from '../../../tests/support/tempDb';
import { Answering } from './answering';
import { answersFor } from './answers';
import type { Message, Question } from './question';

jest.mock('./answers', () => ({ answersFor: jest.fn() }));

/** What answers are given of the question that is being answered. */
type Mode = { manner: () => { learning: string }; pace: { readonly inSteps: boolean } };

/** Opens the gates of answers under way, in the order in which they were begun. */
const gates: (() => void)[] = [];
let store: TempStore;
let told: Message[];

beforeEach(() => {
  store = new TempStore();
  told = [];
  gates.length = 0;
});
afterEach(() => store.close());

const question = (number: number, who: Question['who']) =>
  ({ number, name: 'desk', asked: {}, who }) as unknown as Question;
const answers = () =>
  Object.fromEntries(
    told.flatMap((message) => ('answer' in message ? [[message.number, message.answer]] : [])),
  );

/** An `Answering` whose only question is answered by `answer`. */
function answering(answer: (mode: Mode) => Promise<unknown>): Answering {
  jest.mocked(answersFor).mockImplementation(((_: unknown, mode: Mode) => ({
    desk: () => answer(mode),
  })) as never);
  return new Answering(store.db, 1, (message) => told.push(message));
}

test('questions under way at once are each answered in their own way to the end', async () => {
  const asked = answering(async ({ manner }) => {
    const before = manner().learning;
    await new Promise<void>((resolve) => gates.push(resolve));
    return [before, manner().learning];
  });
  const alone = asked.put(question(1, null));
  const other = asked.put(question(2, 'nobody'));
  const again = asked.put(question(3, null));
  gates.reverse().forEach((open) => open());
  await Promise.all([alone, other, again]);
  asked.close();
  expect(answers()).toEqual({ 1: ['here', 'here'], 2: ['elsewhere', 'elsewhere'], 3: ['here', 'here'] });
});

test('one that is learned for in steps leaves the pace of others alone', async () => {
  let unlearned = 20;
  const asked = answering(async ({ manner, pace }) => {
    if (manner().learning === 'elsewhere') {
      await new Promise<void>((resolve) => gates.push(resolve));
      return pace.inSteps;
    }
    unlearned -= 1;
    if (pace.inSteps && unlearned > 0) throw new NotFittedError(function* () {});
    return pace.inSteps;
  });
  const other = asked.put(question(2, 'nobody'));
  await asked.put(question(1, null));
  gates.forEach((open) => open());
  await other;
  asked.close();
  // The first gave up learning in steps; the second, begun before it and ended after it, still would.
  expect(answers()).toEqual({ 1: false, 2: true });
});
