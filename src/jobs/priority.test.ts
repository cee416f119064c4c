import { getPriority } from 'node:os';
import { inBackground } from './priority';

test('long work has a lower priority than all else, and the thread has its own again afterwards', async () => {
  const usual = getPriority();
  const during = await inBackground(async () => getPriority());
  await expect(
    inBackground(async () => {
      throw new Error('It went wrong.');
    }),
  ).rejects.toThrow('It went wrong.');
  expect(getPriority()).toBe(usual);
  // Who may not raise a priority again does not lower it.
  expect([usual, 10]).toContain(during);
  if (process.platform === 'linux' && process.getuid?.() === 0) expect(during).toBe(10);
});
