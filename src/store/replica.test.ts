import { replicaConfig, replicaTold } from './replica';

test('a folder, and places that speak S3', () => {
  expect(replicaTold('')).toBeNull();
  expect(replicaTold(' /mnt/other/tally ')).toMatchObject({ kind: 'folder', path: '/mnt/other/tally' });
  expect(replicaTold('s3://bees')).toMatchObject({ kind: 's3', bucket: 'bees', path: 'modest-tally' });
  const own = replicaTold('s3://bees/yard/?endpoint=https://store.quillow-bees.example&region=eu-north')!;
  expect(own.shown).toBe('s3://bees/yard/');
  expect(replicaConfig('/data/tally.sqlite', own)).toEqual({
    dbs: [
      {
        path: '/data/tally.sqlite',
        replicas: [
          {
            ...{ type: 's3', bucket: 'bees', path: 'yard', endpoint: 'https://store.quillow-bees.example' },
            ...{ 'force-path-style': true, region: 'eu-north' },
            ...{ 'sync-interval': '1s', 'snapshot-interval': '24h', retention: '72h' },
          },
        ],
      },
    ],
  });
  for (const wrong of ['ftp://bees/x', 's3://', 'https://bees.example/x?secret=1'])
    expect(() => replicaTold(wrong)).toThrow('TALLY_REPLICA is a folder or s3://bucket/path');
  expect(() => replicaTold('https://bees.example/x?secret=1')).not.toThrow('secret');
});
