const EVERY_MS = 1000;

const number = (value: number) => Math.round(value).toLocaleString('en-GB');

/** Says now and then how many rows a command has done, of how many, and how fast. */
export function counting(
  total: number,
  done: string,
): { at: (rows: number) => void; end: (what: string) => void } {
  const began = Date.now();
  let told = began;
  let rows = 0;
  return {
    at(now) {
      rows = now;
      if (Date.now() - told < EVERY_MS) return;
      told = Date.now();
      const rate = rows / ((told - began) / 1000);
      console.log(`${number(rows)} of ${number(total)} rows ${done}, ${number(rate)} a second`);
    },
    end(what) {
      console.log(`${what}: ${number(rows)} rows in ${((Date.now() - began) / 1000).toFixed(1)} seconds.`);
    },
  };
}
