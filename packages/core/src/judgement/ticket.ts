import type { AnyInputs } from '../methods/definition.js';
import { evaluate } from '../methods/evaluate.js';
import { moistureCorrection } from '../methods/mix/moisture-correction.js';
import { brief, exact, significant, type Exact } from '../numbers/exact.js';
import { Exact as Value } from '../numbers/value.js';
import type { MaterialRole } from '../record/ticket.js';
import { read, type Keyed } from '../units/reading.js';
import { convert, dimensionOf, type UnitId } from '../units/units.js';

/** What the design wants of an ingredient for a volume: its mass stands for a cubic metre, or in pounds for a cubic yard. */
export function designMass(perVolume: Keyed, volume: Keyed, unit: UnitId): Exact {
  const per: UnitId = perVolume.unit === 'lb' ? 'yd3' : 'm3';
  return convert(exact(perVolume.text), perVolume.unit, unit).mul(convert(exact(volume.text), volume.unit, per));
}

/** An ingredient of a design, as far as a ticket is compared with it. */
export interface Designed {
  readonly name?: string | undefined;
  readonly role: MaterialRole;
  readonly mass: Keyed;
}

/** A material as a ticket has it; what is not keyed yet is null. */
export interface Weighed {
  readonly name?: string | null | undefined;
  readonly role?: MaterialRole | null | undefined;
  readonly actual?: Keyed | null | undefined;
  readonly moisture?: Keyed | null | undefined;
  readonly absorption?: Keyed | null | undefined;
}

function valueOf(keyed: Keyed | null | undefined): Exact | null {
  const value = keyed ? read(keyed, dimensionOf(keyed.unit)) : null;
  return value instanceof Value ? value : null;
}

/** A mass in kg, a litre taken as a kilogram; null where it is no number yet. */
export function kgOf(keyed: Keyed | null | undefined): Exact | null {
  const value = valueOf(keyed);
  return value && keyed ? convert(value, keyed.unit, dimensionOf(keyed.unit) === 'volume' ? 'L' : 'kg') : null;
}

/**
 * Each material beside what is to be weighed of it for this volume, kg. A damp aggregate weighs more than the design, and brings its
 * share of the water: by the correction for moisture, as far as the ticket has moistures and absorptions.
 */
export function ticketLines(design: readonly Designed[], volume: Keyed | null, materials: readonly Weighed[]): TicketLine[] {
  const isKnown = volume !== null && (valueOf(volume)?.sign() ?? 0) > 0;
  const dry = materials.map(({ name, role }) => {
    const own = design.find((d) => d.name === name && d.role === role);
    return own && isKnown ? designMass(own.mass, volume, 'kg') : null;
  });
  const damp = materials.flatMap((m, i) => {
    const isAggregate = m.role === 'fine' || m.role === 'coarse';
    return isAggregate && dry[i] && valueOf(m.moisture) && valueOf(m.absorption) ? [i] : [];
  });
  const inKg = (x: Exact): Keyed => ({ text: significant(x, 12), unit: 'kg' });
  const water = dry.filter((_d, i) => materials[i]!.role === 'water').find((d) => d !== null);
  const e = evaluate(
    moistureCorrection,
    {
      water: water ? inKg(water) : null,
      aggregates: damp.map((i) => ({ ssd: inKg(dry[i]!), moisture: materials[i]!.moisture, absorption: materials[i]!.absorption })),
    } as AnyInputs,
    { variant: 'dry', system: 'si', offers: false },
  );
  const given = (id: string) => e.results.find((r) => r.id === id && r.state === 'given');
  const weighed = given('batch')?.series ?? [];
  const toWeigh = given('toWeigh')?.unrounded ?? null;
  return materials.map((m, i) => {
    const at = damp.indexOf(i);
    const own = at >= 0 ? (weighed[at]?.unrounded ?? null) : m.role === 'water' && damp.length > 0 && dry[i] ? toWeigh : null;
    return { name: m.name ?? '', design: own === null ? dry[i]! : Value.decimal(own), actual: kgOf(m.actual) };
  });
}

/** One material of a ticket beside what the design wants of it for this volume, in one unit. */
export interface TicketLine {
  readonly name: string;
  readonly design: Exact | null;
  readonly actual: Exact | null;
}

export interface TicketRemark {
  /** Position of the material. */
  readonly at: number;
  /** `off`: worth a look; `far`: hardly so, or one in the other’s place: asked about before it is kept. */
  readonly kind: 'off' | 'far' | 'exchanged';
  readonly says: string;
}

/** Per cent of the design: batching accuracy is 1 to 3 % (ASTM C94, tolerances of scales and batches); moisture moves aggregates by some more. */
const OFF = '5';
const FAR = '20';

/**
 * What of a ticket does not look like its mix: scaled masses far from the design, and two that stand in
 * each other's place. Never refuses: a plant may have batched it so, which is then worth knowing.
 */
export function ticketRemarks(lines: readonly TicketLine[]): TicketRemark[] {
  const share = (actual: Exact, design: Exact): Exact => actual.sub(design).div(design).mul(100);
  const within = (actual: Exact, design: Exact, percent: string): boolean => share(actual, design).abs().compare(exact(percent)) <= 0;
  const found = lines.map((line, at): TicketRemark | null => {
    const { design, actual } = line;
    if (!design || !actual || design.sign() === 0 || within(actual, design, OFF)) return null;
    const by = share(actual, design);
    const how = `${brief(by.abs(), 2)} % ${by.sign() < 0 ? 'less' : 'more'} than the design`;
    if (within(actual, design, FAR)) return { at, kind: 'off', says: `${line.name}: ${how}.` };
    const other = lines.findIndex(
      (l, k) => k !== at && l.design && l.actual && l.design.sign() !== 0 && within(actual, l.design, OFF) && within(l.actual, design, OFF),
    );
    return other >= 0
      ? { at, kind: 'exchanged', says: `${line.name} and ${lines[other]!.name} look exchanged.` }
      : { at, kind: 'far', says: `${line.name}: ${how}.` };
  });
  return found.filter((remark) => remark !== null);
}
