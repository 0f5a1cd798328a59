import type { Problem, Sheet } from '@keen-mortar/contract';
import { idFor } from '../src/demo.js';
import type { Bench } from './bench.js';
import { by, projectId, reading } from './bench.js';
import { id, LOADED_AT } from './harness.js';

const DAY = 86_400_000;
const q = (text: string, unit: string) => ({ text, unit });
const kg = (text: string) => q(text, 'kg');

/** Batch weights of 6 m³ of the deck mix: w/cm 0.415 with what is free in the aggregates. */
const MATERIALS = [
  { name: 'Cement', role: 'cement', actual: kg('2040') },
  { name: 'Water', role: 'water', actual: kg('700') },
  { name: 'Sand', role: 'fine', actual: kg('4400'), moisture: q('4.7', '%'), absorption: q('1.2', '%') },
  { name: 'Stone', role: 'coarse', actual: kg('6500'), moisture: q('0.9', '%'), absorption: q('0.9', '%') },
];

/** A mix of its own that must meet what the deck's does, and a pour of it so many days before the demonstration was loaded. */
export class Site {
  readonly mixId = id();
  private tickets = 0;
  /** As from a device that knew nothing of the record: what is unlikely is kept, and is to be answered. */
  unknowing: { readonly known?: string } = {};
  private constructor(
    readonly b: Bench,
    readonly days: number,
  ) {}

  static async made(
    b: Bench,
    days = 28,
    specificationIds: readonly string[] = [idFor('spec-deck')],
    { sand, ...more }: { readonly sand?: object; readonly correctionOn?: string } = {},
  ): Promise<Site> {
    const site = new Site(b, days);
    const revision = { id: id(), ...site.revision(specificationIds, sand), ...more };
    await site.post('/mixes', { id: site.mixId, projectId, code: `S-${site.mixId.slice(0, 8)}`, name: 'A mix of its own', revision });
    return site;
  }

  /** How it is batched. */
  revision(specificationIds: readonly string[], sand: object = { sg: '2.64' }) {
    return {
      effectiveFrom: '2026-01-01T00:00:00Z',
      specificationIds,
      largest: q('25', 'mm'),
      nominal: q('19', 'mm'),
      air: '6.0',
      correction: '0.4',
      ingredients: [
        { name: 'Cement', role: 'cement', mass: kg('340'), sg: '3.15' },
        { name: 'Water', role: 'water', mass: kg('141'), sg: '1' },
        { name: 'Sand', role: 'fine', mass: kg('733'), ...sand },
        { name: 'Stone', role: 'coarse', mass: kg('1083'), sg: '2.68' },
      ],
    };
  }

  /** Minutes after the first load was batched. */
  at = (minutes: number): string => new Date(LOADED_AT.getTime() - this.days * DAY + minutes * 60_000).toISOString();

  async post(path: string, body: object): Promise<void> {
    const answer = await this.b.h.post<Problem>(path, { by, id: id(), ...body });
    if (answer.status !== 201) throw new Error(JSON.stringify(answer.body));
  }

  async pour(planned = '36'): Promise<string> {
    const made = await this.b.item('pour', null, { element: 'Landing', planned: q(planned, 'm3') }, { name: id(), subjectId: this.mixId });
    return made.item.id;
  }

  async load(pourId: string, minutes = 0, more: object = {}): Promise<string> {
    const ticket = `F-${++this.tickets}`;
    const facts = { ticket, truck: 'Truck 2', batchedAt: this.at(minutes), design: q('6', 'm3'), materials: MATERIALS, ...more };
    return (await this.b.item('load', pourId, facts, this.unknowing)).item.id;
  }

  async sample(loadId: string, portions: readonly number[] = [10, 15], finished: number | null = 16): Promise<string> {
    const facts = {
      portions: portions.map((m) => ({ at: this.at(m), part: 'middle' })),
      ...(finished === null ? {} : { finished: this.at(finished) }),
    };
    return (await this.b.item('sample', loadId, facts, this.unknowing)).item.id;
  }

  /** Facts added to an item, as entries: `{ discharged: [text, unit] }`. */
  tell = (itemId: string, facts: Readonly<Record<string, readonly [text: string, unit: string | null]>>): Promise<void> =>
    this.post(`/items/${itemId}/entries`, {
      readings: Object.entries(facts).map(([field, [text, unit]]) => reading(field, text, unit, { at: LOADED_AT.toISOString() })),
    });

  water = (loadId: string, mass: string, minutes: number, more: object = {}): Promise<void> =>
    this.post(`/loads/${loadId}/water`, { mass: kg(mass), at: this.at(minutes), ...this.unknowing, ...more });

  /** A test that is made and kept. */
  async test(
    itemId: string,
    method: string,
    readings: Readonly<Record<string, readonly [text: string, unit: string | null]>>,
    more: { readonly minutes?: number; readonly retestOf?: string; readonly reason?: string; readonly equipmentId?: string } = {},
  ): Promise<string> {
    const { minutes = 18, retestOf = null, reason, equipmentId = null } = more;
    const testId = await this.b.start(itemId, method, { startedAt: this.at(minutes), retestOf, equipmentId });
    const kept = await this.b.keep<Problem>(
      testId,
      Object.entries(readings).map(([field, [text, unit]]) =>
        reading(field, text, unit, { at: this.at(minutes), ...(reason ? { reason } : {}) }),
      ),
    );
    if (kept.status !== 201) throw new Error(JSON.stringify(kept.body));
    return testId;
  }

  slump = (sampleId: string, drop: string, more: { readonly minutes?: number; readonly retestOf?: string } = {}): Promise<string> =>
    this.test(sampleId, 'slump', { shape: ['true', null], mold: ['300', 'mm'], drop: [drop, 'mm'] }, more);

  /** A set of cylinders of 100 mm, each for an age in days. */
  async set(sampleId: string, ages: readonly number[], facts: object = {}): Promise<{ id: string; specimens: readonly string[] }> {
    const setId = id();
    const answer = await this.b.h.post<Sheet & Problem>(`/items/${sampleId}/specimens`, {
      id: setId,
      by,
      facts: { madeAt: this.at(20), shape: 'cylinder', width: q('100', 'mm'), length: q('200', 'mm'), curing: 'standard', ...facts },
      specimens: ages.map((age) => ({ id: id(), age: q(String(age), 'd') })),
    });
    if (answer.status !== 201) throw new Error(JSON.stringify(answer.body));
    return { id: setId, specimens: [...answer.body.children].sort((a, c) => (a.code < c.code ? -1 : 1)).map((c) => c.id) };
  }

  /** A set of prisms whose cement met water when the load was batched. */
  prisms = async (sampleId: string, facts: object = {}): Promise<string> =>
    (await this.b.item('prism-set', sampleId, { castAt: this.at(0), gauge: q('250', 'mm'), ...facts })).item.id;

  /** Two prisms are read, shorter by so many mm than at first. */
  prismTest = (prismsId: string, hours: number, shorter: string): Promise<string> =>
    this.test(
      prismsId,
      'length-change',
      {
        initialBar: ['1.200', 'mm'],
        bar: ['1.200', 'mm'],
        ...Object.fromEntries(
          ['3.412', '3.055'].flatMap((initial, i) => [
            [`prisms.${i}.initial`, [initial, 'mm'] as const],
            [`prisms.${i}.now`, [(Number(initial) - Number(shorter)).toFixed(3), 'mm'] as const],
          ]),
        ),
      },
      { minutes: hours * 60 },
    );

  break = (specimenId: string, load: string, days: number): Promise<string> =>
    this.test(
      specimenId,
      'cylinder',
      { d1: ['101.5', 'mm'], d2: ['101.5', 'mm'], length: ['203', 'mm'], load: [load, 'kN'] },
      { minutes: 20 + days * 1440 },
    );
}
