import { judge, limitWords, marginWords, type Limit } from '../../limits/verdict.js';
import { C157, LENGTH_CHANGE } from '../../methods/length-change/length-change.js';
import { AT_AN_AGE } from '../../limits/properties.js';
import { momentOf } from '../../time/moment.js';
import { unitLabel } from '../../units/units.js';
import { atAge } from '../../time/dues.js';
import { always, finding, type Found } from './finding.js';
import { factOf, itemsOf, testsOf, type Line, type LineItem } from './line.js';

const DAY_MS = 86_400_000;
/** No window is in print for the later readings: one this near to the age of a limit is taken as read at it. */
const NEAR_MS = DAY_MS;

/** Since drying began for what is counted from there; else since water met cement. */
const countedFrom = (set: LineItem, property: string): number | null =>
  momentOf(factOf<string>(set, property === 'length-change-from-drying' ? 'drying' : 'castAt'));

function atItsAge(line: Line, set: LineItem, limit: Limit & { readonly atDays: number }, comparison: Parameters<typeof judge>[4]): Found[] {
  const from = countedFrom(set, limit.property);
  if (from === null) return [];
  const due = from + limit.atDays * DAY_MS;
  const off = (t: { readonly startedAt: string }): number => Math.abs(Date.parse(t.startedAt) - due);
  const asked = limitWords(limit);
  const about = { subjectId: set.id, part: `${limit.property}@${limit.atDays}:${limit.id}` };
  const read = testsOf(line, set)
    .filter((t) => t.method.id === LENGTH_CHANGE && t.outcome !== null && off(t) <= NEAR_MS)
    .sort((a, b) => off(a) - off(b))[0];
  const field = Object.entries(read?.method.results ?? {}).find(([, f]) => f.property === limit.property)?.[0];
  const result = read?.outcome?.results.find((r) => r.id === field);
  if (!read || !result || result.state === 'open') {
    const late = new Date(due + NEAR_MS).toISOString();
    return [
      {
        ...about,
        states: [
          { from: null, grade: 'open', says: `${asked}: it is not that old yet.`, next: [] },
          {
            from: late,
            grade: 'open',
            says: `${asked}: nobody read it at that age.`,
            next: ['Read it now, and ask whoever wrote the limit.'],
          },
        ],
      },
    ];
  }
  const verdict = judge(read.method, result, read.outcome!.validity.state, limit, comparison);
  const figure = `${atAge(limit.atDays)}: ${result.reported ?? ''} ${unitLabel(result.unit)}; ${asked}`;
  const stoodOn = [read.id];
  if (verdict.state === 'void')
    return [{ ...about, stoodOn, states: always('void', `${atAge(limit.atDays)} the reading is void; ${asked}.`) }];
  return [
    {
      ...about,
      stoodOn,
      states:
        verdict.state === 'out'
          ? always('out', `${figure}: ${marginWords(verdict)}.`, ['Tell whoever wrote the limit.'])
          : always('fine', `${figure}.`),
    },
  ];
}

export const lengthLimitFinding = finding({
  id: 'length-limit',
  title: 'Length change at the age of its limit',
  about:
    'How a set of prisms meets a limit that holds at an age: the reading nearest to it, a day either side. A limit without an age holds at every reading.',
  reads: 'Readings of the set, its moments, and limits of length change with an age.',
  follows: [C157],
  find: (line) =>
    itemsOf(line, 'prism-set').flatMap((set) =>
      line.specifications.flatMap(({ comparison, limits }) =>
        limits.flatMap((l) =>
          l.atDays !== undefined && AT_AN_AGE.includes(l.property) ? atItsAge(line, set, { ...l, atDays: l.atDays }, comparison) : [],
        ),
      ),
    ),
});
