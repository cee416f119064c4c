import { openApiDocument } from './openapi';

test('it describes every route of the interface', () => {
  const { paths } = openApiDocument();
  const described = Object.entries(paths ?? {}).map(([path, item]) => [path, Object.keys(item ?? {}).sort()]);
  expect(described).toEqual([
    ['/sites', ['get', 'post']],
    ['/sites/{siteId}/imports', ['get', 'post']],
    ['/imports/{importId}', ['get']],
    ['/imports/{importId}/undo', ['delete', 'post']],
    ['/sites/{siteId}/changes', ['get', 'post']],
    ['/changes/{changeId}', ['delete', 'get', 'patch']],
    ['/changes/{changeId}/steps', ['post']],
    ['/changes/{changeId}/decision', ['put']],
    ['/changes/{changeId}/reading', ['get']],
    ['/sites/{siteId}/readings', ['get']],
    ['/sites/{siteId}/snapshots', ['get', 'post']],
    ['/snapshots/{snapshotId}', ['get']],
    ['/snapshots/{snapshotId}/comparison', ['get']],
    ['/sites/{siteId}/reviews.ics', ['get']],
    ['/sites/{siteId}/events.ics', ['get']],
    ['/sites/{siteId}/events', ['get', 'post']],
    ['/events/{eventId}', ['delete', 'get', 'put']],
  ]);
});
