import { answering, Problem } from '@/app/problem';

/** Whatever no other route answers. */
const nothing = answering(async (request: Request) => {
  const { pathname } = new URL(request.url);
  throw new Problem(404, `There is nothing at ${pathname}. What there is stands in /api/v1/openapi.json.`);
});

export {
  nothing as GET,
  nothing as POST,
  nothing as PUT,
  nothing as PATCH,
  nothing as DELETE,
  nothing as HEAD,
  nothing as OPTIONS,
};
