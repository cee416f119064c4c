import { asked } from './nextHeaders';

export const OWNER = {
  ...{ email: 'mk@quillow-bees.example', name: 'MK', password: 'quiet smoker on the hill' },
};
export const RV = {
  ...{ email: 'rv@quillow-bees.example', name: 'RV', password: 'nectar from the lime trees' },
};

let from = 0;

/** A browser of its own: its cookies, and an address that nobody has tried anything from. */
export function browser(): Headers {
  asked.cookies.clear();
  return carried(`203.0.113.${++from}`);
}

/** What the browser sends with its next request from an address. */
export function carried(address: string): Headers {
  const cookie = [...asked.cookies].map(([name, value]) => `${name}=${encodeURIComponent(value)}`).join('; ');
  asked.headers = new Headers({
    ...{ 'x-tally-remote': address, 'user-agent': 'Test' },
    ...(cookie && { cookie }),
  });
  return asked.headers;
}

/** What the same browser sends again. */
export const again = (): Headers => carried(`203.0.113.${from}`);
