import { say, type Code } from '../../problems.js';
import type { StrengthOfSet } from '../strength-of-set.js';
import type { Evidence, FoundBefore } from './finding.js';
import { factOf, type Line, type LineItem } from './line.js';

/** Said by the findings that they come from. */
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

const sentences = (about: Evidence['about'], says: readonly string[]): Evidence[] => says.map((one) => ({ about, says: one }));

/** What of some findings is not as asked, as evidence. */
const told = (before: FoundBefore, about: Evidence['about'], finding: string, ...ids: (string | undefined)[]): Evidence[] =>
  ids
    .flatMap((id) => (id === undefined ? [] : before(finding, id)))
    .map((f) => f.states.at(-1)!)
    .filter((state) => state.grade !== 'fine')
    .map(({ says }) => ({ about, says }));

/** What speaks against a strength test: remarks on its specimens, and what is found of the set and of what it was molded of. */
export function againstTheTest(line: Line, set: LineItem, s: StrengthOfSet, before: FoundBefore): Evidence[] {
  const specimens = new Set(s.specimens.map((b) => b.id));
  const remarks = line.tests
    .filter((t) => specimens.has(t.itemId))
    .flatMap((t) => t.outcome?.validity.reasons ?? [])
    .filter(({ code }) => !FROM_ELSEWHERE.has(code))
    .map(({ code, params }) => say(code, params));
  const atEnds = s.specimens.some((b) => b.fracture === '5' || b.fracture === '6');
  return [
    ...sentences('test', [
      ...new Set(remarks),
      ...(s.test.apart ? [`The companions are ${s.test.range ?? ''} % of their mean apart; at most ${s.test.most ?? ''} %.`] : []),
      ...(atEnds ? ['The sides came off at an end: look at caps and alignment.'] : []),
    ]),
    ...told(before, 'test', 'curing', set.id),
    ...told(before, 'test', 'tank', set.id),
    ...told(before, 'test', 'no-gain', set.id),
    ...told(before, 'test', 'composite', set.parentId ?? undefined),
    ...told(before, 'test', 'other-specimen', ...specimens),
  ];
}

/** What is found of the load and of the fresh concrete. */
export function ofTheConcrete(line: Line, set: LineItem, before: FoundBefore): Evidence[] {
  const sample = line.items.find((i) => i.id === set.parentId && i.kind === 'sample');
  const load = line.items.find((i) => i.id === sample?.parentId && i.kind === 'load');
  return [
    ...told(before, 'concrete', 'load-wcm', load?.id),
    ...told(before, 'concrete', 'time-in-truck', load?.id),
    ...told(before, 'concrete', 'water-on-site', load?.id),
    ...told(before, 'concrete', 'pair', sample?.id),
  ];
}

/** What nobody read or said: it speaks neither for the test nor against it. */
export function notKnown(line: Line, set: LineItem, s: StrengthOfSet): Evidence[] {
  const specimens = new Set(s.specimens.map((b) => b.id));
  const tests = line.tests.filter((t) => specimens.has(t.itemId) && t.outcome !== null);
  const molded = factOf(set, 'shape') !== 'core';
  const tank = factOf<string>(set, 'tank');
  return sentences('unknown', [
    ...(tests.some((t) => !t.kit.some((k) => k.kind === 'machine')) ? ['With which machine it was broken.'] : []),
    ...(tests.every((t) => t.outcome!.results.some((r) => r.id === 'rate' && r.state === 'given')) ? [] : ['At which rate it was loaded.']),
    ...(s.specimens.some((b) => b.fracture === null) ? ['How it broke.'] : []),
    ...(molded && (factOf(set, 'low') === undefined || factOf(set, 'high') === undefined)
      ? ['How cold and how warm it was beside the set in its first two days.']
      : []),
    ...(molded && tank === undefined ? ['In which tank or moist room it lay.'] : []),
  ]);
}
