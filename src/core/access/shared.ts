/** What a read-only link can lead to. */
export const SHARED = ['report', 'reading', 'round'] as const;
export type Shared = (typeof SHARED)[number];
