import type { Intent } from './intents';

/** What people say of a page; a weight of 1 is as usual, and a page that is meant to sink is offered nothing. */
export type PageTraits = {
  readonly target: string | null;
  readonly weight: number | null;
  readonly sink: boolean;
};

/** What people say of a query; null where it is guessed or nobody said. */
export type QueryTraits = {
  readonly targetPageId: number | null;
  readonly intent: Intent | null;
  readonly brand: boolean | null;
};
