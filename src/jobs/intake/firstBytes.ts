import { open as openFile } from 'node:fs/promises';

/** The first bytes of a file. */
export async function firstBytes(file: string, bytes: number): Promise<Buffer> {
  const handle = await openFile(file);
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(bytes), 0, bytes, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await handle.close();
  }
}
