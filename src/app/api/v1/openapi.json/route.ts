import { openApiDocument } from '../openapi';

export const dynamic = 'force-static';

export function GET(): Response {
  return Response.json(openApiDocument());
}
