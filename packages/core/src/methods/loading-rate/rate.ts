import { brief, exact, type Exact } from '../../numbers/exact.js';
import { unitLabel, type System, type UnitId } from '../../units/units.js';
import type { Calc } from '../calc.js';
import { qty, rows, type Increments } from '../definition.js';
import { fitLine, type Fit } from '../fit.js';
import { column } from '../rows.js';
import type { Code, Params } from '../../problems.js';

/** How fast a specimen must be loaded: a rate of stress, and how far off it may be. */
export type RateLimits = {
  readonly target: Readonly<Record<System, string>>;
  readonly tolerance: Readonly<Record<System, string>>;
  readonly unit: Readonly<Record<System, RateUnit>>;
  /** The part of the largest load from which on it counts. */
  readonly upperShare: string;
  readonly increments: Increments;
};

/** Units of a stress rate, and the seconds in their unit of time. */
const SECONDS = { 'MPa/s': '1', 'psi/s': '1', 'MPa/min': '60', 'psi/min': '60' } as const;
type RateUnit = keyof typeof SECONDS;

/** Load as a machine gave it while it was loading: `time` in s, `load` in a unit of force. */
export const traceRows = (more: { optional?: true } = {}) =>
  rows(
    'Trace',
    {
      time: qty('time', 't', 'Time', { si: 's', us: 's' }, { possible: { unit: 's', least: '0', most: '3600' } }),
      load: qty('force', 'P', 'Load', { si: 'kN', us: 'lbf' }, { possible: { unit: 'kN', least: '0', most: '20000' } }),
    },
    // Of a test that can do without it, it is looked at as a picture.
    { most: 2000, ...(more.optional ? { minor: true } : {}), ...more },
  );

/** The rate as a result of any test that breaks its specimen. */
export const rateResult = (units: Readonly<Record<System, RateUnit>> = { si: 'MPa/s', us: 'psi/s' }) =>
  ({ label: 'Rate of the latter half', symbol: 'ṡ', units }) as const;

/** How the machine is set, known before it is loaded. */
export const MACHINE = { label: 'Rate to set on the machine', symbol: 'Ṗ', units: { si: 'kN/s', us: 'lbf/min' } } as const;

/** Between these it may go, as the machine shows it. */
export const MACHINE_RANGE = { label: 'Rates that are allowed', symbol: 'Ṗ', units: { si: 'kN/s', us: 'lbf/min' }, drawn: true } as const;

interface RateRun<V> {
  readonly c: Calc<V>;
  readonly x: Readonly<Record<string, unknown>>;
  readonly system: System;
  inRow(rows: never, at: number, id: string, unit: UnitId, symbol: string): V | null;
  missing(path: string): void;
  refuse(code: Code, path: string, params?: Params): void;
  note(code: Code, params?: Params): void;
  marks(code: Code, params?: Params): void;
  result(id: 'rate', value: V, unit: UnitId, increments?: Increments): void;
}

/** The latter half of a trace with the line through it: N or lbf over s. Null where there is too little of it, which is said. */
export function latterHalf<V>(
  r: RateRun<V>,
  upperShare: string,
): { readonly fit: Fit<V>; readonly times: readonly V[]; readonly upper: readonly number[] } | null {
  const { c } = r;
  const force = r.system === 'us' ? 'lbf' : 'N';
  const [times, loads] = [column(r, 'trace', 'time', 's', 't', 3), column(r, 'trace', 'load', force, 'P', 3)];
  if (!times || !loads) return null;
  const disorder = times.findIndex((t, i) => i > 0 && c.value(t).compare(c.value(times[i - 1]!)) <= 0);
  if (disorder > 0) {
    r.refuse('times-in-disorder', `trace.${disorder}.time`);
    return null;
  }
  const peak = loads.reduce<Exact>((most, load) => (c.value(load).compare(most) > 0 ? c.value(load) : most), exact('0'));
  const last = loads.findIndex((load) => c.value(load).equals(peak));
  const upper = loads.flatMap((load, i) => (i <= last && c.value(load).compare(peak.mul(exact(upperShare))) >= 0 ? [i] : []));
  if (upper.length < 2) {
    r.note('trace-too-coarse');
    return null;
  }
  const fit = fitLine(
    c,
    upper.map((i) => times[i]!),
    upper.map((i) => loads[i]!),
  )!;
  return { fit, times, upper };
}

/**
 * Judges the slope of a load against what is asked.
 * @param slope N/s or lbf/s
 * @param area mm² or in² whose stress a load gives, with its factor: of a cylinder πD²/4, split πLD/2, of a beam bd²/L
 */
export function judgeRate<V>(r: RateRun<V>, slope: V, area: V, limits: RateLimits): void {
  const { c } = r;
  const unit = limits.unit[r.system];
  const perSecond = c.div(slope, area);
  const rate = c.name('ṡ', SECONDS[unit] === '1' ? perSecond : c.mul(perSecond, c.num(SECONDS[unit])), unit);
  r.result('rate', rate, unit, limits.increments);
  const [target, tolerance] = [limits.target[r.system], limits.tolerance[r.system]];
  const off = c.value(rate).sub(exact(target));
  if (off.abs().compare(exact(tolerance)) <= 0) return;
  const edge = exact(target).add(exact(tolerance).mul(off.sign() > 0 ? 1 : -1));
  r.marks('rate-outside', { rate: brief(c.value(rate), 2, edge), target, tolerance, unit: unitLabel(unit) });
}

/** The same of a test that can do without a trace. */
export function rateOf<V>(r: RateRun<V>, area: V, limits: RateLimits): void {
  if (((r.x['trace'] ?? []) as readonly unknown[]).length === 0) return;
  const half = latterHalf(r, limits.upperShare);
  if (half) judgeRate(r, half.fit.slope, area, limits);
}

interface SetRun<V> {
  readonly c: Calc<V>;
  readonly system: System;
  result(id: 'machine', value: V, unit: UnitId, increments?: Increments): void;
  series(id: 'machineRange', values: readonly V[], unit: UnitId, increments?: Increments): void;
}

/** The rate of stress that is asked, as the machine is set: over the area of this specimen, in N/mm² or lbf/in². */
export function toSet<V>(r: SetRun<V>, area: V, { target, tolerance, unit }: RateLimits): void {
  const { c, system } = r;
  const minutes = SECONDS[unit[system]] === '60';
  const set: UnitId = system === 'us' ? 'lbf/min' : 'kN/s';
  const inUnit = (stress: V): V => {
    const force = c.mul(stress, area);
    if (system === 'us') return minutes ? force : c.mul(force, c.num('60'));
    return c.div(force, c.num(minutes ? '60000' : '1000'));
  };
  const [asked, off] = [c.num(target[system]), c.num(tolerance[system])];
  r.result('machine', c.name('Ṗ', inUnit(asked), set), set, STEPS);
  r.series('machineRange', [inUnit(c.sub(asked, off)), inUnit(c.add(asked, off))], set, STEPS);
}

/** To which a machine is set. */
const STEPS: Increments = { 'kN/s': '0.01', 'lbf/min': '100' };
