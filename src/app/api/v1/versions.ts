import { createHash } from 'node:crypto';
import type { Db } from '@/store/database';
import type { Guard } from '@/store/write';
import { Problem } from '@/app/problem';
import { resourceOf, type ResourceName } from '@/app/resources';

/*
 * Versions of things (RFC 9110, parts 8.8.3 and 13.1): an entity tag is a digest of what is answered with, so that it changes
 * whenever that does, whoever changed it and in whichever way.
 */

/** The entity tag of a body. */
export function tagOf(body: string): string {
  return `"${createHash('sha256').update(body).digest('base64url').slice(0, 22)}"`;
}

/** The entity tag of a resource as it is now; null where it has no address of its own, or is gone. */
export function tagOfResource(db: Db, on: ResourceName, id: number): string | null {
  const { find, json } = resourceOf(on);
  const found = json && find(db, id);
  return found ? tagOf(JSON.stringify(json(found, db))) : null;
}

const TAG = /^(?:W\/)?"[\x21\x23-\x7e\x80-\xff]*"$/;

/** The entity tags that a condition names; `*` for any. Throws Problem where it is malformed. */
function tagsIn(header: string, name: string): readonly string[] | '*' {
  const text = header.trim();
  if (text === '*') return '*';
  const tags = text.split(',').map((tag) => tag.trim());
  if (!tags.every((tag) => TAG.test(tag)))
    throw new Problem(400, `${name} holds entity tags in quotation marks, as they came in ETag, or *.`);
  return tags;
}

/**
 * The condition of a request on the version that it begins from. Without one it lets everything pass. Throws Problem 412 when
 * called; a weak tag never matches (RFC 9110, 8.8.3.2).
 */
export function guardOf(request: Request, db: Db, on: ResourceName, id: number): Guard {
  const header = request.headers.get('if-match');
  if (header === null) return () => {};
  const tags = tagsIn(header, 'If-Match');
  return () => {
    const now = tagOfResource(db, on, id);
    if (now !== null && (tags === '*' || tags.includes(now))) return;
    throw new Problem(
      412,
      now === null
        ? `The ${resourceOf(on).name} is gone.`
        : `The ${resourceOf(on).name} was changed since it was read. Read it again; its version is now ${now}.`,
    );
  };
}

/** Whether the asker has this version already (If-None-Match), by weak comparison. Throws Problem where it is malformed. */
export function isKnown(request: Request, tag: string): boolean {
  const header = request.headers.get('if-none-match');
  if (header === null) return false;
  const tags = tagsIn(header, 'If-None-Match');
  return tags === '*' || tags.some((one) => one.replace(/^W\//, '') === tag);
}
