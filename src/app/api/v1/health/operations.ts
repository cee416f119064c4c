import { z } from 'zod';
import { health } from '@/services/installation/health';
import { backupFailure } from '@/jobs/runner';
import { answer, operation, problem } from '../doorway';

const instant = z.string().nullable();

export const GET = operation(
  {
    summary: 'Whether the program is well: for whatever watches over it',
    on: 'nothing',
    may: 'anybody',
    answers: {
      '200': answer(
        'It is alive, and can write',
        z.object({
          status: z.literal('ok'),
          database: z.literal('writable'),
          lastBackup: z.object({
            day: z.string().nullable(),
            bytes: z.int().nullable(),
            failure: z.string().nullable().meta({ description: 'Why the last try failed.' }),
            off: z.boolean(),
          }),
          replica: z.enum(['running', 'stopped']).nullable().meta({
            description: 'The continuous copy to another place; null where none is told.',
          }),
          lastFeed: z.object({
            fetchedAt: instant,
            failing: z.int().meta({ description: 'Feeds whose last try failed.' }),
          }),
          queue: z.object({ imports: z.int(), sites: z.int() }),
        }),
      ),
      '503': problem('It is alive, and cannot write.'),
    },
  },
  ({ db, asker }) => {
    const failure = backupFailure();
    // Why it failed may name folders; whoever watches from outside is told that it did.
    const told = failure !== null && asker.kind === 'nobody' ? 'The last try failed.' : failure;
    return Response.json(health(db, told));
  },
);
