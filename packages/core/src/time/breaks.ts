import type { Mold } from '../methods/consolidation/molds.js';
import { lettersOf } from '../record/items.js';
import { ageWords, breakWindow } from './dues.js';
import { fitInto, type Fit } from './fit.js';
import type { Interval } from './plan.js';

const DAY = 86_400_000;
/** Where no window is in print a quarter of a day off is the age still. */
const QUARTER = DAY / 4;
/** So many days later at the most another age is offered. */
const FURTHER = 4;

/** So many of a set are broken at an age; without an age they are kept. */
export interface PlanLine {
  readonly count: number;
  readonly age: number | null;
}

/** When the specimens of one age are broken, and whether somebody is there. */
export interface AgeWindow {
  readonly age: number;
  readonly letters: readonly string[];
  readonly words: string;
  readonly opens: number;
  readonly ends: number;
  readonly fit: Fit;
  /** The next age at which somebody is there, where its own window cannot be met. */
  readonly instead: { readonly age: number; readonly at: number } | null;
}

const windowAt = (made: number, age: number): Interval & { readonly due: number } => {
  const { opensAt, endsAt } = breakWindow(made, age);
  return { from: opensAt, to: endsAt ?? opensAt + DAY, due: made + age * DAY };
};

/** What is usual where nobody plans otherwise: a pair at 7 days, a strength test at 28, and one to keep. */
export const usualPlan = ({ companions }: Pick<Mold, 'companions'>): PlanLine[] => [
  { count: 2, age: 7 },
  { count: companions, age: 28 },
  { count: 1, age: null },
];

/** The specimens of a set, each with its age: the youngest first, spares last. */
export const specimensOf = (plan: readonly PlanLine[]): (number | null)[] =>
  [...plan].sort((a, b) => (a.age ?? Infinity) - (b.age ?? Infinity)).flatMap(({ count, age }) => Array.from({ length: count }, () => age));

export function breaksOf(ages: readonly (number | null)[], made: number, openings: readonly Interval[]): AgeWindow[] {
  const all = [...new Set(ages.filter((a) => a !== null))];
  return all.map((age) => {
    const { from, to, due } = windowAt(made, age);
    const own = fitInto({ from, to }, due, openings);
    return {
      age,
      letters: ages.flatMap((a, i) => (a === age ? [lettersOf(i + 1)] : [])),
      words: ageWords(age),
      opens: from,
      ends: to,
      fit: own,
      instead: own.best === null ? insteadOf(made, age, openings) : null,
    };
  });
}

/** What another age is worth. */
export const INSTEAD_WORDS = 'not for acceptance unless the engineer agrees';

/** The next whole day of age whose own moment lies in opening hours. */
function insteadOf(made: number, age: number, openings: readonly Interval[]): AgeWindow['instead'] {
  for (let later = Math.floor(age) + 1; later <= age + FURTHER; later++) {
    const due = made + later * DAY;
    const { best } = fitInto({ from: due - QUARTER, to: due + QUARTER }, due, openings);
    if (best !== null) return { age: later, at: best };
  }
  return null;
}
