import { exact, fixedUp } from '../../numbers/exact.js';
import { atAge } from '../../time/dues.js';
import { convert, unitLabel } from '../../units/units.js';
import { adviseAtPress } from '../at-the-press.js';
import { SCHOOLS } from '../schools.js';
import { partOf, type StrengthOfSet } from '../strength-of-set.js';
import { waitsForDecision } from '../strength-test.js';
import { always, finding, type Found, type FoundBefore } from './finding.js';
import { NOTHING_AGAINST } from './evidence.js';
import { factOf, itemsOf, type Line, type LineItem } from './line.js';
import { acceptedAt, decidable, schoolOn, strengthsOn, wholeOf } from './strength.js';
import { againstTheTest, notKnown, ofTheConcrete } from './strength-evidence.js';

/** Who is told of a low strength test; nothing is sent by the program. */
export const TOLD_OF_LOW = ['The engineer', 'The concrete plant', 'Whoever placed the concrete'] as const;

/** How low a strength test is, by the school that decides; null where it is not, is not whole yet, or nothing is asked at its age. */
function lowWords(line: Line, set: LineItem, s: StrengthOfSet): string | null {
  const accepted = acceptedAt(line, s);
  if (!accepted || s.test.reported === null || s.test.count < s.planned || !(s.test.not === null || waitsForDecision(s.test.not)))
    return null;
  const { before, earlier } = line.series?.[`${set.id} ${partOf(s)}`] ?? { before: [], earlier: 0 };
  const school = schoolOn(line);
  const { below, floor } = adviseAtPress({
    system: line.project.system,
    specified: accepted.specified,
    school,
    before,
    earlier,
    companions: [],
    planned: s.planned,
    mean: s.test.reported,
    pairs: [],
    early: null,
  });
  const unit = unitLabel(s.test.unit);
  const about = `${atAge(s.ageDays)}: ${s.test.reported} ${unit}`;
  if (below === 'floor') return `${about}, below the least that a single test may be, ${floor ?? ''} ${unit}.`;
  const specified = fixedUp(convert(exact(accepted.specified.text), accepted.specified.unit, s.test.unit), s.test.unit === 'psi' ? 0 : 1);
  return below === 'run' ? `${about}: ${SCHOOLS[school].short}, with ${specified} ${unit} specified.` : null;
}

function ofStrength(line: Line, set: LineItem, s: StrengthOfSet, before: FoundBefore): Found[] {
  const says = lowWords(line, set, s);
  if (says === null) return [];
  const [test, unknown] = [againstTheTest(line, set, s, before), notKnown(line, set, s)];
  const spares = wholeOf(line, set).filter((i) => factOf(i, 'age') === undefined);
  return [
    {
      subjectId: set.id,
      part: partOf(s),
      states: always('out', says, [
        `Tell ${TOLD_OF_LOW.map((who) => who.replace(/^[A-Z]/, (c) => c.toLowerCase()))
          .join(', ')
          .replace(/, ([^,]*)$/, ' and $1')}.`,
        spares.length > 0
          ? `Break the spare now or later, as the engineer says: ${spares.map((i) => i.code).join(', ')}.`
          : 'There is no spare.',
        'Look up slump, air, density and water of this load, and where in the work it went.',
        'Where the engineer orders it: three cores from there. Their mean must reach 0.85 f’c, and none may be below 0.75 f’c.',
        'Load nothing on that part of the work, and strip nothing from it, before the engineer has spoken.',
      ]),
      evidence: [...(test.length + unknown.length === 0 ? [NOTHING_AGAINST] : test), ...ofTheConcrete(line, set, before), ...unknown],
      stoodOn: s.specimens.map((b) => b.testId),
      ...decidable(line, set, ['cores', 'again', 'accepted']),
    },
  ];
}

export const lowStrengthFinding = finding({
  id: 'low-strength',
  title: 'Low strength',
  about:
    'A strength test that the school which decides calls low: whom to tell, what speaks against the test, what of the concrete, and what is not known. Nothing is sent.',
  reads: 'The strength tests of the set, all that is found of the set, its sample and its load, and the strengths of the mix before it.',
  follows: [{ designation: 'ACI 318', edition: '2019', part: 'investigation of low strength-test results' }],
  find: (line, before) =>
    itemsOf(line, 'specimen-set').flatMap((set) => strengthsOn(line, set).flatMap((s) => ofStrength(line, set, s, before))),
});
