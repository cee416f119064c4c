/*
 * What people and scripts may do with a site. A right stands for the things that are done with it; a role and the right of a
 * token are each a set of rights.
 */

/**
 * `read` sees; `log` adds to the ledger, the almanac and the figures; `edit` does all of the daily work; `own` decides who may do
 * what, what the program asks outside, and whether the site stays.
 */
export const RIGHTS = ['read', 'log', 'edit', 'own'] as const;
export type Right = (typeof RIGHTS)[number];

/** What may be asked that is about no site: by anybody, by whoever is known, by an owner of the whole installation. */
export const GENERAL_RIGHTS = ['anybody', 'known', 'administer'] as const;
export type GeneralRight = (typeof GENERAL_RIGHTS)[number];

export const ROLES = ['reader', 'editor', 'owner'] as const;
export type Role = (typeof ROLES)[number];

export const TOKEN_RIGHTS = ['read', 'log', 'all'] as const;
export type TokenRight = (typeof TOKEN_RIGHTS)[number];

const OF_ROLE: Readonly<Record<Role, readonly Right[]>> = {
  reader: ['read'],
  editor: ['read', 'log', 'edit'],
  owner: RIGHTS,
};

const OF_TOKEN: Readonly<Record<TokenRight, readonly Right[]>> = {
  read: ['read'],
  log: ['read', 'log'],
  all: RIGHTS,
};

/** Who asks, as the doorway found out. */
export type Principal =
  /** Nobody has an account, and the server answers on loopback alone: whoever sits there. */
  | { readonly kind: 'alone' }
  | {
      readonly kind: 'person';
      readonly id: string;
      readonly name: string;
      readonly email: string;
      /** Owns the whole installation: every site, those to come, and who has an account. */
      readonly administrator: boolean;
      readonly roles: ReadonlyMap<number, Role>;
      readonly sessionId: string;
    }
  | {
      readonly kind: 'token';
      readonly id: number;
      readonly name: string;
      readonly siteId: number;
      readonly right: TokenRight;
    }
  | { readonly kind: 'nobody' };

export const ALONE: Principal = { kind: 'alone' };
export const NOBODY: Principal = { kind: 'nobody' };

/** The role of somebody on a site; null for whoever has nothing to do with it. An administrator owns every site. */
export function roleOn(asker: Principal, siteId: number): Role | null {
  if (asker.kind === 'alone') return 'owner';
  if (asker.kind !== 'person') return null;
  return asker.administrator ? 'owner' : (asker.roles.get(siteId) ?? null);
}

/**
 * Whether somebody may do something with a site.
 * @example may({ kind: 'token', id: 1, name: 'release', siteId: 3, right: 'log' }, 'edit', 3) // false
 */
export function may(asker: Principal, right: Right, siteId: number): boolean {
  if (asker.kind === 'token') return asker.siteId === siteId && OF_TOKEN[asker.right].includes(right);
  const role = roleOn(asker, siteId);
  return role !== null && OF_ROLE[role].includes(right);
}

/** Whether somebody may ask what is about no site. */
export function mayInGeneral(asker: Principal, right: GeneralRight): boolean {
  if (right === 'anybody') return true;
  if (right === 'known') return asker.kind !== 'nobody';
  return asker.kind === 'alone' || (asker.kind === 'person' && asker.administrator);
}

/** Why somebody who may see a site may not do a thing with it. */
export function refusedBecause(asker: Principal, right: Right | GeneralRight): string {
  if (asker.kind === 'token') return `The token “${asker.name}” may ${TOKEN_MAY[asker.right]}, and not more.`;
  if (right === 'administer') return 'Only an owner of the whole installation may do this.';
  return right === 'own'
    ? 'Only an owner of this site may do this.'
    : 'You may read this site, and not change it. An owner can make you an editor.';
}

const TOKEN_MAY: Readonly<Record<TokenRight, string>> = {
  read: 'read',
  log: 'read and log',
  all: 'do all there is to do with its site',
};
