import { momentOf, spanWords } from '../../time/moment.js';
import type { AnyInputs } from '../definition.js';
import type { Remark } from '../running.js';
import { regimeOf, SCHEDULES } from './schedule.js';

const HOUR_MS = 3_600_000;

/** What is known of a set of prisms, as its facts say it. */
export interface PrismFacts {
  readonly castAt?: string | undefined;
  readonly regime?: string | undefined;
  readonly demolded?: string | undefined;
  readonly initialAt?: string | undefined;
}

/**
 * When the set was read for the first time, ms: as its facts say, else the first of its readings if that lies nearer to the initial
 * reading of its regime than to the one after it; null where nobody knows.
 * @param read when tests of its length were started, ms
 */
export function initialReadingAt(facts: PrismFacts, read: readonly number[]): number | null {
  const [said, cast] = [momentOf(facts.initialAt), momentOf(facts.castAt)];
  if (said !== null || cast === null || read.length === 0) return said;
  const [initial, next] = SCHEDULES[regimeOf(facts as AnyInputs)].readings.slice(1).map((d) => cast + d.hours * HOUR_MS) as [
    number,
    number,
  ];
  const first = Math.min(...read);
  return first - initial < next - first ? first : null;
}

/**
 * What speaks against a set by the hours of its demolding and of its initial reading: the first is a remark, by the second it is void.
 * @param read when tests of its length were started, ms
 */
export function prismRemarks(facts: PrismFacts, read: readonly number[]): { readonly marks: Remark[]; readonly voids: Remark[] } {
  const cast = momentOf(facts.castAt);
  const [demold, initial] = SCHEDULES[regimeOf(facts as AnyInputs)].readings as [(typeof SCHEDULES)['air']['readings'][number], never];
  const off = (at: number | null, code: Remark['code'], { hours, within = 0 }: typeof demold): Remark[] =>
    cast === null || at === null || Math.abs(at - cast - hours * HOUR_MS) <= within * HOUR_MS
      ? []
      : [{ code, params: { took: spanWords(at - cast), belongs: `${hours} h ± ${spanWords(within * HOUR_MS)}` } }];
  return {
    marks: off(momentOf(facts.demolded), 'prisms-demolded-off', demold),
    voids: off(initialReadingAt(facts, read), 'initial-reading-off', initial),
  };
}
