/** The port that the environment names, 3000 where it names none. Null where what it names is no port. */
export function portFrom(text: string | undefined): number | null {
  if (!text) return 3000;
  const port = /^\d{1,5}$/.test(text) ? Number(text) : 0;
  return port >= 1 && port <= 65_535 ? port : null;
}
