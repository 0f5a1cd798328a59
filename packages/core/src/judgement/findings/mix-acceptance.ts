import { atAge } from '../../time/dues.js';
import { unitLabel, type UnitId } from '../../units/units.js';
import { deviationOf } from '../at-the-press.js';
import { bySchools, type School } from '../schools.js';
import { partOf } from '../strength-of-set.js';
import { always, finding, type Found } from './finding.js';
import type { Line, SeriesAt } from './line.js';
import { acceptedOn, schoolOn } from './strength.js';

const rulesWords = (school: School, unit: UnitId): string =>
  school.rules
    .filter((r) => r.least !== null && r.limit !== null)
    .map((r) => `${r.label} ${r.least!} ${unitLabel(unit)} (at least ${r.limit!})`)
    .join(', ');

function ofSeries(line: Line, mixId: string, s: SeriesAt): Found[] {
  const judging = { ...line, specifications: s.specifications };
  const accepted = acceptedOn(judging).find((a) => a.ageDays === s.ageDays);
  if (!accepted) return [];
  const id = schoolOn(judging);
  const { system } = line.project;
  const school = bySchools({
    tests: s.tests.map((strength) => ({ strength })),
    earlier: s.earlier,
    specified: accepted.specified,
    deviation: deviationOf(s.tests, id, system),
    system,
  }).find((one) => one.id === id)!;
  const unit: UnitId = system === 'us' ? 'psi' : 'MPa';
  const count = s.tests.length + s.earlier;
  const waits = s.waiting === 0 ? '' : s.waiting === 1 ? ' One more waits for a decision.' : ` ${s.waiting} more wait for a decision.`;
  const at = atAge(s.ageDays);
  const states =
    school.passes === null
      ? always('open', `${at}: ${count} of the ${school.needs} strength tests that ${school.title} needs.${waits}`)
      : school.passes
        ? always('fine', `${at}, accepted by ${school.title} by its newest tests: ${rulesWords(school, unit)}.${waits}`)
        : always('out', `${at}, not accepted by ${school.title} by its newest tests: ${rulesWords(school, unit)}.${waits}`, [
            'Raise the average strength of the mix, and look at what made it low.',
          ]);
  return [{ subjectId: mixId, part: partOf(s), states }];
}

export const mixAcceptanceFinding = finding({
  id: 'mix-acceptance',
  title: 'Acceptance of the mix',
  about: 'Whether the newest strength tests of a mix at an age at which it is accepted meet the school that decides.',
  reads: 'As many of the newest strength tests that count as the rules of the school read, and how many wait for a decision.',
  follows: [
    { designation: 'ACI 318', edition: '2019', part: 'acceptance of concrete' },
    { designation: 'EN 206', edition: '2013+A2:2021', part: 'conformity of compressive strength' },
    { designation: 'IS 456', edition: '2000', part: 'acceptance criteria' },
  ],
  find: (line) => (line.mix ? line.mix.series.flatMap((s) => ofSeries(line, line.mix!.id, s)) : []),
});
