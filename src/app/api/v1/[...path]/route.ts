import { answering, Problem } from '@/app/problem';
import { findRoute, METHODS } from '../routes';

type Context = { params: Promise<{ path: string[] }> };

/**
 * Answers every request of the interface by the operation of its path and method. With one entry
 * for all of them, the code that they share is bundled and loaded once.
 */
const serve = answering(async (request: Request, { params }: Context) => {
  const found = findRoute((await params).path);
  if (!found) {
    const { pathname } = new URL(request.url);
    throw new Problem(404, `There is nothing at ${pathname}. What there is stands in /api/v1/openapi.json.`);
  }
  const { route, path } = found;
  const operation = route[request.method === 'HEAD' ? 'GET' : (request.method as keyof typeof route)];
  if (operation) return operation(request, { params: Promise.resolve(path) });
  const allowed = METHODS.filter((method) => route[method]);
  const Allow = [...allowed, ...(route.GET ? ['HEAD'] : []), 'OPTIONS'].join(', ');
  if (request.method === 'OPTIONS') return new Response(null, { status: 204, headers: { Allow } });
  throw new Problem(405, `This path does not answer to ${request.method}.`, [], { Allow });
});

export {
  serve as GET,
  serve as POST,
  serve as PUT,
  serve as PATCH,
  serve as DELETE,
  serve as HEAD,
  serve as OPTIONS,
};
