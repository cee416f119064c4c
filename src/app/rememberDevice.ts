import { cookies } from 'next/headers';
import type { DeviceCookie } from '@/services/access/knownDevices';

/** Has this browser known as one in which somebody has signed in. */
export async function rememberDevice(device: DeviceCookie | null): Promise<void> {
  if (!device) return;
  const { name, value, ...options } = device;
  (await cookies()).set(name, value, options);
}
