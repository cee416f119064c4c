import type { ChangeSpans } from '../../core/calendar/span';
import type { EffectEngine } from '../../core/effect/engine';
import type { Change } from '../../core/model/change';
import type { Reading } from '../../core/reading/readingModel';

/** A change that is to be read, over its spans. */
export type Wanted = { readonly change: Change; readonly spans: ChangeSpans };

/** A reading that is made if it does not stand already, and the changes that it depends on. */
type Recipe = { readonly dependsOn: readonly Change[]; readonly make: () => Reading };

/**
 * The last readings of a list. On a site with many changes, logging or editing one leaves those of
 * other pages valid.
 */
export class ReadingsKept {
  private engine: EffectEngine | null = null;
  private known = '';
  private byChange: ReadonlyMap<number, { readonly key: string; readonly reading: Reading }> = new Map();
  private last: readonly Reading[] = [];

  /**
   * Readings of changes; the same list as last time if nothing changed. `known` is what each
   * depends on, besides the engine and the changes in its recipe.
   */
  list(
    engine: EffectEngine | null,
    known: string,
    wanted: readonly Wanted[],
    recipe: (wanted: Wanted) => Recipe,
  ): readonly Reading[] {
    const before = this.engine === engine && this.known === known ? this.byChange : new Map<number, never>();
    const byChange = new Map(
      wanted.map((one) => {
        const { dependsOn, make } = recipe(one);
        const key = JSON.stringify(one.spans) + dependsOn.map(textOf).join('\n');
        const kept = before.get(one.change.id);
        return [one.change.id, kept?.key === key ? kept : { key, reading: make() }];
      }),
    );
    Object.assign(this, { engine, known, byChange });
    const readings = Array.from(byChange.values(), ({ reading }) => reading);
    const same = readings.length === this.last.length && readings.every((one, at) => one === this.last[at]);
    return (this.last = same ? this.last : readings);
  }
}

const texts = new WeakMap<Change, string>();

/** All that is known of a change, as text; made once of each object. */
function textOf(change: Change): string {
  const text = texts.get(change) ?? JSON.stringify(change);
  texts.set(change, text);
  return text;
}
