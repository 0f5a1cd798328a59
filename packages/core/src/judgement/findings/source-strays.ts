import { againstHistory } from '../../methods/source-history/against-history.js';
import type { Evaluation } from '../../methods/evaluate.js';
import { say } from '../../problems.js';
import { always, because, finding, type Found } from './finding.js';
import { isGone, type Line, type LineTest } from './line.js';

/** Which test of a source strays. */
export const STRAYS = 'source-strays';

function ofTest(line: Line, test: LineTest): Found[] {
  const before = line.history?.[test.id];
  if (!before || test.outcome === null || test.state === 'void') return [];
  const against = againstHistory({ ...test.outcome, method: test.method.id } as Evaluation, before);
  const shifted = against?.notes.find((n) => n.code === 'source-shifted');
  if (!against || !shifted) return [];
  const looks = against.notes.filter((n) => n !== shifted);
  const [says, part] = [`${test.method.title}: ${say(shifted.code, shifted.params)}`, test.method.id];
  if (line.takenOver?.includes(test.id) === true)
    return [
      {
        subjectId: test.itemId,
        part,
        states: always('watch', `${says} It was taken over for the mixes all the same.`),
        stoodOn: [test.id],
        acceptance: 'counts',
      },
    ];
  return [
    {
      subjectId: test.itemId,
      part,
      states: always('asks', `${says} It waits for a look; mixes go on with the value before it.`, [
        looks.length === 0
          ? 'Test a second portion. If it gives the same, the source has moved: let it count.'
          : 'Look at the likely cause, then test a second portion. If it gives the same, the source has moved: let it count.',
      ]),
      evidence: because(looks.map(({ code, params }) => say(code, params))),
      stoodOn: [test.id],
      acceptance: 'waits',
      choices: ['counts', 'counts-not', 'again'],
    },
  ];
}

export const sourceStraysFinding = finding({
  id: STRAYS,
  title: 'Strays from what its source gives',
  about: 'A specific gravity or absorption that is not what the source has given before: it waits until somebody has looked at it.',
  reads: 'The gravity tests of a field sample, and what was found of its source before.',
  follows: [
    { designation: 'ASTM C127', edition: '2015' },
    { designation: 'ASTM C128', edition: '2022' },
  ],
  find: (line) =>
    line.tests.flatMap((test) => {
      const item = line.items.find((i) => i.id === test.itemId);
      return item && !isGone(line, item) ? ofTest(line, test) : [];
    }),
});
