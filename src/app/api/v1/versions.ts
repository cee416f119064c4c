import { createHash } from 'node:crypto';
import type { Db } from '@/store/database';
import type { Guard } from '@/store/write';
import { Problem } from '@/app/problem';
import { SUBJECTS, type SubjectName, type Subjects } from '@/app/subjects';
import { missedJoins } from '@/services/pages/missedJoins';
import { listProblems, PROBLEMS_SHOWN } from '@/store/figures/imports';
import { pageToJson, queryToJson } from './lists';
import { reportToJson } from './reports';
import { roundToJson } from './rounds';
import { resultPageToJson } from './wording';
import { changeToJson, eventToJson, feedToJson, importToJson, siteToJson, snapshotToJson } from './serialise';

/*
 * Versions of things (RFC 9110, parts 8.8.3 and 13.1): an entity tag is a digest of what is answered with, so that it changes
 * whenever that does, whoever changed it and in whichever way.
 */

/** How each thing is answered with under its own address. */
const REPRESENTED: { [S in SubjectName]?: (db: Db, subject: Subjects[S]) => object } = {
  site: (_db, { site }) => siteToJson(site),
  page: (db, { page }) => pageToJson(db, page),
  query: (db, { asked }) => queryToJson(db, asked),
  change: (_db, { change }) => changeToJson(change),
  event: (_db, { event }) => eventToJson(event),
  feed: (_db, { feed }) => feedToJson(feed),
  resultPage: (_db, { resultPage }) => resultPageToJson(resultPage),
  report: (_db, { report }) => reportToJson(report),
  round: (_db, { round }) => roundToJson(round),
  snapshot: (_db, { snapshot, page }) => snapshotToJson(snapshot, page),
  import: (db, { site, row }) => ({
    ...importToJson(row, listProblems(db, row.id, PROBLEMS_SHOWN)),
    missedJoins: missedJoins(db, site, row),
  }),
};

/** What a thing is answered with under its own address. */
export function represented<S extends SubjectName>(db: Db, on: S, subject: Subjects[S]): object {
  const of = REPRESENTED[on] as ((db: Db, subject: Subjects[S]) => object) | undefined;
  if (!of) throw new Error(`A ${on} has no address of its own.`);
  return of(db, subject);
}

/** The entity tag of a body. */
export function tagOf(body: string): string {
  return `"${createHash('sha256').update(body).digest('base64url').slice(0, 22)}"`;
}

/** The entity tag of a thing as it is now; null where it has no address of its own, or is gone. */
export function tagOfSubject(db: Db, on: SubjectName, id: number): string | null {
  if (!REPRESENTED[on]) return null;
  const subject = SUBJECTS[on].find(db, id);
  return subject && tagOf(JSON.stringify(represented(db, on, subject)));
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
export function guardOf(request: Request, db: Db, on: SubjectName, id: number): Guard {
  const header = request.headers.get('if-match');
  if (header === null) return () => {};
  const tags = tagsIn(header, 'If-Match');
  return () => {
    const now = tagOfSubject(db, on, id);
    if (now !== null && (tags === '*' || tags.includes(now))) return;
    throw new Problem(
      412,
      now === null
        ? `The ${SUBJECTS[on].name} is gone.`
        : `The ${SUBJECTS[on].name} was changed since it was read. Read it again; its version is now ${now}.`,
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
