import { againstHistory } from '../../methods/source-history/against-history.js';
import type { Evaluation } from '../../methods/evaluate.js';
import { say } from '../../problems.js';
import { always, because, finding, type Found } from './finding.js';
import { unitLabel } from '../../units/units.js';
import { isGone, testsOf, type Line, type LineTest, type Outcome } from './line.js';

/** Which test of a source strays. */
export const STRAYS = 'source-strays';

const TAKEN = {
  own: 'It was taken over for the mixes all the same.',
  later: 'A later test of the source was taken over for the mixes since.',
} as const;

/** `absorption 2.2 %, where 1.3 % is usual`: of each figure that moved. */
function movedWords(now: Outcome, against: Evaluation): string {
  const moved = against.results.find((r) => r.id === 'moved')?.words ?? [];
  return STRAYING.flatMap(({ id, usual, label }, i) => {
    const [found, mean] = [now.results.find((r) => r.id === id), against.results.find((r) => r.id === usual)];
    if (!found?.reported || !mean?.reported || moved[i] === 'usual') return [];
    const unit = unitLabel(found.unit);
    return [`${label} ${found.reported} ${unit}`.trim() + `, where ${mean.reported} ${unit}`.trimEnd() + ' is usual'];
  }).join('; ');
}

/** In the order in which the method says what moved. */
const STRAYING = [
  { id: 'od', usual: 'meanOd', label: 'specific gravity (dry)' },
  { id: 'apparent', usual: 'meanApparent', label: 'apparent specific gravity' },
  { id: 'absorption', usual: 'meanAbsorption', label: 'absorption' },
] as const;

/** A test against the history of its source, where it strays from that; null where it does not, or nothing is known. */
function straying(line: Line, test: LineTest): Evaluation | null {
  const before = line.history?.[test.id];
  if (!before || test.outcome === null) return null;
  const against = againstHistory({ ...test.outcome, method: test.method.id }, before);
  return against?.notes.some((n) => n.code === 'source-shifted') === true ? against : null;
}

/** @param tests of one method on one item, none of them void: the newest stands, those before it stray with it */
function ofTests(line: Line, tests: readonly LineTest[]): Found[] {
  const test = tests.at(-1)!;
  const against = straying(line, test);
  if (!against) return [];
  const looks = against.notes.filter((n) => n.code !== 'source-shifted');
  const about = {
    subjectId: test.itemId,
    part: test.method.id,
    stoodOn: tests.filter((t) => straying(line, t) !== null).map((t) => t.id),
    evidence: because(looks.map(({ code, params }) => say(code, params))),
  };
  const says = `Not what its source has given: ${movedWords(test.outcome!, against)}.`;
  const taken = line.takenOver?.[test.id];
  if (taken) return [{ ...about, states: always('watch', `${says} ${TAKEN[taken]}`), acceptance: taken === 'own' ? 'counts' : 'excluded' }];
  const again = 'Test a second portion. If it gives the same, the source has moved: let it count.';
  return [
    {
      ...about,
      states: always('asks', `${says} It waits for a look; mixes go on with the value before it.`, [
        looks.length === 0 ? again : `Look at the likely cause first. ${again}`,
      ]),
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
    line.items.flatMap((item) => {
      if (isGone(line, item)) return [];
      const tests = testsOf(line, item).filter((t) => line.history?.[t.id] !== undefined && t.outcome !== null && t.state !== 'void');
      return [...new Set(tests.map((t) => t.method.id))].flatMap((method) =>
        ofTests(
          line,
          tests.filter((t) => t.method.id === method),
        ),
      );
    }),
});
