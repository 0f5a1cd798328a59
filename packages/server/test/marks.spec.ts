import { marksOf } from '../src/queries/pours.js';
import type { Standing } from '../src/store/standing.js';

describe('marks of a load', () => {
  const of = (result: string, state: Standing['state'], more: Partial<Standing> = {}): Standing => ({
    itemId: 'i',
    testId: 't',
    result,
    subjectId: null,
    property: result,
    method: 'yield',
    at: new Date(0),
    unit: 'kg/m3',
    reported: '2280',
    validity: 'valid',
    state,
    ...more,
  });

  it('stand in the order of the work, one for each test that stands by itself', () => {
    const slump = (testId: string, reported: string, state: Standing['state'], at: number) =>
      of('slump', state, { method: 'slump', unit: 'mm', testId, reported, at: new Date(at) });
    const marks = marksOf([of('density', 'out'), slump('b', '140', 'out', 2), slump('a', '100', 'within', 1)], []);
    expect(marks.map((m) => [m.label, m.reported, m.state])).toEqual([
      ['Slump', '100', 'within'],
      ['Slump', '140', 'out'],
      ['Density', '2280', 'out'],
    ]);
  });
});
