/* The part of a change's figures that a reading is restricted to. */

/** A narrower reading: one query, one device, one page of the change; null for all. */
export type Narrowing = {
  readonly query: string | null;
  readonly device: string | null;
  readonly pageId: number | null;
  /** A country as figures name it, in lower case. */
  readonly country: string | null;
};

/** Devices a reading can be narrowed to. */
export const NARROW_DEVICES = ['mobile', 'desktop', 'tablet', 'other'] as const;

export const NOT_NARROWED: Narrowing = { query: null, device: null, pageId: null, country: null };
