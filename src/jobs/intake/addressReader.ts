import { writtenAddress } from '../../core/address/address';
import type { RowContext } from '../../core/intake/rowReader';

/** Puts addresses of one site in their normal form. */
export function addressReader(siteAddress: string): RowContext['address'] {
  return (text) => {
    try {
      return { written: writtenAddress(text, siteAddress) };
    } catch (error) {
      return { problem: error instanceof Error ? error.message : 'The address cannot be read.' };
    }
  };
}
