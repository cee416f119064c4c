import { AsyncLocalStorage } from 'node:async_hooks';
import { tokenLabel } from '../core/access/names';
import type { Principal } from '../core/access/rights';

/*
 * The audit context: who is doing what, set once by the doorway and known to every write, so that
 * none can forget it. The program’s own work has none.
 */

/** A thing that something is done to: its kind, its number, and what people call it. */
export type Thing = { readonly on: string; readonly id: number | null; readonly title: string | null };

/** Something that is being done. */
export type AuditContext = {
  readonly asker: Principal;
  /** In the past tense, to follow a name: “edited a change”. Null for reads. */
  readonly auditAction: string | null;
  readonly siteId: number | null;
  thing: Thing | null;
  /** Whether it stands among the deeds already. */
  noted: boolean;
};

// The application and the server around it are bundles of their own in one process.
const shared = globalThis as { __tallyDoing?: AsyncLocalStorage<AuditContext> };
const doing = (shared.__tallyDoing ??= new AsyncLocalStorage<AuditContext>());

/** Runs work of which every write is noted as done by somebody. */
export function withAuditContext<T>(what: Omit<AuditContext, 'noted'>, work: () => T): T {
  return doing.run({ ...what, noted: false }, work);
}

/** What is being done; null where the program does it of its own accord. */
export function auditContext(): AuditContext | null {
  return doing.getStore() ?? null;
}

/**
 * Sets the thing an action is about, if it is being made and the doorway couldn’t know it. Returns
 * its id.
 */
export function setAuditTarget(on: string, id: number, title: string): number {
  const now = doing.getStore();
  // What several things came of is about the first of them.
  if (now && !now.noted && now.thing?.on !== on) now.thing = { on, id, title };
  return id;
}

/** The actor’s name, for histories; null for the program, and for whoever is alone with it. */
export function actorNow(): string | null {
  const now = auditContext();
  return now && nameOf(now.asker);
}

/** The acting person or token as histories store it: name, and account id for people. */
export function actingNow(): { readonly actor: string | null; readonly actorId: string | null } {
  const asker = auditContext()?.asker;
  return { actor: actorNow(), actorId: asker?.kind === 'person' ? asker.id : null };
}

/** What somebody is called where it is said who did what. */
export function nameOf(asker: Principal): string | null {
  if (asker.kind === 'person') return asker.name;
  return asker.kind === 'token' ? tokenLabel(asker.name) : null;
}
