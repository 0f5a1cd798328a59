import { headOf } from '../../record/items.js';
import { acceptedAges, type AcceptedAt } from '../strength-limit.js';
import { schoolOf, type SchoolId } from '../schools.js';
import { strengthsOfSet, type StrengthOfSet } from '../strength-of-set.js';
import { COMPRESSIVE } from '../strength-test.js';
import { compositeOf } from './composite.js';
import type { DecisionId } from '../decisions.js';
import type { Found } from './finding.js';
import { factOf, isGone, type Line, type LineItem, type LineTest } from './line.js';

/** By whose rules the strength of a line is accepted. */
export const schoolOn = ({ specifications, project }: Pick<Line, 'specifications' | 'project'>): SchoolId =>
  specifications.find((s) => s.school !== undefined)?.school ?? schoolOf(project.practice);

/** What is accepted, and at which ages. */
export const acceptedOn = (line: Pick<Line, 'specifications'>): ReturnType<typeof acceptedAges> =>
  acceptedAges(line.specifications.flatMap((s) => s.limits));

/** By what a strength test is accepted: by its property and its age; undefined where it is by nothing. */
export const acceptedAt = (line: Line, { property, ageDays }: Pick<StrengthOfSet, 'property' | 'ageDays'>): AcceptedAt | undefined =>
  COMPRESSIVE.includes(property) ? acceptedOn(line).find((a) => a.ageDays === ageDays) : undefined;

/** Specimens of a set that are still whole. */
export const wholeOf = (line: Line, set: LineItem): readonly LineItem[] =>
  line.items.filter(
    (i) =>
      i.parentId === set.id &&
      i.kind === 'specimen' &&
      !i.voided &&
      factOf(i, 'became') === undefined &&
      !line.tests.some((t) => t.itemId === i.id && t.outcome !== null),
  );

/** What may be decided of a set’s strength test: nothing is tested again where nothing of it is whole. */
export function decidable(line: Line, set: LineItem, all: readonly DecisionId[]): Pick<Found, 'choices' | 'cannot'> {
  if (!all.includes('again') || wholeOf(line, set).length > 0) return { choices: all };
  return { choices: all.filter((c) => c !== 'again'), cannot: [{ decided: 'again', why: `No specimen of ${set.code} is left to test.` }] };
}

/** Whether a set was molded of a sample whose composite is void: nothing of it is a strength. */
const isOfVoid = (line: Line, set: LineItem): boolean => {
  const sample = line.items.find((i) => i.id === set.parentId && i.kind === 'sample');
  return sample !== undefined && compositeOf(sample, line.project.system).validity.state === 'void';
};

/** A test that gives no figure, whatever it gave before that was known. */
const voided = (test: LineTest): LineTest =>
  test.outcome === null
    ? test
    : {
        ...test,
        outcome: {
          ...test.outcome,
          validity: { state: 'void', reasons: [] },
          results: test.outcome.results.map((r) => ({ ...NO_FIGURE, id: r.id, label: r.label, symbol: r.symbol, unit: r.unit })),
        },
      };
const NO_FIGURE = { state: 'void', exact: null, unrounded: null, reported: null, increments: {} } as const;

const known = new WeakMap<Line, Map<string, readonly StrengthOfSet[]>>();

/** The strength tests of a set on a line; worked out once for each line. */
export function strengthsOn(line: Line, set: LineItem): readonly StrengthOfSet[] {
  let own = known.get(line);
  if (!own) known.set(line, (own = new Map<string, readonly StrengthOfSet[]>()));
  const found = own.get(set.id);
  if (found) return found;
  const head = headOf([...line.above, ...line.items.slice(0, 1)]);
  const made = isGone(line, set)
    ? []
    : strengthsOfSet(
        set,
        line.items.filter((i) => i.parentId === set.id && i.kind === 'specimen' && !i.voided),
        isOfVoid(line, set) ? line.tests.map(voided) : line.tests,
        { laboratory: head.kind === 'trial-batch', system: line.project.system, school: schoolOn(line) },
        line.decisions,
      );
  own.set(set.id, made);
  return made;
}
