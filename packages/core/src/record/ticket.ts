import { decimalText, exact, significant, type Exact } from '../numbers/exact.js';
import { convert, dimensionOf, unitLabel, type UnitId } from '../units/units.js';
import type { Keyed } from '../units/reading.js';
import type { AnyInputs } from '../methods/definition.js';
import { dayIn } from '../time/zone.js';
import type { MATERIAL_ROLES } from './items.js';
import type { Sources } from './sources.js';

export type MaterialRole = keyof typeof MATERIAL_ROLES;

/** A material of a batch ticket as it was scaled; moisture and absorption in %. */
export interface TicketMaterial {
  readonly name: string;
  readonly role: MaterialRole;
  readonly actual: string;
  readonly unit: UnitId;
  readonly moisture?: string;
  readonly absorption?: string;
}

/** Water that was put into a load on site. */
export interface WaterAdded {
  readonly mass: Keyed;
  readonly at: string;
}

/** What a batch ticket says, and what was added since. */
export interface Ticket {
  readonly materials: readonly TicketMaterial[];
  readonly water: readonly WaterAdded[];
}

interface TicketFacts {
  readonly materials?: readonly {
    readonly name?: string;
    readonly role?: MaterialRole;
    readonly actual?: Keyed | null;
    readonly moisture?: Keyed | null;
    readonly absorption?: Keyed | null;
  }[];
  readonly water?: readonly { readonly mass?: Keyed | null; readonly at?: string | null }[];
}

/** The ticket of a load, from what is known of it. Rows that are not whole yet are left out. */
export function ticketOf(facts: AnyInputs): Ticket {
  const { materials = [], water = [] } = facts as TicketFacts;
  return {
    materials: materials.flatMap(({ name = '', role, actual, moisture, absorption }) =>
      role === undefined || !actual
        ? []
        : [
            {
              name,
              role,
              actual: actual.text,
              unit: actual.unit,
              ...(moisture ? { moisture: moisture.text } : {}),
              ...(absorption ? { absorption: absorption.text } : {}),
            },
          ],
    ),
    water: water.flatMap(({ mass, at }) => (mass && at ? [{ mass, at }] : [])),
  };
}

/** A litre of water or admixture is taken as a kilogram. */
const inKg = (text: string, unit: UnitId): Exact =>
  dimensionOf(unit) === 'volume' ? convert(exact(text), unit, 'L') : convert(exact(text), unit, 'kg');

const asKg = (parts: readonly Exact[]): { readonly text: string; readonly unit: 'kg' } => {
  const sum = parts.reduce((a, b) => a.add(b), exact('0'));
  return { text: decimalText(sum) ?? significant(sum, 12), unit: 'kg' };
};

/** Mass of all materials of these kinds, kg. */
export const massOf = (
  { materials }: Pick<Ticket, 'materials'>,
  ...roles: MaterialRole[]
): { readonly text: string; readonly unit: 'kg' } =>
  asKg(materials.filter((m) => roles.includes(m.role)).map((m) => inKg(m.actual, m.unit)));

/** Mass of the water added on site, kg. */
export const waterAdded = ({ water }: Pick<Ticket, 'water'>): { readonly text: string; readonly unit: 'kg' } =>
  asKg(water.map((w) => inKg(w.mass.text, w.mass.unit)));

/** Water that came into the load after a moment (ms), as it was keyed; null when none did. */
export function waterSince({ water }: Pick<Ticket, 'water'>, from: number): string | null {
  const later = water.filter((w) => Date.parse(w.at) > from);
  return later.length === 0 ? null : waterWords(later);
}

/** `40 L and 20 L`: additions as they were keyed. */
export const waterWords = (water: readonly WaterAdded[]): string =>
  water.map((w) => `${w.mass.text} ${unitLabel(w.mass.unit)}`).join(' and ');

/** What the methods ask of a ticket: cementitious material, water batched and added, damp aggregates. */
export const ticketInputs = (ticket: Ticket): AnyInputs =>
  ({
    cementitious: massOf(ticket, 'cement', 'cementitious'),
    batched: massOf(ticket, 'water'),
    added: waterAdded(ticket),
    aggregates: ticket.materials
      .filter((m) => m.role === 'fine' || m.role === 'coarse')
      .map((m) => ({
        name: m.name,
        batched: { text: m.actual, unit: m.unit },
        moisture: m.moisture === undefined ? null : { text: m.moisture, unit: '%' },
        absorption: m.absorption === undefined ? null : { text: m.absorption, unit: '%' },
      })),
  }) as AnyInputs;

/** The same, as the record gives it to a test of the load. */
export function ticketSources(ticket: Ticket): Sources {
  const { cementitious, batched, added, aggregates } = ticketInputs(ticket) as Readonly<Record<string, unknown>>;
  return {
    'ticket.cementitious': cementitious,
    'ticket.water': batched,
    'ticket.added': added,
    'ticket.aggregates': aggregates,
  };
}

interface Weighed {
  readonly role: MaterialRole;
  readonly mass: Keyed;
}

/** w/cm of a recipe, as n/d text; null without cementitious material. */
export function designWcm(ingredients: readonly Weighed[]): string | null {
  const of = (...roles: MaterialRole[]): Exact =>
    ingredients
      .filter((i) => roles.includes(i.role))
      .reduce((sum, i) => sum.add(convert(exact(i.mass.text), i.mass.unit, 'kg')), exact('0'));
  const cement = of('cement', 'cementitious');
  return cement.sign() === 0 ? null : of('water').div(cement).toString();
}

const DAY = 86_400_000;

/** Days since the oldest gravity of a recipe was found, at a moment (ms); null where all of them were keyed. */
export function gravityDays(
  ingredients: readonly { readonly sgTest?: { readonly at: string } | null | undefined }[],
  at: number,
): number | null {
  const found = ingredients.flatMap((i) => (i.sgTest ? [Date.parse(i.sgTest.at)] : []));
  return found.length === 0 ? null : Math.floor((at - Math.min(...found)) / DAY);
}

/** The day (yyyy-mm-dd, in a zone) on which the newest gravity of a recipe was found; null where all of them were keyed. */
export function gravitiesFoundOn(ingredients: Parameters<typeof gravityDays>[0], zone: string): string | null {
  const found = ingredients.flatMap((i) => (i.sgTest ? [dayIn(zone, i.sgTest.at)] : []));
  return found.sort().at(-1) ?? null;
}
