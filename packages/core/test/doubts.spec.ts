import { doubtsOn, findingsOf, isTold, pathOnRecord, say, stateAt, type Line, type LineItem } from '../src/index.js';
import { item, lineWith, moment, TICKET } from '../testing/line.js';

const kg = (text: string) => ({ text, unit: 'kg' as const });
const water = (...rows: readonly (readonly [string, number])[]) => ({
  water: rows.map(([text, at], i) => ({ mass: kg(text), at: moment(at), row: `w${i}` })),
});
const ofLoad = (facts: object, line: Line = lineWith({ load: facts })) => doubtsOn(line, line.items[0]!);
const told = (facts: object): string[] => ofLoad(facts).map((d) => `${d.path}: ${say(d.code, d.params)}`);

/** 6 m³ of the mix in the scenario, weighed by the correction for moisture. */
const BATCHED = {
  materials: [
    { name: 'Cement', role: 'cement', actual: kg('2040') },
    { name: 'Water', role: 'water', actual: kg('693') },
    { name: 'Sand', role: 'fine', actual: kg('4550'), moisture: { text: '4.7', unit: '%' }, absorption: { text: '1.2', unit: '%' } },
    { name: 'Stone', role: 'coarse', actual: kg('6498'), moisture: { text: '0.9', unit: '%' }, absorption: { text: '0.9', unit: '%' } },
  ],
};
const scaled = (by: number) => ({
  materials: BATCHED.materials.map((m) => ({ ...m, actual: kg(String(Math.round(Number(m.actual.text) * by))) })),
});

describe('what is asked about before it is kept', () => {
  it('water: the second time, more than there is room for, after its time, and by itself', () => {
    expect(told({ ...BATCHED, ...water(['20', 40]) })).toEqual([]);
    expect(told({ ...BATCHED, ...water(['20', 40], ['10', 50]) })).toEqual([
      'water.1.mass: Against the rule for water on site: it was added once already.',
    ]);
    expect(told({ ...BATCHED, ...water(['120', 40]) })).toEqual(['water.0.mass: There was room for at most 72 L.']);
    expect(told({ ...BATCHED, ...water(['20', 95]) })[0]).toContain('the time limit of 90 min has passed');
    // Keyed with a slip it is asked about once, with what was meant.
    const [slip] = ofLoad({ ...BATCHED, ...water(['90000', 40]) });
    expect([slip!.path, slip!.code, slip!.offer]).toEqual(['water.0.mass', 'implausible-value', { text: '90', unit: 'kg' }]);
  });

  it('a ticket is compared with what damp aggregates weigh; one slip in all of it is one question', () => {
    expect(told(BATCHED)).toEqual([]);
    expect(told({ materials: BATCHED.materials.map((m) => (m.name === 'Sand' ? { ...m, actual: kg('45500') } : m)) })).toEqual([
      'materials.2.actual: Look at the ticket. Sand: 900 % more than the design.',
    ]);
    const slip = ofLoad({ ...scaled(0.25), design: { text: '15', unit: 'm3' } });
    expect(slip.map((d) => [d.path, d.code, d.offer])).toEqual([['design', 'ticket-other-volume', { text: '1.5', unit: 'm3' }]]);
    // What cannot be is said by itself, and nothing beside it.
    expect(ofLoad({ ...BATCHED, design: { text: '60', unit: 'm3' } })).toEqual([]);
    const half = ofLoad(scaled(0.5));
    expect(half.map((d) => [d.path, d.code, d.offer])).toEqual([['design', 'ticket-other-volume', undefined]]);
    const [moisture] = ofLoad({
      materials: BATCHED.materials.map((m) => (m.name === 'Sand' ? { ...m, moisture: { text: '0.051', unit: '%' } } : m)),
    });
    expect([moisture!.path, moisture!.offer]).toEqual(['materials.2.moisture', { text: '5.1', unit: '%' }]);
  });

  it('a load beside the others of its pour: twice the same ticket, and more than was planned', () => {
    const pour = item('pour', 'pour', null, { element: 'Deck', planned: { text: '12', unit: 'm3' } });
    const load = (id: string, ticket: string, volume: string, minutes: number): LineItem =>
      item('load', id, 'pour', { ...TICKET, ticket, design: { text: volume, unit: 'm3' } }, { at: moment(minutes) });
    const loads = [load('Load 1', 'F-1', '6', 0), load('Load 2', 'F-2', '6', 20), load('Load 3', 'F-1', '6', 40)];
    const line: Line = { ...lineWith(), above: [], items: [pour, ...loads] };
    expect(loads.map((l) => doubtsOn(line, l).map((d) => say(d.code, d.params)))).toEqual([
      [],
      [],
      ['Ticket F-1 is on Load 1 already.', 'With this load 18 m³ of 12 m³ would be delivered.'],
    ]);
    // A little more than was planned is ordered for what is spilled.
    const more = load('Load 3', 'F-3', '1.2', 40);
    expect(doubtsOn({ ...line, items: [pour, ...loads.slice(0, 2), more] }, more)).toEqual([]);
  });

  it('one portion is combined only with a reason', () => {
    const one = lineWith({ sample: { portions: [{ at: moment(10) }] } });
    expect(doubtsOn(one, one.items[1]!).map((d) => [d.path, d.code])).toEqual([['finished', 'one-portion']]);
    const taking = lineWith({ sample: { portions: [{ at: moment(10) }], finished: undefined } });
    expect(doubtsOn(taking, taking.items[1]!)).toEqual([]);
  });

  it('stands as to be answered until somebody says why; where reasons are not known nothing is said', () => {
    const line = (answered?: readonly string[]): Line => {
      const plain = lineWith({ load: { ...BATCHED, ...water(['20', 40], ['10', 50]) } });
      const load = plain.items[0]!;
      return { ...plain, items: [{ ...load, ...(answered ? { answered } : {}) }, ...plain.items.slice(1)] };
    };
    const open = (of: Line) => findingsOf(of).filter((f) => f.finding === 'unanswered');
    const [found] = open(line([]));
    expect([found?.part, isTold(stateAt(found!, Date.parse(moment(60))))]).toEqual(['water.w1.mass', true]);
    expect(found!.states[0].says).toBe('Against the rule for water on site: it was added once already. Nobody has said why.');
    expect([open(line(['water.w1.mass'])).length, open(line()).length]).toEqual([0, 0]);
    expect(pathOnRecord({ facts: { water: [{ row: 'k' }] } }, 'water.0.at')).toBe('water.k.at');
  });
});
