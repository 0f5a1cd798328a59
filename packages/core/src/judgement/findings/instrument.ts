import { nextStep, say } from '../../problems.js';
import { always, finding, type Found } from './finding.js';
import { isGone, testsOf, type Line, type LineItem, type LineTest } from './line.js';

const WRONG = 'found-wrong';

const wrongIn = (t: LineTest) => t.outcome?.validity.reasons.filter((r) => r.code === WRONG) ?? [];
const stands = (t: LineTest): boolean => t.outcome !== null && t.state !== 'void';

/** Made again since, with something that nobody has found wrong. */
const madeAgain = (tests: readonly LineTest[], t: LineTest): boolean =>
  tests.slice(tests.indexOf(t) + 1).some((later) => later.method.id === t.method.id && stands(later) && wrongIn(later).length === 0);

function ofItem(line: Line, item: LineItem): Found[] {
  const tests = testsOf(line, item).filter(stands);
  const wrong = tests.flatMap((test) => wrongIn(test).map(({ params }) => ({ test, name: String(params['name']), params })));
  return [...new Set(wrong.map((w) => w.name))].map((name): Found => {
    const own = wrong.filter((w) => w.name === name);
    const open = own.filter((w) => !madeAgain(tests, w.test));
    const titles = (of: typeof own): string => [...new Set(of.map((w) => w.test.method.title))].join(', ');
    const what = say(WRONG, own.at(-1)!.params);
    const about = {
      subjectId: item.id,
      part: own[0]!.test.kit.find((k) => k.name === name)?.id ?? '',
      stoodOn: own.map((w) => w.test.id),
    };
    if (open.length === 0) return { ...about, states: always('fine', `Tested again since, with another: ${titles(own)}. ${what}`) };
    const says = `In question: ${titles(open)}. ${what}`;
    // Whether a strength counts is decided for the set, of all its companions together.
    if (item.kind === 'specimen') return { ...about, states: always('watch', says), acceptance: 'waits' };
    return {
      ...about,
      states: always('asks', says, [nextStep(WRONG, own[0]!.params)!]),
      acceptance: 'waits',
      choices: ['counts', 'counts-not', 'again'],
    };
  });
}

export const instrumentFinding = finding({
  id: 'instrument',
  title: 'Instrument in question',
  about: 'Tests that were made with an instrument before, or although, it was found wrong, and not again since with another.',
  reads: 'What each test was made with, when that was found wrong and why, and later tests of the same kind on the item.',
  follows: [{ designation: 'ISO/IEC 17025', edition: '2017', part: '6.4' }],
  beside: 'seen',
  ofRecord: true,
  find: (line) => line.items.flatMap((item) => (isGone(line, item) ? [] : ofItem(line, item))),
});
