import { exact, ZERO, type Exact } from '../numbers/exact.js';

/** What kind of thing a quantity is. Two units convert only within one dimension. */
export type Dimension =
  | 'mass'
  | 'length'
  | 'volume'
  | 'density'
  | 'stress'
  | 'force'
  | 'temperature'
  | 'temperature-difference'
  | 'percent'
  | 'time'
  | 'velocity'
  | 'area'
  | 'potential'
  | 'stress-rate'
  | 'force-rate'
  | 'flow'
  | 'ratio';

interface Unit {
  readonly dimension: Dimension;
  /** How people write it. */
  readonly label: string;
  /** Base units in one of this unit. Base: g, mm, L, kg/m³, Pa, N, °C, %, s, m/s, 1. */
  readonly factor: Exact;
  /** Base value of this unit's zero: °F only. */
  readonly zero?: Exact;
}

const unit = (dimension: Dimension, label: string, factor: Exact | string, zero?: Exact): Unit => ({
  dimension,
  label,
  factor: typeof factor === 'string' ? exact(factor) : factor,
  ...(zero ? { zero } : {}),
});

// Exact by definition: inch, foot, pound, standard gravity. The rest follows from them.
const INCH_MM = exact('25.4');
const POUND_G = exact('453.59237');
const FOOT3_L = exact('0.3048').pow(3).mul(1000);
const YARD3_L = FOOT3_L.mul(27);
// The US gallon is 231 cubic inches.
const GALLON_L = INCH_MM.pow(3).mul(231).div(1_000_000);
const POUND_FORCE_N = exact('4.4482216152605');

const UNITS = {
  g: unit('mass', 'g', '1'),
  kg: unit('mass', 'kg', '1000'),
  lb: unit('mass', 'lb', POUND_G),
  mm: unit('length', 'mm', '1'),
  cm: unit('length', 'cm', '10'),
  m: unit('length', 'm', '1000'),
  in: unit('length', 'in', INCH_MM),
  ft: unit('length', 'ft', INCH_MM.mul(12)),
  um: unit('length', 'µm', '0.001'),
  mL: unit('volume', 'mL', '0.001'),
  L: unit('volume', 'L', '1'),
  m3: unit('volume', 'm³', '1000'),
  ft3: unit('volume', 'ft³', FOOT3_L),
  yd3: unit('volume', 'yd³', YARD3_L),
  gal: unit('volume', 'gal', GALLON_L),
  pt: unit('volume', 'pt', GALLON_L.div(8)),
  floz: unit('volume', 'fl oz', GALLON_L.div(128)),
  'kg/m3': unit('density', 'kg/m³', '1'),
  'lb/ft3': unit('density', 'lb/ft³', POUND_G.div(FOOT3_L)),
  'lb/yd3': unit('density', 'lb/yd³', POUND_G.div(YARD3_L)),
  Pa: unit('stress', 'Pa', '1'),
  kPa: unit('stress', 'kPa', '1000'),
  bar: unit('stress', 'bar', '100000'),
  MPa: unit('stress', 'MPa', '1000000'),
  psi: unit('stress', 'psi', POUND_FORCE_N.div(INCH_MM.div(1000).pow(2))),
  'kgf/cm2': unit('stress', 'kgf/cm²', '98066.5'),
  N: unit('force', 'N', '1'),
  kN: unit('force', 'kN', '1000'),
  lbf: unit('force', 'lbf', POUND_FORCE_N),
  kip: unit('force', 'kip', POUND_FORCE_N.mul(1000)),
  kgf: unit('force', 'kgf', '9.80665'),
  C: unit('temperature', '°C', '1'),
  F: unit('temperature', '°F', '5/9', exact('-160/9')),
  dC: unit('temperature-difference', '°C', '1'),
  dF: unit('temperature-difference', '°F', '5/9'),
  '%': unit('percent', '%', '1'),
  s: unit('time', 's', '1'),
  min: unit('time', 'min', '60'),
  'm/s': unit('velocity', 'm/s', '1'),
  'cm/s': unit('velocity', 'cm/s', '0.01'),
  mm2: unit('area', 'mm²', '1'),
  cm2: unit('area', 'cm²', '100'),
  m2: unit('area', 'm²', '1000000'),
  ft2: unit('area', 'ft²', INCH_MM.mul(12).pow(2)),
  in2: unit('area', 'in²', INCH_MM.pow(2)),
  mV: unit('potential', 'mV', '1'),
  V: unit('potential', 'V', '1000'),
  'MPa/s': unit('stress-rate', 'MPa/s', '60'),
  'MPa/min': unit('stress-rate', 'MPa/min', '1'),
  'psi/s': unit('stress-rate', 'psi/s', POUND_FORCE_N.div(INCH_MM.div(1000).pow(2)).mul(60).div(1_000_000)),
  'psi/min': unit('stress-rate', 'psi/min', POUND_FORCE_N.div(INCH_MM.div(1000).pow(2)).div(1_000_000)),
  'mL/s': unit('flow', 'mL/s', '1'),
  'mL/min': unit('flow', 'mL/min', '1/60'),
  'm3/s': unit('flow', 'm³/s', '1000000'),
  'kN/s': unit('force-rate', 'kN/s', '60'),
  'lbf/min': unit('force-rate', 'lbf/min', POUND_FORCE_N.div(1000)),
  h: unit('time', 'h', '3600'),
  d: unit('time', 'd', '86400'),
  '1': unit('ratio', '', '1'),
} satisfies Record<string, Unit>;

export type UnitId = keyof typeof UNITS;

export const UNIT_IDS = Object.keys(UNITS) as UnitId[];

export const isUnit = (id: string): id is UnitId => Object.hasOwn(UNITS, id);

export const dimensionOf = (id: UnitId): Dimension => UNITS[id].dimension;

export const unitLabel = (id: UnitId): string => UNITS[id].label;

/** What was keyed, with its unit; a stopwatch shows minutes and seconds: no unit stands behind them. */
export const keyedText = (text: string, unit: UnitId): string =>
  text.includes(':') ? text.trim() : `${text.trim()} ${unitLabel(unit)}`.trim();

/** Units that a reading of this dimension may be keyed in, in the order of the table. */
export const unitsOf = (dimension: Dimension): UnitId[] => UNIT_IDS.filter((id) => UNITS[id].dimension === dimension);

/** Taken everywhere, offered only where a method names them: nobody keys a slump in metres. */
const SPECIAL: ReadonlySet<UnitId> = new Set(['cm', 'm', 'ft', 'um', 'gal', 'pt', 'floz', 'mm2', 'm2', 'ft2', 'h', 'd', 'V', 'm3/s']);

/**
 * Names that people write behind a figure, beside the labels: `lbs`, `inch`, `"`, `litres`, `µm`, `pcf`.
 * Lower case, without dots and spaces.
 */
const ALIASES: Readonly<Record<string, UnitId>> = {
  gram: 'g',
  grams: 'g',
  gr: 'g',
  kgs: 'kg',
  kilo: 'kg',
  kilos: 'kg',
  lbs: 'lb',
  pound: 'lb',
  pounds: 'lb',
  '#': 'lb',
  inch: 'in',
  inches: 'in',
  '"': 'in',
  '″': 'in',
  '”': 'in',
  foot: 'ft',
  feet: 'ft',
  "'": 'ft',
  '′': 'ft',
  '’': 'ft',
  micron: 'um',
  microns: 'um',
  μm: 'um',
  ml: 'mL',
  cc: 'mL',
  l: 'L',
  litre: 'L',
  litres: 'L',
  liter: 'L',
  liters: 'L',
  ltr: 'L',
  cuft: 'ft3',
  cf: 'ft3',
  cuyd: 'yd3',
  cy: 'yd3',
  gallon: 'gal',
  gallons: 'gal',
  gals: 'gal',
  pint: 'pt',
  pints: 'pt',
  oz: 'floz',
  ounce: 'floz',
  ounces: 'floz',
  pcf: 'lb/ft3',
  pcy: 'lb/yd3',
  'n/mm2': 'MPa',
  'n/mm²': 'MPa',
  'kg/cm2': 'kgf/cm2',
  kips: 'kip',
  lbsf: 'lbf',
  celsius: 'C',
  '°': 'C',
  degc: 'C',
  fahrenheit: 'F',
  degf: 'F',
  percent: '%',
  pct: '%',
  sec: 's',
  secs: 's',
  second: 's',
  seconds: 's',
  mins: 'min',
  minute: 'min',
  minutes: 'min',
  hr: 'h',
  hrs: 'h',
  hour: 'h',
  hours: 'h',
  day: 'd',
  days: 'd',
};

const byName = new Map<string, UnitId>();

/**
 * The unit that a name means (`kg`, `lbs`, `"`, `°F`), capitals where they tell units apart; null for no unit.
 * @param dimension which one where units of two share a name: `°C` is a temperature, or the difference of two
 */
export function unitNamed(name: string, dimension?: Dimension): UnitId | null {
  if (byName.size === 0) {
    const plainly = (text: string) => text.replace(/[\s.]/g, '');
    const add = (text: string, id: UnitId) => {
      if (text !== '' && text !== '1' && !byName.has(text)) byName.set(text, id);
    };
    // What the program writes itself comes before what people call it; of two units with one label the first of the table.
    for (const id of UNIT_IDS) add(id, id);
    for (const id of UNIT_IDS) add(plainly(UNITS[id].label), id);
    for (const id of UNIT_IDS) for (const text of [id, plainly(UNITS[id].label)]) add(text.toLowerCase(), id);
    for (const [alias, id] of Object.entries(ALIASES)) add(alias, id);
  }
  const text = name.replace(/[\s.]/g, '');
  const found = byName.get(text) ?? byName.get(text.toLowerCase()) ?? null;
  if (found === null || dimension === undefined || UNITS[found].dimension === dimension) return found;
  return UNIT_IDS.find((id) => UNITS[id].dimension === dimension && UNITS[id].label === UNITS[found].label) ?? found;
}

/** Units to offer beside a reading: the common ones of its dimension, and those that its method names. */
export const offeredUnits = (dimension: Dimension, named: readonly UnitId[]): UnitId[] =>
  unitsOf(dimension).filter((id) => !SPECIAL.has(id) || named.includes(id));

function pair(from: UnitId, to: UnitId): [Unit, Unit] {
  const [a, b]: [Unit, Unit] = [UNITS[from], UNITS[to]];
  if (a.dimension !== b.dimension) throw new Error(`${from} is a ${a.dimension}, ${to} a ${b.dimension}`);
  return [a, b];
}

/** What one unit holds of another: there are few pairs, met again and again. */
const factors = new Map<UnitId, Map<UnitId, Exact>>(UNIT_IDS.map((id) => [id, new Map()]));

function factorOf(from: UnitId, to: UnitId): Exact {
  const known = factors.get(from)!.get(to);
  if (known) return known;
  const [a, b] = pair(from, to);
  const factor = a.factor.div(b.factor);
  factors.get(from)!.set(to, factor);
  return factor;
}

/** Converts a quantity; temperatures with their offset. Throws across dimensions. */
export function convert(value: Exact, from: UnitId, to: UnitId): Exact {
  if (from === to) return value;
  const [a, b]: [Unit, Unit] = [UNITS[from], UNITS[to]];
  const scaled = value.mul(factorOf(from, to));
  if (!a.zero && !b.zero) return scaled;
  const zero = (a.zero ?? ZERO).sub(b.zero ?? ZERO);
  return scaled.add(zero.div(b.factor));
}

/** Converts a difference: a tolerance of 3 °F is 1.67 °C, the offset does not enter. */
export const convertDifference = (value: Exact, from: UnitId, to: UnitId): Exact => value.mul(factorOf(from, to));

/** US customary or SI: a property of the project and of each test, never guessed from a reading. */
export type System = 'si' | 'us';
