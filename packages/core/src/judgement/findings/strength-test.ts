import type { Code } from '../../problems.js';
import { atAge } from '../../time/dues.js';
import { unitLabel } from '../../units/units.js';
import { remarkWords } from '../causes.js';
import { judgeMean } from '../strength-limit.js';
import { partOf, STRENGTH_FINDING, type StrengthOfSet } from '../strength-of-set.js';
import { NOT_COUNTING, waitsForDecision } from '../strength-test.js';
import { always, finding, type Found, type FindingGrade, type FoundBefore } from './finding.js';
import { itemsOf, type Line, type LineItem } from './line.js';
import { acceptedAt, decidable, strengthsOn } from './strength.js';
import { againstTheTest, notKnown } from './strength-evidence.js';

/** `one companion`, `3 companions`. */
const companionWords = (n: number): string => (n === 1 ? 'one companion' : `${n} companions`);

function gradeOf({ test, planned }: StrengthOfSet, accepted: boolean, misses: boolean): FindingGrade {
  if (test.reported === null || test.not === 'void') return 'void';
  if (waitsForDecision(test.not)) return accepted ? 'asks' : 'watch';
  if (misses) return 'out';
  if (test.count < planned) return 'open';
  return !accepted || test.not === null || test.not === 'field' || test.not === 'trial' ? 'fine' : 'watch';
}

/** Why it does not count, or waits, in words; empty where it counts, or at its age nothing is accepted. */
function standsWords({ test, planned }: StrengthOfSet, accepted: boolean, strayed: string): string {
  if (waitsForDecision(test.not)) return accepted ? ` It waits for a decision: ${strayed}.` : ` With a remark: ${strayed}.`;
  if (!accepted || test.not === null || test.reported === null || (test.not === 'few' && test.count < planned)) return '';
  return ` Not for acceptance: ${NOT_COUNTING[test.not]}.`;
}

function ofStrength(line: Line, set: LineItem, s: StrengthOfSet, before: FoundBefore): Found {
  const { test } = s;
  const accepted = acceptedAt(line, s) !== undefined;
  const misses =
    test.mean === null || test.reported === null || test.count < s.planned
      ? []
      : judgeMean(
          { property: s.property, ageDays: s.ageDays, mean: test.mean, reported: test.reported, unit: test.unit },
          line.specifications,
        ).filter((m) => !m.inside);
  const mean =
    test.reported === null
      ? 'no strength: every specimen of it is void.'
      : `${test.reported} ${unitLabel(test.unit)}, the mean of ${test.count} of ${companionWords(s.planned)}.`;
  const remarks = [...new Set(s.specimens.flatMap((b) => (b.left === null ? b.remarks : [])))].map((code) => remarkWords(code as Code));
  const strayed = [...remarks, ...(test.apart ? [`companions ${test.range ?? ''} % apart`] : [])].join('; ').toLowerCase();
  const grade = gradeOf(s, accepted, misses.length > 0);
  const next = grade === 'asks' ? ['Ask the engineer whether it counts, and put the answer on record.'] : [];
  return {
    subjectId: set.id,
    part: partOf(s),
    states: always(
      grade,
      `${atAge(s.ageDays)}: ${mean}${misses.map((m) => ` It must be ${m.says}.`).join('')}${standsWords(s, accepted, strayed)}`,
      next,
    ),
    // Whoever decides sees what speaks against it, and what nobody knows.
    evidence: grade === 'asks' ? [...againstTheTest(line, set, s, before), ...notKnown(line, set, s)] : [],
    stoodOn: s.specimens.map((b) => b.testId),
    acceptance: test.not === null ? 'counts' : waitsForDecision(test.not) ? 'waits' : 'excluded',
    ...(accepted && (waitsForDecision(test.not) || test.not === 'decided' || (test.not === null && strayed !== ''))
      ? decidable(line, set, ['counts', 'counts-not', 'cores', 'again'])
      : {}),
  };
}

export const strengthTestFinding = finding({
  id: STRENGTH_FINDING,
  title: 'Strength test',
  about: 'The mean of the companions of a set at an age: whether it counts for acceptance, waits for a decision, or is left out, and why.',
  reads: 'The specimens that were broken with their remarks, the set, limits at other ages, and what was decided.',
  follows: [{ designation: 'ACI 318', edition: '2019', part: 'acceptance of concrete' }],
  find: (line, before) =>
    itemsOf(line, 'specimen-set').flatMap((set) => strengthsOn(line, set).map((s) => ofStrength(line, set, s, before))),
});
