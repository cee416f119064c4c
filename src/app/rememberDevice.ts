import { cookies } from 'next/headers';
import type { DeviceCookie } from '@/services/access/knownDevices';

/** Sets the device cookie, if there is one to set. */
export async function rememberDevice(device: DeviceCookie | null): Promise<void> {
  if (!device) return;
  const { name, value, ...options } = device;
  (await cookies()).set(name, value, options);
}
