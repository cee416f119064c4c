import { z } from 'zod';
import { listQuerySchema } from '@/core/lists/wish';

const { from, to, device } = listQuerySchema.shape;

export const totalsQuerySchema = z.object({
  ...{ from, to },
  against: z
    .enum(['before', 'year'])
    .default('before')
    .meta({ description: 'As many days before, or the same days a year earlier (52 weeks).' }),
  device,
  path: z
    .string()
    .startsWith('/', 'A path starts with /.')
    .max(2048)
    .optional()
    .meta({ description: 'Only pages whose path begins so.' }),
});
