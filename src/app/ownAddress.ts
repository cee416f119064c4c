import { headers } from 'next/headers';
import { publicAddress } from '@/store/access/publicAddress';

/** The address under which links to this server are written: the one that was told, or the one that was asked. */
export async function ownAddress(): Promise<string> {
  return publicAddress()?.origin ?? `http://${(await headers()).get('host') ?? '127.0.0.1'}`;
}
