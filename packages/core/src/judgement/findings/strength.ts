import { headOf } from '../../record/items.js';
import { acceptedAges, type AcceptedAt } from '../strength-limit.js';
import { schoolOf, type SchoolId } from '../schools.js';
import { strengthsOfSet, type StrengthOfSet } from '../strength-of-set.js';
import { COMPRESSIVE } from '../strength-test.js';
import { isGone, type Line, type LineItem } from './line.js';

/** By whose rules the strength of a line is accepted. */
export const schoolOn = ({ specifications, project }: Pick<Line, 'specifications' | 'project'>): SchoolId =>
  specifications.find((s) => s.school !== undefined)?.school ?? schoolOf(project.practice);

/** What is accepted, and at which ages. */
export const acceptedOn = (line: Pick<Line, 'specifications'>): ReturnType<typeof acceptedAges> =>
  acceptedAges(line.specifications.flatMap((s) => s.limits));

/** By what a strength test is accepted: by its property and its age; undefined where it is by nothing. */
export const acceptedAt = (line: Line, { property, ageDays }: Pick<StrengthOfSet, 'property' | 'ageDays'>): AcceptedAt | undefined =>
  COMPRESSIVE.includes(property) ? acceptedOn(line).find((a) => a.ageDays === ageDays) : undefined;

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
        line.tests,
        { laboratory: head.kind === 'trial-batch', system: line.project.system, school: schoolOn(line) },
        line.decisions,
      );
  own.set(set.id, made);
  return made;
}
