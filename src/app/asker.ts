import { headers } from 'next/headers';
import { cache } from 'react';
import type { Principal } from '@/core/access/rights';
import { askerFrom } from '@/services/access/asker';
import { database } from '@/store/database';

/** Who asks for a screen or runs an action; found out once a request. */
export const askerNow = cache(async (): Promise<Principal> => askerFrom(database(), await headers()));
