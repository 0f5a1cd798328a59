import { heapOf, shiftOf, type Split } from '../src/index.js';

const kg = (text: string) => ({ mass: { text, unit: 'kg' } });
const split = (id: string, parentId: string | null, facts: object, methods: string[] = []): Split => ({
  id,
  parentId,
  facts: facts as Split['facts'],
  methods,
});

describe('a series of a source', () => {
  it('says where it moved for good, from what to what; scatter, one outlier and a few results are no shift', () => {
    const moved = ['1.3', '1.2', '1.3', '1.4', '1.3', '1.3', '2.1', '2.2', '2.1'];
    expect(shiftOf(moved)).toEqual(jasmine.objectContaining({ at: 6, before: '1.3', after: '2.1' }));
    expect(shiftOf(['1.3', '1.2', '1.3', '1.4', '1.3', '1.2', '1.4', '1.3'])).toBeNull();
    expect(shiftOf(['1.3', '1.3', '1.3', '1.3', '1.3', '1.3', '1.3', '2.1'])).toBeNull();
    // Within what it is reported to nothing has moved.
    expect(shiftOf(['2.63', '2.63', '2.63', '2.63', '2.63', '2.62', '2.62'])).toBeNull();
    expect(shiftOf(moved.slice(3))).toBeNull();
    expect(shiftOf([...Array<string>(130).fill('1.3'), ...moved])?.at).toBe(136);
  });
});

describe('from heap to test', () => {
  it('says what even cuts would have left, how far halves are apart, and what the cuts lost', () => {
    const heap = heapOf([
      split('bulk', 'source', { ...kg('38.40'), nominal: { text: '19', unit: 'mm' } }),
      split('left', 'bulk', kg('19.26')),
      split('right', 'bulk', { mass: { text: '19110', unit: 'g' } }),
      split('wash', 'left', kg('9.58'), ['wash']),
      split('on', 'left', kg('9.66')),
      split('eighth', 'right', kg('2.5'), ['coarse-gravity']),
      split('unweighed', 'right', {}),
    ]);
    const of = (id: string) => heap.splits.find((s) => s.id === id)!;
    expect(of('bulk')).toEqual({ id: 'bulk', kg: '38.4', even: null, cuts: null, apart: null, short: null });
    // (19.26 − 19.11)/19.185
    expect([of('right').kg, of('right').even, of('right').cuts, of('right').apart]).toEqual(['19.11', '19.2', 1, '0.78']);
    expect([of('wash').even, of('wash').short]).toEqual(['9.63', null]);
    expect([of('eighth').cuts, of('eighth').even, of('eighth').apart]).toEqual([3, '2.389', null]);
    expect(of('eighth').short).toEqual({ have: '2.5', least: '3', nominal: '19 mm' });
    // 38.40 − 19.26 − 19.11, and 19.26 − 9.58 − 9.66; where one was not weighed nothing is said.
    expect(heap.lost).toBe('0.05');
  });

  it('splits that weigh more than what they came of are less than nothing lost', () => {
    const heap = heapOf([split('bulk', null, kg('10')), split('a', 'bulk', kg('5.2')), split('b', 'bulk', kg('5.1'))]);
    expect(heap.lost).toBe('-0.3');
    expect(heapOf([split('bulk', null, {})])).toEqual({
      splits: [{ id: 'bulk', kg: null, even: null, cuts: null, apart: null, short: null }],
      lost: null,
    });
  });
});
