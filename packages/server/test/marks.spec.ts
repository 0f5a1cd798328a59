import { marksOf, type StandingRow } from '../src/store/pours.js';

const row = (state: StandingRow['state'], reported: string, validity = 'valid'): StandingRow => ({
  sample_id: 's',
  method: 'slump',
  result: 'slump',
  result_state: 'given',
  reported_text: reported,
  unit: 'mm',
  validity,
  state,
});

describe('the marks of a load', () => {
  it('show value and state of one and the same test: the newest of those that stand worst', () => {
    const shown = (...rows: StandingRow[]) => marksOf(rows).map((m) => [m.method, m.state, m.reported]);
    expect(shown(row('within', '95'), row('out', '160'))).toEqual([['slump', 'out', '160']]);
    expect(shown(row('out', '155'), row('out', '160'), row('within', '100'))).toEqual([['slump', 'out', '160']]);
    expect(shown(row('within', '95'), row('within', '100'))).toEqual([['slump', 'within', '100']]);
  });
});
