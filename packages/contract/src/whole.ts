import {
  USUAL_WITHIN,
  convert,
  crossCheckAir,
  crossCheckDensity,
  crossCheckYield,
  diagnose,
  evaluate,
  exact,
  judgeAll,
  methodById,
  unitLabel,
  usualInputs,
  type AnyInputs,
  type AnyMethod,
  type CrossCheck,
  type Diagnosis,
  type Evaluation,
  type Judged,
  type Level,
  type Limit,
  type ResultField,
  type ResultValue,
  type Signs,
  type Verdict,
} from '@keen-mortar/core';
import { massOf, waterAdded } from './batch.js';
import { gravityDays } from './design.js';
import type { Sample } from './resources.js';
import { eventsOf } from './situation.js';

/** A test as it stands, kept or being keyed. */
export interface Made {
  readonly method: AnyMethod;
  readonly evaluation: Evaluation;
  readonly judged: readonly Judged[];
  readonly equipmentId: string | null;
}

/** What the tests of a sample, its ticket and its clocks say together: worked out without being asked. */
export interface Whole {
  /** Time in the truck against its limit; null where no specification limits it. */
  readonly truck: { readonly evaluation: Evaluation; readonly judged: readonly Judged[] } | null;
  /** Whether water may be added, how much, or why not; null while nothing asks for it. */
  readonly water: Evaluation | null;
  readonly wcm: Evaluation;
  readonly checks: readonly CrossCheck[];
  readonly diagnoses: readonly Diagnosis[];
}

const DAY = 86_400_000;
const methodOf = (id: string): AnyMethod => methodById(id)!;

interface Found {
  readonly result: ResultValue;
  readonly made: Made;
  readonly verdict: Verdict | null;
}

/** The newest given result of a property, with the verdict that needs attention first. */
function found(rows: readonly Made[], property: string): Found | null {
  for (const made of [...rows].reverse()) {
    const id = Object.entries(made.method.results as Readonly<Record<string, ResultField>>).find(([, f]) => f.property === property)?.[0];
    const result = made.evaluation.results.find((r) => r.id === id && r.state === 'given');
    if (!result) continue;
    const verdicts = made.judged.flatMap((j) => j.verdicts.filter((v) => v.result === id));
    return { result, made, verdict: verdicts.find((v) => v.state === 'out') ?? verdicts[0] ?? null };
  }
  return null;
}

type Asking = Pick<Sample, 'specifications'>;

const limitsOf = ({ specifications }: Asking, property: string): readonly Limit[] =>
  specifications.flatMap((s) => s.limits.filter((l) => l.property === property));

/** The strictest upper end that a specification gives, in the limit's own unit. */
function strictest(sample: Asking, property: string): { text: string; unit: Limit['unit'] } | null {
  const uppers = limitsOf(sample, property).flatMap((l) => (l.upper === undefined ? [] : [{ text: l.upper, unit: l.unit }]));
  return [...uppers].sort((a, b) => convert(exact(a.text), a.unit, b.unit).compare(exact(b.text)))[0] ?? null;
}

/** min from batching to an empty truck, by the strictest specification; null where none limits it. */
export function truckMinutesOf(asking: Asking): number | null {
  const limit = strictest(asking, 'time-in-truck');
  return limit && Number(convert(exact(limit.text), limit.unit, 'min').valueOf());
}

const damp = (sample: Sample) =>
  sample.load.materials
    .filter((m) => m.role === 'fine' || m.role === 'coarse')
    .map((m) => ({
      name: m.name,
      batched: { text: m.actual, unit: m.unit },
      moisture: m.moisture === undefined ? null : { text: m.moisture, unit: '%' },
      absorption: m.absorption === undefined ? null : { text: m.absorption, unit: '%' },
    }));

function ticketInputs(sample: Sample): AnyInputs {
  return {
    cementitious: massOf(sample.load, 'cement', 'cementitious'),
    batched: massOf(sample.load, 'water'),
    added: waterAdded(sample.load),
    aggregates: damp(sample),
  } as AnyInputs;
}

/** Whether water may go into a load whose slump is too low: w/cm, time, once, leave and discharge together. */
function water(sample: Sample, slump: Found | null, now: number): Evaluation | null {
  if (slump?.verdict?.state !== 'out' || slump.verdict.side !== 'lower') return null;
  const m = methodOf('water-on-site');
  const [variant] = Object.keys(m.variants) as [string];
  const { system } = sample.project;
  const inputs = {
    ...usualInputs(m, variant, system),
    ...ticketInputs(sample),
    most: strictest(sample, 'wcm'),
    slump: 'low',
    once: sample.load.water.length > 0 ? 'yes' : 'no',
    discharge: sample.events.some((e) => e.kind === 'discharged') ? 'well' : 'none',
    // Leave is asked for by whoever may give it: the answer says so.
    allowed: 'yes',
    batchedAt: sample.load.batchedAt,
    now: new Date(now).toISOString(),
    limit: strictest(sample, 'time-in-truck'),
  };
  return evaluate(m, inputs as AnyInputs, { variant, system, working: true });
}

function truck(sample: Sample, now: number): Whole['truck'] {
  if (limitsOf(sample, 'time-in-truck').length === 0) return null;
  const m = methodOf('time-in-truck');
  const [variant] = Object.keys(m.variants) as [string];
  const empty = eventsOf(sample)['load.discharged'];
  const limit = strictest(sample, 'time-in-truck');
  const over =
    limit !== null && now - Date.parse(sample.load.batchedAt) > Number(convert(exact(limit.text), limit.unit, 's').valueOf()) * 1000;
  // Once the limit has passed the load is out, whether it is empty or not; before that it is open.
  const discharged = empty ?? (over ? now : undefined);
  const inputs = { batched: sample.load.batchedAt, discharged: discharged === undefined ? null : new Date(discharged).toISOString() };
  const evaluation = evaluate(m, inputs as AnyInputs, { variant, system: sample.project.system, working: true });
  return { evaluation, judged: judgeAll(m, evaluation, sample.specifications) };
}

function actualWcm(sample: Sample): Evaluation {
  const m = methodOf('actual-wcm');
  const [variant] = Object.keys(m.variants) as [string];
  return evaluate(m, ticketInputs(sample), { variant, system: sample.project.system, working: true });
}

const daysSince = (from: string | null | undefined, to: string): number | null =>
  from ? Math.round((Date.parse(to) - Date.parse(from)) / DAY) : null;

function checks(sample: Sample, rows: readonly Made[]): CrossCheck[] {
  const [meter, weighed, density, relative] = ['air', 'air-gravimetric', 'density', 'relative-yield'].map((p) => found(rows, p));
  const kitAge = (f: Found | null | undefined): number | null =>
    daysSince(sample.kit.find((k) => k.id === f?.made.equipmentId)?.calibratedOn, sample.createdAt);
  const list: (CrossCheck | null)[] = [];
  const fromDesign = weighed?.made.evaluation.notes.some((n) => n.code === 'air-free-from-design') ?? false;
  if (meter?.result.exact && weighed?.result.exact) {
    list.push(
      crossCheckAir({
        pressure: meter.result.exact,
        gravimetric: weighed.result.exact,
        meterAge: kitAge(meter),
        measureAge: kitAge(weighed),
        gravitiesAge: gravityDays(sample.revision.ingredients, Date.parse(sample.createdAt)),
        correction: sample.revision.correction !== undefined,
        fromDesign,
        waterAdded:
          sample.load.water.length === 0 ? null : sample.load.water.map((w) => `${w.mass.text} ${unitLabel(w.mass.unit)}`).join(' and '),
      }),
    );
  }
  const airFree = weighed?.made.evaluation.results.find((r) => r.id === 'airFree' && r.state === 'given');
  // The same air twice is no second opinion: only a meter's air checks the density.
  if (meter?.result.exact && density?.result.exact && airFree?.exact && airFree.unit === density.result.unit)
    list.push(
      crossCheckDensity({
        density: density.result.exact,
        theoretical: airFree.exact,
        airPercent: meter.result.exact,
        unit: density.result.unit,
      }),
    );
  if (relative?.result.exact) list.push(crossCheckYield(relative.result.exact));
  return list.filter((check) => check !== null);
}

/** High or low by what the specification allows; usual where it is inside. */
function level(f: Found | null): Level | undefined {
  if (!f?.verdict || f.verdict.state === 'unjudged' || f.verdict.state === 'open') return undefined;
  if (f.verdict.state !== 'out') return 'usual';
  return f.verdict.side === 'lower' ? 'low' : 'high';
}

/** A figure beside what it ought to be: further than `within` above or below. */
function beside(value: string | null | undefined, ought: string, within: string): Level | undefined {
  if (!value) return undefined;
  const off = exact(value).sub(exact(ought));
  return off.abs().compare(exact(within)) <= 0 ? 'usual' : off.sign() > 0 ? 'high' : 'low';
}

function signsOf(sample: Sample, rows: readonly Made[], made: Pick<Whole, 'checks' | 'wcm' | 'truck'>): Signs {
  const [slump, air, density, relative, temperature] = ['slump', 'air', 'density', 'relative-yield', 'temperature'].map((p) =>
    found(rows, p),
  );
  const off = made.checks.find((c) => c.code === 'density-off-mix');
  const both = air && found(rows, 'air-gravimetric');
  const design = designWcm(sample);
  const wcm = made.wcm.results.find((r) => r.id === 'wcm')?.exact;
  const late = made.truck?.judged.flatMap((j) => j.verdicts).find((v) => v.state === 'out');
  const signs: { [K in keyof Signs]: Signs[K] | undefined } = {
    slump: level(slump ?? null),
    air: level(air ?? null),
    density: off ? (off.params['side'] === 'less' ? 'low' : 'high') : (level(density ?? null) ?? (density ? 'usual' : undefined)),
    yield: beside(relative?.result.exact, '1', USUAL_WITHIN.yield),
    wcm: design === null ? undefined : beside(wcm, design, USUAL_WITHIN.wcm),
    temperature: level(temperature ?? null),
    timeInTruck: late ? 'high' : made.truck ? 'usual' : undefined,
    airs: both ? (made.checks.some((c) => c.code === 'airs-disagree') ? 'apart' : 'agree') : undefined,
  };
  return Object.fromEntries(Object.entries(signs).filter(([, sign]) => sign !== undefined));
}

/** w/cm of the design, as n/d text. */
function designWcm(sample: Sample): string | null {
  const of = (...roles: string[]) =>
    sample.revision.ingredients
      .filter((i) => roles.includes(i.role))
      .reduce((sum, i) => sum.add(convert(exact(i.mass.text), i.mass.unit, 'kg')), exact('0'));
  const cement = of('cement', 'cementitious');
  return cement.sign() === 0 ? null : of('water').div(cement).toString();
}

export function wholeOf(sample: Sample, rows: readonly Made[], now: number): Whole {
  const made = { checks: checks(sample, rows), wcm: actualWcm(sample), truck: truck(sample, now) };
  return { ...made, water: water(sample, found(rows, 'slump'), now), diagnoses: diagnose(signsOf(sample, rows, made)) };
}
