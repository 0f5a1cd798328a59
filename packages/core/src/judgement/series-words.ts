import { unitLabel } from '../units/units.js';
import type { FindingGrade } from './findings/finding.js';
import type { ShiftCause } from './causes.js';
import type { SeriesView } from './strength-series.js';
import { NOT_COUNTING, type NotCounting } from './strength-test.js';

/* What a series of strength tests says, in words. Whether it passes is what was found of its mix; nothing of it is judged here. */

/** How far a series moved, with its sign’s word: `2.9 MPa lower`; empty where it did not. */
export function movedWords({ shift, unit }: Pick<SeriesView, 'shift' | 'unit'>): string {
  if (!shift) return '';
  const by = Number(shift.after) - Number(shift.before);
  return `${Math.abs(by).toFixed(unit === 'psi' ? 0 : 1)} ${unitLabel(unit)} ${by < 0 ? 'lower' : 'higher'}`;
}

/** What a series is of, as its headline needs it. */
export interface SeriesHead {
  readonly name: string;
  /** Whether anything is specified to judge it by. */
  readonly specified: boolean;
  /** Of the acceptance that was found; null where none was. */
  readonly grade: FindingGrade | null;
  /** The day from which it moved, in words. */
  readonly since: string;
}

/** What the series says in one sentence: whether it passes, and since when it is another. */
export function seriesHeadline({ name, specified, grade, since }: SeriesHead, view: SeriesView): string {
  if (view.count === 0) return `${name} has no strength test yet`;
  const says = !specified
    ? `${name} has ${view.count === 1 ? 'one test' : `${view.count} tests`}, and no specified strength to judge ${view.count === 1 ? 'it' : 'them'} by`
    : grade === null || grade === 'open'
      ? `${name} has too few tests to be judged`
      : grade === 'fine'
        ? `${name} passes`
        : `${name} does not pass`;
  return view.shift ? `${says}, ${grade === 'out' ? 'and' : 'but'} it is ${movedWords(view)} since ${since}` : says;
}

/** `In 5 of 5 tests after, in none of 22 before. About 2.4 MPa of it.` */
export function shiftCauseWords(c: ShiftCause, { unit }: Pick<SeriesView, 'unit'>): string {
  const before = c.before === 0 ? `in none of ${c.ofBefore}` : `in ${c.before} of ${c.ofBefore}`;
  const about = Math.abs(c.explains);
  const share = about >= (unit === 'psi' ? 15 : 0.1) ? ` About ${about.toFixed(unit === 'psi' ? 0 : 1)} ${unitLabel(unit)} of it.` : '';
  return `In ${c.after} of ${c.ofAfter} tests after, ${before} before.${share}`;
}

/** Why some tests of the mix are not in the series; empty where all are. */
export function leftOutWords(tests: readonly { readonly notFor: NotCounting | null }[]): string {
  const not = tests.flatMap((t) => t.notFor ?? []);
  if (not.length === 0) return '';
  return `${not.length} ${not.length === 1 ? 'test is' : 'tests are'} not in it: ${[...new Set(not.map((why) => NOT_COUNTING[why]))].join('; ')}.`;
}
