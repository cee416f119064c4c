import path from 'node:path';
import { DatabaseRefused } from './refused';

/** Where the database is copied to as it changes: a folder, or a place that speaks S3. */
export type Replica =
  | { readonly kind: 'folder'; readonly path: string; readonly shown: string }
  | {
      readonly kind: 's3';
      readonly bucket: string;
      readonly path: string;
      readonly endpoint: string | null;
      readonly region: string | null;
      readonly shown: string;
    };

/**
 * What TALLY_REPLICA says: a folder, or `s3://bucket/path`, with `?endpoint=https://…&region=…` for places that are not the
 * first one. Keys are taken from LITESTREAM_ACCESS_KEY_ID and LITESTREAM_SECRET_ACCESS_KEY. Null where nothing is said.
 * Throws DatabaseRefused.
 */
export function replicaTold(told = process.env.TALLY_REPLICA): Replica | null {
  if (told === undefined || told.trim() === '') return null;
  const text = told.trim();
  if (!/^\w+:\/\//.test(text)) return { kind: 'folder', path: path.resolve(text), shown: path.resolve(text) };
  const url = URL.canParse(text) ? new URL(text) : null;
  if (url?.protocol !== 's3:' || url.hostname === '')
    throw new DatabaseRefused(
      `TALLY_REPLICA is a folder or s3://bucket/path, and is “${text.split('?')[0]}”.`,
    );
  return {
    kind: 's3',
    ...{ bucket: url.hostname, path: url.pathname.replace(/^\/+|\/+$/g, '') || 'modest-tally' },
    ...{ endpoint: url.searchParams.get('endpoint'), region: url.searchParams.get('region') },
    shown: `s3://${url.hostname}${url.pathname}`,
  };
}

/** How Litestream is told of it (its configuration file; JSON is YAML): a copy every second, a whole one each day, kept for three. */
export function replicaConfig(database: string, replica: Replica): object {
  const often = { 'sync-interval': '1s', 'snapshot-interval': '24h', retention: '72h' };
  const to =
    replica.kind === 'folder'
      ? { type: 'file', path: replica.path }
      : {
          ...{ type: 's3', bucket: replica.bucket, path: replica.path },
          ...(replica.endpoint && { endpoint: replica.endpoint, 'force-path-style': true }),
          ...(replica.region && { region: replica.region }),
        };
  return { dbs: [{ path: database, replicas: [{ ...to, ...often }] }] };
}

/** Whether the copying runs, as the server knows it; null where no replica is told. */
export function replicaState(): 'running' | 'stopped' | null {
  if (!process.env.TALLY_REPLICA) return null;
  return (globalThis as { __tallyReplica?: 'running' | 'stopped' }).__tallyReplica ?? 'stopped';
}
