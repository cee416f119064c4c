import { index, integer, primaryKey, sqliteTable, text } from 'drizzle-orm/sqlite-core';
import { ROLES, TOKEN_RIGHTS } from '../../core/access/rights';
import { SHARED } from '../../core/access/readOnlyLink';

/*
 * Accounts and activity. The first five tables are the account library’s, with its column names. Of
 * tokens and links only digests are stored.
 */

const moment = (name: string) => integer(name, { mode: 'timestamp' });

export const user = sqliteTable('user', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  email: text('email').notNull().unique(),
  emailVerified: integer('email_verified', { mode: 'boolean' }).notNull().default(false),
  image: text('image'),
  createdAt: moment('created_at').notNull(),
  updatedAt: moment('updated_at').notNull(),
  twoFactorEnabled: integer('two_factor_enabled', { mode: 'boolean' }).default(false),
  /** Owns the whole installation. */
  administrator: integer('administrator', { mode: 'boolean' }).notNull().default(false),
});

export const session = sqliteTable(
  'session',
  {
    id: text('id').primaryKey(),
    userId: text('user_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    token: text('token').notNull().unique(),
    expiresAt: moment('expires_at').notNull(),
    ipAddress: text('ip_address'),
    userAgent: text('user_agent'),
    createdAt: moment('created_at').notNull(),
    updatedAt: moment('updated_at').notNull(),
  },
  (t) => [index('session_by_user').on(t.userId)],
);

/** How somebody signs in: here always by a password, of which the Argon2id digest is kept. */
export const account = sqliteTable(
  'account',
  {
    id: text('id').primaryKey(),
    userId: text('user_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    accountId: text('account_id').notNull(),
    providerId: text('provider_id').notNull(),
    accessToken: text('access_token'),
    refreshToken: text('refresh_token'),
    idToken: text('id_token'),
    accessTokenExpiresAt: moment('access_token_expires_at'),
    refreshTokenExpiresAt: moment('refresh_token_expires_at'),
    scope: text('scope'),
    password: text('password'),
    createdAt: moment('created_at').notNull(),
    updatedAt: moment('updated_at').notNull(),
  },
  (t) => [index('account_by_user').on(t.userId)],
);

export const verification = sqliteTable(
  'verification',
  {
    id: text('id').primaryKey(),
    identifier: text('identifier').notNull(),
    value: text('value').notNull(),
    expiresAt: moment('expires_at').notNull(),
    createdAt: moment('created_at').notNull(),
    updatedAt: moment('updated_at').notNull(),
  },
  (t) => [index('verification_by_identifier').on(t.identifier)],
);

export const twoFactor = sqliteTable(
  'two_factor',
  {
    id: text('id').primaryKey(),
    userId: text('user_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    secret: text('secret').notNull(),
    backupCodes: text('backup_codes').notNull(),
    verified: integer('verified', { mode: 'boolean' }).default(true),
    failedVerificationCount: integer('failed_verification_count').default(0),
    lockedUntil: moment('locked_until'),
  },
  (t) => [index('two_factor_by_user').on(t.userId)],
);

export const member = sqliteTable(
  'member',
  {
    siteId: integer('site_id').notNull(),
    userId: text('user_id')
      .notNull()
      .references(() => user.id, { onDelete: 'cascade' }),
    role: text('role', { enum: ROLES }).notNull(),
    since: text('since').notNull(),
  },
  (t) => [primaryKey({ columns: [t.siteId, t.userId] }), index('member_by_user').on(t.userId)],
);

/** A one-time link: an invitation to a site (or the installation), or a password reset. */
export const pass = sqliteTable(
  'pass',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    digest: text('digest').notNull().unique(),
    kind: text('kind', { enum: ['invitation', 'recovery'] }).notNull(),
    email: text('email').notNull(),
    /** Null for the whole installation, and for a recovery. */
    siteId: integer('site_id'),
    role: text('role', { enum: ROLES }),
    madeBy: text('made_by'),
    /**
     * The account that made it, whose standing it depends on; null for whoever was alone with the
     * program.
     */
    makerId: text('maker_id'),
    /**
     * Of a recovery, the digest of the password that it replaces: with another password it opens
     * nothing.
     */
    credential: text('credential'),
    createdAt: text('created_at').notNull(),
    expiresAt: text('expires_at').notNull(),
    usedAt: text('used_at'),
    withdrawnAt: text('withdrawn_at'),
  },
  (t) => [index('pass_by_site').on(t.siteId)],
);

export const accessToken = sqliteTable(
  'access_token',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    siteId: integer('site_id').notNull(),
    name: text('name').notNull(),
    right: text('right', { enum: TOKEN_RIGHTS }).notNull(),
    digest: text('digest').notNull().unique(),
    /** Its first letters, by which people tell it from others. */
    begins: text('begins').notNull(),
    madeBy: text('made_by'),
    createdAt: text('created_at').notNull(),
    /** The last day on which it opens anything; null for as long as it is not ended. */
    lastDay: integer('last_day'),
    lastUsedAt: text('last_used_at'),
    endedAt: text('ended_at'),
  },
  (t) => [index('access_token_by_site').on(t.siteId)],
);

export const sharedLink = sqliteTable(
  'shared_link',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    siteId: integer('site_id').notNull(),
    of: text('of', { enum: SHARED }).notNull(),
    thingId: integer('thing_id').notNull(),
    /** What it leads to, as it was called when the link was made. */
    title: text('title').notNull(),
    digest: text('digest').notNull().unique(),
    password: text('password'),
    madeBy: text('made_by'),
    createdAt: text('created_at').notNull(),
    lastDay: integer('last_day').notNull(),
    lastOpenedAt: text('last_opened_at'),
    opened: integer('opened').notNull().default(0),
    withdrawnAt: text('withdrawn_at'),
  },
  (t) => [index('shared_link_by_site').on(t.siteId)],
);

/** Who did what: a line for each thing done, several of one kind after each other in one line. */
export const auditEntry = sqliteTable(
  'deed',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    /** Null for what is about no site. */
    siteId: integer('site_id'),
    at: text('at').notNull(),
    /** How often it was done in a row, the last time at `at`. */
    times: integer('times').notNull().default(1),
    actorKind: text('actor_kind', { enum: ['alone', 'person', 'token', 'nobody'] }).notNull(),
    actorId: text('actor_id'),
    actor: text('actor').notNull(),
    did: text('did').notNull(),
    /** What it was done to: its kind, its number, and what it was called then. */
    on: text('on'),
    thingId: integer('thing_id'),
    title: text('title'),
  },
  (t) => [
    index('deed_by_site').on(t.siteId, t.id),
    index('deed_by_thing').on(t.on, t.thingId),
    index('deed_by_actor').on(t.siteId, t.actorKind, t.actorId, t.at),
  ],
);
