import {
  evaluate,
  judgeAll,
  methodById,
  stateOfTest,
  unspell,
  type AnyInputs,
  type How,
  type Line,
  type LineItem,
  type LineTest,
  type Shape,
  type Spelled,
} from '../src/index.js';

/** Noon of a day in the scenario: moments are told in minutes from it. */
const T0 = Date.UTC(2026, 4, 12, 8, 0);
export const moment = (minutes: number): string => new Date(T0 + minutes * 60_000).toISOString();
export const DAY = 1440;

const kg = (text: string) => ({ text, unit: 'kg' as const });

/** A ticket of 6 m³ of the deck mix, with moistures on it: w/cm 0.415. */
export const TICKET = {
  ticket: 'F-1',
  truck: 'Truck 7',
  batchedAt: moment(0),
  design: { text: '6', unit: 'm3' },
  materials: [
    { name: 'Cement', role: 'cement', actual: kg('2040') },
    { name: 'Water', role: 'water', actual: kg('700') },
    { name: 'Sand', role: 'fine', actual: kg('4400'), moisture: { text: '4.7', unit: '%' }, absorption: { text: '1.2', unit: '%' } },
    { name: 'Stone', role: 'coarse', actual: kg('6500'), moisture: { text: '0.9', unit: '%' }, absorption: { text: '0.9', unit: '%' } },
  ],
};

export const LIMITS: Line['specifications'] = [
  {
    id: 'spec',
    name: 'Deck',
    comparison: 'reported',
    limits: [
      { id: 'l1', property: 'slump', unit: 'mm', lower: '75', upper: '125', source: '2.4' },
      { id: 'l2', property: 'wcm', unit: '1', upper: '0.45', source: '2.3' },
      { id: 'l3', property: 'time-in-truck', unit: 'h', upper: '1.5', source: '3.6' },
      { id: 'l4', property: 'air', unit: '%', lower: '5.0', upper: '8.0', source: '2.5' },
      { id: 'l5', property: 'relative-yield', unit: '1', lower: '0.98', upper: '1.02', source: '2.6' },
      { id: 'l6', property: 'temperature', unit: 'C', lower: '10', upper: '30', source: '2.7' },
      { id: 'l7', property: 'strength', unit: 'MPa', lower: '32', source: '2.1' },
    ],
  },
];

export const item = (
  kind: LineItem['kind'],
  id: string,
  parentId: string | null,
  facts: object,
  more: Partial<LineItem> = {},
): LineItem => ({
  id,
  kind,
  parentId,
  code: id,
  at: moment(0),
  facts: facts as AnyInputs,
  voided: false,
  ...more,
});

const PORTIONS = {
  portions: [
    { at: moment(10), part: 'middle' },
    { at: moment(18), part: 'middle' },
  ],
  finished: moment(19),
};

/** What is put to a line of its own: a pour, its load, a sample of that, and whatever else. */
export interface Given {
  readonly load?: object;
  readonly sample?: object;
  readonly items?: readonly LineItem[];
  readonly tests?: readonly LineTest[];
  readonly limits?: Line['specifications'];
  readonly line?: Partial<Line>;
}

export function lineWith({ load = {}, sample = {}, items = [], tests = [], limits = LIMITS, line = {} }: Given = {}): Line {
  return {
    project: { system: 'si', practice: 'us-astm', timezone: 'Etc/UTC' },
    above: [item('pour', 'pour', null, { element: 'Deck', planned: { text: '18', unit: 'm3' } })],
    items: [item('load', 'load', 'pour', { ...TICKET, ...load }), item('sample', 'sample', 'load', { ...PORTIONS, ...sample }), ...items],
    tests,
    revision: {
      correction: '0.4',
      ingredients: [
        { name: 'Cement', role: 'cement', mass: kg('340') },
        { name: 'Water', role: 'water', mass: kg('141') },
        { name: 'Sand', role: 'fine', mass: kg('733') },
        { name: 'Stone', role: 'coarse', mass: kg('1083') },
      ],
    },
    specifications: limits,
    decisions: [],
    ...line,
  };
}

/** A test of the scenario, worked out as the record does: readings as people write them. */
export function tested(
  id: string,
  method: string,
  readings: Spelled | null,
  more: Partial<Pick<LineTest, 'itemId' | 'retestOf' | 'kit'>> &
    Partial<How> & { readonly minutes?: number; readonly limits?: Line['specifications'] } = {},
): LineTest {
  const m = methodById(method)!;
  const { itemId = 'sample', retestOf = null, kit = [], minutes = 20, limits = LIMITS, ...how } = more;
  const inputs = unspell(m.fields as Shape, readings ?? {});
  const outcome =
    readings === null ? null : evaluate(m, inputs, { variant: Object.keys(m.variants)[0]!, system: 'si', offers: false, ...how });
  const judged = outcome === null ? [] : judgeAll(m, outcome, limits);
  return {
    id,
    itemId,
    method: m,
    system: 'si',
    startedAt: moment(minutes),
    by: 'somebody',
    retestOf,
    kit,
    inputs,
    outcome,
    judged,
    state: outcome === null ? 'open' : outcome.validity.state === 'void' ? 'void' : stateOfTest(m, outcome, judged),
  };
}

export const slump = (id: string, drop: string, more: Parameters<typeof tested>[3] = {}): LineTest =>
  tested(id, 'slump', { shape: 'true', mold: '300 mm', drop: `${drop} mm` }, more);

/** A set of cylinders with their breaks: loads in kN, by age in days. */
export function setOf(id: string, breaks: Readonly<Record<number, readonly string[]>>, facts: object = {}, more: Partial<How> = {}) {
  const shape = {
    madeAt: moment(30),
    shape: 'cylinder',
    width: { text: '100', unit: 'mm' },
    length: { text: '200', unit: 'mm' },
    curing: 'standard',
  };
  const set = item('specimen-set', id, 'sample', { ...shape, ...facts }, { at: moment(30) });
  const all = Object.entries(breaks).flatMap(([age, loads]) => loads.map((load, i) => ({ age, load, id: `${id}-${age}-${i}` })));
  return {
    items: [set, ...all.map((s) => item('specimen', s.id, id, { age: { text: s.age, unit: 'd' } }))],
    tests: all
      .filter((s) => s.load !== '')
      .map((s) =>
        tested(
          `t-${s.id}`,
          'cylinder',
          { d1: '101.5 mm', d2: '101.5 mm', length: '203 mm', load: `${s.load} kN` },
          { itemId: s.id, minutes: 30 + Number(s.age) * DAY, ...more },
        ),
      ),
  };
}
