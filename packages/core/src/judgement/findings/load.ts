import { limitWords, strictestOf, type Limit } from '../../limits/verdict.js';
import type { AnyMethod, ResultField } from '../../methods/definition.js';
import type { Keyed } from '../../units/reading.js';
import { isGone, type Line, type LineItem, type LineTest, type Outcome } from './line.js';
import type { Verdict } from '../../limits/verdict.js';

/** The load at the head of a line, where there is one that was not taken back; loads that lie in a pour are judged on their own lines. */
export const loadsOf = (line: Line): readonly LineItem[] => line.items.slice(0, 1).filter((i) => i.kind === 'load' && !isGone(line, i));

/** Limits of a property in every specification that the concrete must meet. */
export const limitsOn = (line: Pick<Line, 'specifications'>, property: string): readonly Limit[] =>
  line.specifications.flatMap((s) => s.limits.filter((l) => l.property === property));

/** The strictest upper end that a specification gives, as it is written; null where none does. */
export function strictestUpper(line: Pick<Line, 'specifications'>, property: string): Keyed | null {
  const limits = limitsOn(line, property);
  const unit = limits[0]?.unit;
  const { upper } = unit === undefined ? {} : strictestOf(limits, unit);
  return upper === undefined ? null : { text: upper, unit: unit! };
}

/** `at most 90 min`: limits of a property in words. */
export const limitsWords = (line: Pick<Line, 'specifications'>, property: string): string =>
  [...new Set(limitsOn(line, property).map((l) => limitWords(l)))].join(' and ');

/** A result of a property that counts, and the verdict that needs attention first. */
export interface FoundResult {
  readonly test: LineTest;
  readonly result: Outcome['results'][number];
  readonly verdict: Verdict | null;
}

const resultOf = (m: AnyMethod, property: string): string | undefined =>
  Object.entries(m.results as Readonly<Record<string, ResultField>>).find(([, f]) => f.property === property)?.[0];

/** The newest given result of a property, among some tests in the order in which they were made. */
export function newestOf(tests: readonly LineTest[], property: string): FoundResult | null {
  for (const test of [...tests].reverse()) {
    const id = resultOf(test.method, property);
    const result = test.outcome?.results.find((r) => r.id === id && r.state === 'given');
    if (!result) continue;
    const verdicts = test.judged.flatMap((j) => j.verdicts.filter((v) => v.result === id));
    return { test, result, verdict: verdicts.find((v) => v.state === 'out') ?? verdicts[0] ?? null };
  }
  return null;
}
