import { convert, unitLabel } from '../../units/units.js';
import { exact, fixedUp } from '../../numbers/exact.js';
import { say, type Code } from '../../problems.js';
import { ageWords } from '../../time/dues.js';
import { remarkWords } from '../causes.js';
import { adviseAtPress } from '../at-the-press.js';
import { COMPRESSIVE, NOT_COUNTING, waitsForDecision } from '../strength-test.js';
import { judgeMean } from '../strength-limit.js';
import { partOf, STRENGTH_FINDING, type StrengthOfSet } from '../strength-of-set.js';
import { SCHOOLS } from '../schools.js';
import { finding, type Evidence, type Found, type FindingGrade, type FoundBefore } from './finding.js';
import { factOf, itemsOf, type Line, type LineItem } from './line.js';
import { acceptedOn, schoolOn, strengthsOn } from './strength.js';

/** Plain: `3 companions`, `one companion`. */
const many = (n: number, one: string): string => (n === 1 ? `one ${one}` : `${n} ${one}s`);

/** Whether concrete is accepted by it: by its age and its property. Where nobody says at which, it is at none. */
const isAccepted = (line: Line, s: StrengthOfSet): boolean =>
  COMPRESSIVE.includes(s.property) && acceptedOn(line).some((a) => a.ageDays === s.ageDays);

/** How low a strength test is where it counts, by the school that decides; null where it is not, or nothing is asked. */
export function lowness(line: Line, set: LineItem, s: StrengthOfSet) {
  const accepted = COMPRESSIVE.includes(s.property) ? acceptedOn(line).find((a) => a.ageDays === s.ageDays) : undefined;
  if (!accepted || s.test.reported === null || s.test.count < s.planned) return null;
  const before = line.series?.[`${set.id} ${partOf(s)}`] ?? { before: [], earlier: 0 };
  const school = schoolOn(line);
  const advice = adviseAtPress({
    system: line.project.system,
    specified: accepted.specified,
    school,
    before: before.before,
    earlier: before.earlier,
    companions: [],
    planned: s.planned,
    mean: s.test.reported,
    pairs: [],
    early: null,
  });
  const unit = unitLabel(s.test.unit);
  const specified = fixedUp(convert(exact(accepted.specified.text), accepted.specified.unit, s.test.unit), s.test.unit === 'psi' ? 0 : 1);
  if (advice.below === 'floor')
    return { below: 'floor' as const, says: `below the least that a single test may be, ${advice.floor ?? ''} ${unit}` };
  if (advice.below === 'run') return { below: 'run' as const, says: `${SCHOOLS[school].short}, with ${specified} ${unit} specified` };
  return null;
}

/** What speaks against a strength test, what of the concrete, and what is not known: a list each, for whoever has to decide. */
function evidenceOn(line: Line, set: LineItem, s: StrengthOfSet, before: FoundBefore): Evidence[] {
  const specimens = new Set(s.specimens.map((b) => b.id));
  const tests = line.tests.filter((t) => specimens.has(t.itemId) && t.outcome !== null);
  const remarks = new Map<string, string>();
  for (const t of tests)
    for (const { code, params } of t.outcome!.validity.reasons)
      if (!FROM_ELSEWHERE.has(code)) remarks.set(`${code} ${say(code, params)}`, say(code, params));
  const sample = line.items.find((i) => i.id === set.parentId && i.kind === 'sample');
  const load = line.items.find((i) => i.id === sample?.parentId && i.kind === 'load');
  const told = (finding: string, id: string | undefined, about: Evidence['about']): Evidence[] =>
    (id === undefined ? [] : before(finding, id))
      .map((f) => f.states.at(-1)!)
      .filter((state) => state.grade !== 'fine')
      .map(({ says }) => ({ about, says }));
  const ofTest: Evidence[] = [
    ...[...remarks.values()].map((says): Evidence => ({ about: 'test', says })),
    ...(s.test.apart
      ? [
          {
            about: 'test',
            says: `The companions are ${s.test.range ?? ''} % of their mean apart; at most ${s.test.most ?? ''} %.`,
          } as const,
        ]
      : []),
    ...(s.specimens.some((b) => b.fracture === '5' || b.fracture === '6')
      ? [{ about: 'test', says: 'The sides came off at an end: look at caps and alignment.' } as const]
      : []),
    ...told('curing', set.id, 'test'),
    ...told('tank', set.id, 'test'),
    ...told('no-gain', set.id, 'test'),
    ...told('composite', sample?.id, 'test'),
    ...s.specimens.flatMap((b) => told('other-specimen', b.id, 'test')),
  ];
  const ofConcrete = [
    ...told('load-wcm', load?.id, 'concrete'),
    ...told('time-in-truck', load?.id, 'concrete'),
    ...told('water-on-site', load?.id, 'concrete'),
    ...told('pair', sample?.id, 'concrete'),
  ];
  const rated = tests.every((t) => t.outcome!.results.some((r) => r.id === 'rate' && r.state === 'given'));
  const unknown = [
    ...(tests.some((t) => !t.kit.some((k) => k.kind === 'machine')) ? ['With which machine it was broken.'] : []),
    ...(rated ? [] : ['At which rate it was loaded.']),
    ...(s.specimens.some((b) => b.fracture === null) ? ['How it broke.'] : []),
    ...(factOf(set, 'shape') !== 'core' && (factOf(set, 'low') === undefined || factOf(set, 'high') === undefined)
      ? ['How cold and how warm it was beside the set in its first two days.']
      : []),
    ...(factOf(set, 'shape') !== 'core' && factOf(set, 'tank') === undefined ? ['In which tank or moist room it lay.'] : []),
  ].map((says): Evidence => ({ about: 'unknown', says }));
  return [...ofTest, ...ofConcrete, ...unknown];
}

/** Said by the finding that they come from. */
const FROM_ELSEWHERE: ReadonlySet<Code> = new Set<Code>([
  'initial-cure-cold',
  'initial-cure-warm',
  'initial-cure-long',
  'moved-early',
  'ride-long',
  'final-cure-late',
  'mold-too-small',
  'sample-void',
  'other-size',
  'other-shape',
]);

function gradeOf(s: StrengthOfSet, accepted: boolean, low: boolean, misses: boolean): FindingGrade {
  if (s.test.reported === null || s.test.not === 'void') return 'void';
  if (waitsForDecision(s.test.not)) return accepted ? 'asks' : 'watch';
  if (low || misses) return 'out';
  if (s.test.count < s.planned) return 'open';
  return !accepted || s.test.not === null || s.test.not === 'field' || s.test.not === 'trial' ? 'fine' : 'watch';
}

function ofStrength(line: Line, set: LineItem, s: StrengthOfSet, before: FoundBefore): Found {
  const { test } = s;
  const unit = unitLabel(test.unit);
  const low = test.not === null || waitsForDecision(test.not) ? lowness(line, set, s) : null;
  const meets =
    test.mean === null || test.reported === null || test.count < s.planned
      ? []
      : judgeMean(
          { property: s.property, ageDays: s.ageDays, mean: test.mean, reported: test.reported, unit: test.unit },
          line.specifications,
        );
  const misses = meets.filter((m) => !m.inside);
  const about = `${ageWords(s.ageDays)}: `;
  const mean =
    test.reported === null
      ? 'no strength: every specimen of it is void.'
      : `${test.reported} ${unit}, the mean of ${test.count} of ${many(s.planned, 'companion')}.`;
  const remarks = [...new Set(s.specimens.flatMap((b) => (b.left === null ? b.remarks : [])))].map((code) => remarkWords(code as Code));
  const accepted = isAccepted(line, s);
  const strayed = [...remarks, ...(test.apart ? [`companions ${test.range ?? ''} % apart`] : [])].join('; ').toLowerCase();
  const why = waitsForDecision(test.not)
    ? accepted
      ? ` It waits for a decision: ${strayed}.`
      : ` With a remark: ${strayed}.`
    : !accepted || test.not === null || test.reported === null || (test.not === 'few' && test.count < s.planned)
      ? ''
      : ` Not for acceptance: ${NOT_COUNTING[test.not]}.`;
  const lowWords = low ? ` It is low: ${low.says}.` : '';
  const missed = misses.map((m) => ` ${m.says} is asked.`).join('');
  const grade = gradeOf(s, accepted, low !== null, misses.length > 0);
  return {
    subjectId: set.id,
    part: partOf(s),
    states: [
      {
        from: null,
        grade,
        says: `${about}${mean}${lowWords}${missed}${why}`,
        next:
          grade === 'asks'
            ? ['Ask the engineer whether it counts, and put the answer on record.']
            : low
              ? ['Tell the engineer, the concrete plant and whoever placed the concrete.']
              : [],
      },
    ],
    evidence: low || grade === 'asks' ? evidenceOn(line, set, s, before) : [],
    stoodOn: s.specimens.map((b) => b.testId),
    acceptance: test.not === null ? 'counts' : waitsForDecision(test.not) ? 'waits' : 'excluded',
    ...(!accepted
      ? {}
      : waitsForDecision(test.not) || test.not === 'decided' || (test.not === null && strayed !== '')
        ? { choices: ['counts', 'counts-not', 'cores', 'again'] as const }
        : low
          ? { choices: ['cores', 'again'] as const }
          : {}),
  };
}

export const strengthTestFinding = finding({
  id: STRENGTH_FINDING,
  title: 'Strength test',
  about:
    'The mean of the companions of a set at an age: whether it counts for acceptance, waits for a decision, or is low by the school that decides; with what speaks against the test, what of the concrete, and what is not known.',
  reads:
    'The specimens that were broken with their remarks, the set, its sample and load, what was decided, and the tests of the mix that its rule needs.',
  follows: [{ designation: 'ACI 318', edition: '2019', part: 'acceptance of concrete' }],
  find: (line, before) =>
    itemsOf(line, 'specimen-set').flatMap((set) => strengthsOn(line, set).map((s) => ofStrength(line, set, s, before))),
});
