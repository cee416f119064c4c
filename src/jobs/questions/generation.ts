import type { Principal } from '../../core/access/rights';
import { hasActed } from '../../store/access/auditEntries';
import type { Db } from '../../store/database';
import { FiguresSnapshot } from '../../store/figures/figuresSnapshot';
import { StaleDataError, type Learning } from '../../services/site/learning';
import { figuresStamp } from '../../store/figures/figuresStamp';

/**
 * Who asks, as far as it bears on what they have to see: somebody known by a kind and a number, or nobody. Null is who has to see
 * everything as it stands: one who is alone with the program.
 */
export type Who = { readonly kind: 'person' | 'token'; readonly id: string } | 'nobody' | null;

/** @example whoIs({ kind: 'nobody' }) // 'nobody' */
export function whoIs(asker: Principal): Who {
  if (asker.kind === 'alone') return null;
  return asker.kind === 'nobody' ? 'nobody' : { kind: asker.kind, id: String(asker.id) };
}

/** How a question is answered: where it is learned what is not known yet, and whether newer figures are being worked in. */
export type AnswerMode = { readonly learning: Learning; readonly behind: boolean };

/** Kinds of things of which the figures are made. */
const ABOUT_FIGURES = ['import', 'draft', 'feed', 'site'];
/** What brings figures in may have been done so long before they count. */
const LONGEST_INTAKE_MS = 60 * 60_000;
/** What is held for figures that are about to count is let go where none do. */
const LONGEST_HOLD_MS = 10_000;

/**
 * What one thread answers from: the figures of a site, and what it learned from them. Just before newer ones count it holds
 * those that it has, and the next generation is prepared in another thread. Who had nothing to do with it is answered by
 * this one until then; whoever brought them in has to see them.
 */
export class Generation {
  private pin: { readonly figures: FiguresSnapshot; readonly since: number } | null = null;
  private begun = new Date();
  /** Whoever is alone with the program sees everything as it stands, so that nothing is held until somebody else asks. */
  private alone = true;

  /** `outdated` is told when there are newer figures than those that are shown. */
  constructor(
    private readonly db: Db,
    private readonly siteId: number,
    private readonly outdated: () => void,
  ) {}

  /** Holds the figures as they are shown: others are about to count. */
  hold(): void {
    if (!this.alone) this.pin ??= { figures: new FiguresSnapshot(this.db), since: Date.now() };
  }

  /** How somebody's question is answered. Throws StaleDataError where they have to wait for the next generation. */
  mannerFor(who: Who): AnswerMode {
    if (who === null) {
      this.close();
      return { learning: 'here', behind: false };
    }
    this.alone = false;
    const behind = this.isBehind();
    if (behind) {
      this.outdated();
      if (this.acted(who, ABOUT_FIGURES)) throw new StaleDataError();
    }
    return { learning: this.acted(who, null) ? 'waited for' : 'elsewhere', behind };
  }

  /** Sees to it, while nobody asks, that what is shown does not stay behind, and that nothing is held for nothing. */
  idle(): void {
    if (this.isBehind()) this.outdated();
    else if (this.pin && Date.now() - this.pin.since > LONGEST_HOLD_MS) this.close();
  }

  /** Lets go of what it holds. */
  close(): void {
    if (!this.pin) return;
    this.pin.figures.close();
    this.pin = null;
    this.begun = new Date();
  }

  /** Whether other figures count by now than those that are shown. */
  private isBehind(): boolean {
    if (!this.pin) return false;
    return figuresStamp(this.db, this.siteId, this.db) !== figuresStamp(this.db, this.siteId);
  }

  private acted(who: Exclude<Who, null>, on: readonly string[] | null): boolean {
    if (who === 'nobody') return false;
    const since = new Date(this.begun.getTime() - (on === null ? 0 : LONGEST_INTAKE_MS));
    return hasActed(this.db, { siteId: this.siteId, ...who, since, on });
  }
}
