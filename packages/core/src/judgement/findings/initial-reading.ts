import { initialReadingAt, prismRemarks, type PrismFacts } from '../../methods/length-change/initial.js';
import { LENGTH_CHANGE } from '../../methods/length-change/length-change.js';
import { C157 } from '../../methods/length-change/length-change.js';
import { nextStep, say } from '../../problems.js';
import { momentOf, spanWords } from '../../time/moment.js';
import { always, finding } from './finding.js';
import { itemsOf, testsOf } from './line.js';

export const initialReadingFinding = finding({
  id: 'initial-reading',
  title: 'Initial reading of the prisms',
  about:
    'Whether a set of prisms was read for the first time at its hour. Every change is counted from that reading: off it, the set is void.',
  reads: 'When water met cement, when the set says that it was demolded and first read, and when it was read.',
  follows: [C157],
  find: (line) =>
    itemsOf(line, 'prism-set').flatMap((set) => {
      const facts = set.facts as PrismFacts;
      const read = testsOf(line, set).filter((t) => t.method.id === LENGTH_CHANGE && t.outcome !== null);
      const starts = read.map((t) => Date.parse(t.startedAt));
      const { marks, voids } = prismRemarks(facts, starts);
      const about = { subjectId: set.id, stoodOn: read.map((t) => t.id) };
      const why = [...voids, ...marks];
      const says = why.map(({ code, params }) => say(code, params)).join(' ');
      const next = why.flatMap(({ code, params }) => nextStep(code, params) ?? []);
      if (voids.length > 0) return [{ ...about, states: always('void', says, next), acceptance: 'excluded' as const }];
      if (marks.length > 0) return [{ ...about, states: always('watch', says, next) }];
      const [cast, initial] = [momentOf(facts.castAt), initialReadingAt(facts, starts)];
      if (cast === null || initial === null) return [];
      return [{ ...about, states: always('fine', `Read for the first time after ${spanWords(initial - cast)}.`) }];
    }),
});
