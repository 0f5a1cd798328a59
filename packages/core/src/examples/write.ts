import type { Spelled } from '../record/spelling.js';

export const rowsOf = (id: string, values: string): Spelled[] => values.split(' ').map((v) => ({ [id]: v }));

export const each = (unit: string, id: string, values: string): Spelled[] => values.split(' ').map((v) => ({ [id]: `${v} ${unit}` }));

/** Retained on each sieve of a stack, coarsest first. */
export const stack = (opening: string, retained: string): Spelled[] => {
  const masses = retained.split(' ');
  return opening.split(' ').map((size, i) => ({ opening: `${size} mm`, retained: `${masses[i] ?? ''} g` }));
};

/** A line of the potential map, west to east; `-` was not read. */
export const line = (values: string): Spelled => ({
  cells: values.split(' ').map((v): Spelled => (v === '-' ? {} : { potential: `${v} mV` })),
});

export const pairs = (a: string, b: string, unit: string, values: string): Spelled[] =>
  values.split(' ').map((pair) => {
    const [first, second] = pair.split('/');
    return { [a]: `${first ?? ''}${unit === '' ? '' : ` ${unit}`}`, [b]: `${second ?? ''} MPa` };
  });

/** Age, bar and three prisms of each set of readings. */
export const prismAges = (values: string): Spelled[] =>
  values.split('|').map((set) => {
    const [age, bar, a, b, c] = set.split(' ');
    return { age: `${age ?? ''} d`, bar: `${bar ?? ''} mm`, a: `${a ?? ''} mm`, b: `${b ?? ''} mm`, c: `${c ?? ''} mm` };
  });

export const DECK: Spelled[] = [
  { name: 'Cement', role: 'cementitious', mass: '360 kg', sg: '3.15' },
  { name: 'Slag', role: 'cementitious', mass: '60 kg', sg: '2.90' },
  { name: 'Water', role: 'water', mass: '168 kg', sg: '1' },
  { name: 'Brackdown sand', role: 'aggregate', mass: '690 kg', sg: '2.64' },
  { name: 'Pellick 19 mm', role: 'aggregate', mass: '1005 kg', sg: '2.68' },
];

export const WEIGHED = { full: '19.31 kg', empty: '3.21 kg', volume: '7.043 L', nominal: '19 mm', capacity: '7 L' };
