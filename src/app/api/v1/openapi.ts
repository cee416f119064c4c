import { createDocument } from 'zod-openapi';
import { operationsByPath } from './routes';

/** The OpenAPI 3.1 document of the interface, made from what the handlers themselves check by. */
export function openApiDocument() {
  const paths = operationsByPath().map(([path, operations]) => [
    path,
    Object.fromEntries(operations.map(([method, { described }]) => [method.toLowerCase(), described])),
  ]);
  return createDocument({
    openapi: '3.1.0',
    info: {
      title: 'Modest Tally',
      version: '1',
      description:
        'Days are YYYY-MM-DD, ratios plain numbers (0.031 is 3.1%), errors problem details (RFC 9457). Answers carry an ETag; with If-None-Match they are not sent again (304), with If-Match nothing is written over somebody else’s edit (412, RFC 9110). Fields that are not described are refused.',
    },
    servers: [{ url: '/api/v1' }],
    paths: Object.fromEntries(paths),
  });
}
