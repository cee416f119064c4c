/* A site's URL rules: which written URLs count as one page. */

import { z } from 'zod';

/** Patterns of parameters that only tell where a visitor came from (common practice, no published source). */
export const TRACKING_PARAMETERS = ['utm_*', '*clid', 'ref', 'campaign'] as const;

const parameterPattern = z
  .string()
  .trim()
  .min(1)
  .max(60)
  .regex(/^[\w\-.~*[\]]+$/, 'A parameter is letters, digits and - . _ ~, with * for any of them.');

/** Which written addresses of a site are one page, beyond what RFC 3986 makes the same. */
export const addressRulesSchema = z.strictObject({
  /** `http` and `https` are one page. */
  joinSchemes: z.boolean(),
  /** With `www.` and without are one page. */
  joinWww: z.boolean(),
  trailingSlash: z.enum(['as-written', 'with', 'without']),
  /** `/guides/index.html` is `/guides/`. */
  dropIndexFiles: z.boolean(),
  ignoreCase: z.boolean(),
  /** Parameters that are left out, by pattern. */
  droppedParameters: z.array(parameterPattern).max(100),
  /** The only parameters that are kept; null keeps all that are not left out. */
  keptParameters: z.array(parameterPattern).max(100).nullable(),
});
export type AddressRules = z.infer<typeof addressRulesSchema>;

export const DEFAULT_ADDRESS_RULES: AddressRules = {
  joinSchemes: true,
  joinWww: true,
  trailingSlash: 'as-written',
  dropIndexFiles: false,
  ignoreCase: false,
  droppedParameters: [...TRACKING_PARAMETERS],
  keptParameters: null,
};
