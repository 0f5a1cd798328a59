import { earlyWarning } from '../methods/early-warning/early-warning.js';
import { evaluate } from '../methods/evaluate.js';
import { exact } from '../numbers/exact.js';
import { convert, type System } from '../units/units.js';
import type { Keyed } from '../units/reading.js';

/** An early strength and the late one of the same concrete. */
export interface EarlyLate {
  readonly early: Keyed;
  readonly late: Keyed;
}

/** What a late strength will be, from an early one and the mix's own pairs: with its interval, and the chance that it falls below, %. */
export interface Foretold {
  readonly text: string;
  readonly low: string;
  readonly high: string;
  readonly chance: string | null;
}

/** Null while there are too few pairs. */
export function foretell(pairs: readonly EarlyLate[], early: Keyed, specified: Keyed | null, system: System): Foretold | null {
  const e = evaluate(earlyWarning, { pairs, now: early, specified }, { variant: 'pairs', system, offers: false });
  const of = (id: string): string | null => e.results.find((r) => r.id === id && r.state === 'given')?.reported ?? null;
  const [text, low, high] = [of('expected'), of('low'), of('high')];
  return text === null || low === null || high === null ? null : { text, low, high, chance: of('chance') };
}

/** How often the late strength came within what was foretold of it from the pairs before: of those that could be foretold. */
export function foretoldSoFar(pairs: readonly EarlyLate[], system: System): { readonly inside: number; readonly of: number } {
  let [inside, of] = [0, 0];
  for (const [i, { early, late }] of pairs.entries()) {
    const told = foretell(pairs.slice(0, i), early, null, system);
    if (!told) continue;
    of++;
    const found = convert(exact(late.text), late.unit, system === 'us' ? 'psi' : 'MPa');
    if (found.compare(exact(told.low)) >= 0 && found.compare(exact(told.high)) <= 0) inside++;
  }
  return { inside, of };
}
