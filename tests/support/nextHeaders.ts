/** What stands in for the headers and cookies of a request where actions are run without one. */
export const asked = { headers: new Headers(), cookies: new Map<string, string>() };

export async function headers(): Promise<Headers> {
  return asked.headers;
}

export async function cookies() {
  return {
    get: (name: string) => {
      const value = asked.cookies.get(name);
      return value === undefined ? undefined : { name, value };
    },
    set: (name: string, value: string) => void asked.cookies.set(name, value),
  };
}
