import {
  computeBody,
  inputsSchema,
  keep,
  newEquipment,
  newLoad,
  newMix,
  newPour,
  newProject,
  newRevision,
  newSpecification,
  newTest,
  newWater,
  revisionAt,
  situation,
  eventsOf,
  inForce,
  type Reading,
  type Sample,
} from '@keen-mortar/contract';
import { designMass, methodById, METHODS, PROPERTIES, type Shape } from '@keen-mortar/core';
import type * as z from 'zod';
import { configFrom } from '../src/config.js';
import { id } from './harness.js';

const by = id();
const paths = (schema: z.ZodType, body: unknown): string[] => {
  const parsed = schema.safeParse(body);
  return parsed.success ? [] : [...new Set(parsed.error.issues.map((issue) => issue.path.join('.')))];
};

describe('a mix beside its ticket', () => {
  it('the design wants so much for a volume, whatever the two are written in', () => {
    const near = (text: string, unit: 'kg' | 'lb', volume: string, of: 'm3' | 'yd3', as: 'kg' | 'lb') =>
      designMass({ text, unit }, { text: volume, unit: of }, as).near;
    expect(near('340', 'kg', '6', 'm3', 'kg')).toBeCloseTo(2040, 9);
    expect(near('564', 'lb', '8', 'yd3', 'lb')).toBeCloseTo(4512, 9);
    // Six cubic metres are 7.848 cubic yards, eight cubic yards 6.116 cubic metres.
    expect(near('564', 'lb', '6', 'm3', 'lb')).toBeCloseTo(4426.1, 1);
    expect(near('340', 'kg', '8', 'yd3', 'kg')).toBeCloseTo(2079.6, 1);
  });

  it('the revision that was in force when it was batched counts, not the last one', () => {
    const revisions = [
      { number: 3, effectiveFrom: '2026-12-01T00:00:00Z' },
      { number: 1, effectiveFrom: '2026-06-01T00:00:00Z' },
      { number: 2, effectiveFrom: '2026-11-01T00:00:00Z' },
    ];
    const at = (day: string) => revisionAt(revisions, Date.parse(day))?.number;
    expect([at('2026-05-01'), at('2026-10-31'), at('2026-11-27'), at('2026-12-01')]).toEqual([undefined, 1, 2, 3]);
  });
});

describe('schemas of what people write', () => {
  const limit = { id: id(), property: 'slump', unit: 'mm', lower: '75', upper: '125', source: 'spec' };
  const specification = (l: object) => ({ id: id(), by, projectId: id(), name: 'S', limits: [{ ...limit, ...l }] });

  it('a limit has an end or a target with a tolerance, in order, as decimal text', () => {
    expect(paths(newSpecification, specification({}))).toEqual([]);
    expect(paths(newSpecification, specification({ lower: undefined, upper: undefined }))).toEqual(['limits.0']);
    expect(paths(newSpecification, specification({ target: '100' }))).toEqual(['limits.0']);
    expect(paths(newSpecification, specification({ lower: '130' }))).toEqual(['limits.0.lower']);
    for (const bad of ['', '7 5', '75mm', '1e3', 'NaN', '−5'])
      expect(paths(newSpecification, specification({ lower: bad })))
        .withContext(bad)
        .toEqual(['limits.0.lower']);
    expect(paths(newSpecification, specification({ unit: 'stone' }))).toEqual(['limits.0.unit']);
    expect(paths(newSpecification, { ...specification({}), comparison: 'by feel' })).toEqual(['comparison']);
    // A limit that could never judge: another dimension than its property, or no property at all.
    expect(paths(newSpecification, specification({ unit: 'kg' }))).toEqual(['limits.0.unit']);
    expect(paths(newSpecification, specification({ property: 'colour' }))).toEqual(['limits.0.property']);
    for (const { id: property, units } of PROPERTIES)
      expect(paths(newSpecification, specification({ property, unit: units.us })))
        .withContext(property)
        .toEqual([]);
  });

  it('a project has a practice and a time zone that exist', () => {
    const project = { id: id(), by, code: 'P', name: 'N', site: 'Q', system: 'si', practice: 'en', timezone: 'Etc/UTC' };
    expect(paths(newProject, project)).toEqual([]);
    expect(paths(newProject, { ...project, timezone: 'Quillmouth/Pier', practice: 'own', system: 'cgs' }).sort()).toEqual([
      'practice',
      'system',
      'timezone',
    ]);
    expect(paths(newProject, { ...project, name: '   ' })).toEqual(['name']);
  });

  it('quantities are of the right kind and above zero', () => {
    const pour = (planned: object) => ({ id: id(), by, projectId: id(), mixId: id(), name: 'N', element: 'P', on: '2026-11-25', planned });
    expect(paths(newPour, pour({ text: '36', unit: 'm3' }))).toEqual([]);
    expect(paths(newPour, pour({ text: '0', unit: 'm3' }))).toEqual(['planned.text']);
    expect(paths(newPour, pour({ text: '-1', unit: 'm3' }))).toEqual(['planned.text']);
    expect(paths(newPour, pour({ text: '36', unit: 'kg' }))).toEqual(['planned']);
    expect(paths(newPour, { ...pour({ text: '36', unit: 'm3' }), on: '25.11.2026' })).toEqual(['on']);
    expect(paths(newWater, { id: id(), by, mass: { text: '45', unit: 'm3' }, at: '2026-11-25T10:00:00Z' })).toEqual(['mass']);
    for (const unit of ['L', 'gal', 'lb'])
      expect(paths(newWater, { id: id(), by, mass: { text: '45', unit }, at: '2026-11-25T10:00:00Z' })).toEqual([]);
    // As people write it, where a mix or a tolerance is made too: a fraction of an inch, a decimal comma. What can be read two ways is not.
    const volume = (text: string) => newPour.safeParse(pour({ text, unit: 'm3' })).data?.planned.text;
    expect(['3/4', '12,5', '1 1/2', '36.0', '1,234', '1/3', 'x'].map(volume)).toEqual([
      '0.75',
      '12.5',
      '1.5',
      '36.0',
      undefined,
      undefined,
      undefined,
    ]);
    // In a year that cannot be written back.
    for (const at of ['9999-12-31T23:59:59-14:00', '0000-01-01T00:00:00+14:00'])
      expect(paths(newWater, { id: id(), by, mass: { text: '45', unit: 'kg' }, at })).toEqual(['at']);
    expect(paths(newWater, { id: id(), by, mass: { text: '45', unit: 'kg' }, at: '2026-11-25T10:00:00' })).toEqual(['at']);
  });

  it('a load has materials, whole numbers and weights of zero or more', () => {
    const load = (more: object) => ({
      id: id(),
      by,
      number: 1,
      ticket: 'T',
      truck: '1',
      batchedAt: '2026-11-25T10:00:00Z',
      design: { text: '6', unit: 'm3' },
      materials: [{ name: 'C', role: 'cementitious', actual: '0', unit: 'kg' }],
      ...more,
    });
    expect(paths(newLoad, load({}))).toEqual([]);
    expect(paths(newLoad, load({ number: 1.5 }))).toEqual(['number']);
    expect(paths(newLoad, load({ materials: [] }))).toEqual(['materials']);
    expect(paths(newLoad, load({ materials: [{ name: 'C', role: 'gravel', actual: '-2', unit: 'kg' }] })).sort()).toEqual([
      'materials.0.actual',
      'materials.0.role',
    ]);
  });

  it('mixes, revisions and equipment refuse what does not belong', () => {
    expect(paths(newMix, { id: id(), by, projectId: id(), code: 'M'.repeat(25), name: '' }).sort()).toEqual(['code', 'name']);
    const mm = { text: '25', unit: 'mm' };
    const ingredient = { name: 'C', role: 'cementitious', mass: { text: '400', unit: 'kg' }, sg: '0' };
    const revision = {
      id: id(),
      by,
      number: 0,
      effectiveFrom: '2026-11-25T10:00:00Z',
      largest: mm,
      nominal: { text: '19', unit: 'kg' },
      air: '6',
      ingredients: [ingredient, ingredient],
    };
    expect(paths(newRevision, revision).sort()).toEqual(['ingredients.0.sg', 'ingredients.1.sg', 'nominal', 'number']);
    const equipment = {
      id: id(),
      by,
      projectId: id(),
      kind: 'ruler',
      name: 'H',
      values: [{ item: 'measure.volume', value: { text: '7', unit: 'L' } }],
    };
    expect(paths(newEquipment, equipment).sort()).toEqual(['kind', 'values.0.item']);
  });

  it('readings carry text as it was keyed, up to a length', () => {
    const reading = (more: object) => ({
      id: id(),
      by,
      readings: [{ id: id(), field: 'centre', text: ' 8 1/8 ', unit: 'in', at: '2026-11-25T10:00:00Z', ...more }],
    });
    expect(keep.parse(reading({})).readings[0]?.text).toBe('8 1/8');
    expect(paths(keep, reading({ text: '' }))).toEqual(['readings.0.text']);
    expect(paths(keep, reading({ text: '1'.repeat(41) }))).toEqual(['readings.0.text']);
    expect(paths(keep, reading({ unit: 'stone' }))).toEqual(['readings.0.unit']);
    expect(paths(keep, reading({ reason: 'x' }))).toEqual(['readings.0.reason']);
    expect(
      paths(newTest, {
        id: 'one',
        by,
        method: 'slump',
        variant: 'us',
        system: 'si',
        startedAt: '2026-11-25T10:00:00Z',
        equipmentId: null,
        retestOf: null,
      }),
    ).toEqual(['id']);
  });
});

describe('schemas derived from the definitions', () => {
  it('take every declared field, of its kind, and nothing else', () => {
    for (const m of METHODS) {
      const schema = inputsSchema(m.fields as Shape);
      expect(paths(schema, {})).withContext(m.id).toEqual([]);
      expect(paths(schema, { nothing: 1 }))
        .withContext(m.id)
        .toEqual(['']);
    }
    const yields = inputsSchema(methodById('yield')!.fields as Shape);
    const row = { name: 'C', role: 'cementitious', mass: { text: '1', unit: 'kg' } };
    expect(paths(yields, { batch: [row, { ...row, mass: { text: '1', unit: 'm3' } }] })).toEqual(['batch.1.mass.unit']);
    expect(paths(inputsSchema(methodById('composite')!.fields as Shape), { finished: 'noon' })).toEqual(['finished']);
  });

  it('know the variants of the method', () => {
    const body = computeBody(methodById('slump')!);
    expect(paths(body, { inputs: {}, variant: 'en' })).toEqual([]);
    expect(paths(body, { inputs: {}, variant: 'type-b' })).toEqual(['variant']);
    expect(paths(body, { inputs: {}, system: 'cgs' })).toEqual(['system']);
  });
});

describe('a test’s situation', () => {
  const at = (minutes: number) => new Date(Date.UTC(2026, 10, 25, 10, minutes)).toISOString();
  const reading = (field: string, minutes: number, supersedes: string | null = null): Reading => ({
    id: `${field}${minutes}`,
    field,
    text: '1',
    unit: null,
    by,
    at: at(minutes),
    receivedAt: at(minutes),
    device: 'hand',
    supersedes,
    reason: null,
  });
  const sample = {
    events: [
      { id: 'a', kind: 'portion', at: at(0), part: null, by },
      { id: 'b', kind: 'portion', at: at(6), part: null, by },
    ],
    load: { batchedAt: at(-30) },
    sources: {},
    kit: [],
    tests: [],
  } as unknown as Sample;

  it('takes its times from the record: neither a later correction nor an optional reading makes it late', () => {
    // The mass, its correction, and a remark that was keyed an hour later: read at 9.
    const test = {
      method: 'slump',
      startedAt: at(8),
      readings: [reading('shape', 9), reading('shape', 300, 'shape9'), reading('mishap', 60)],
    };
    const events = eventsOf(sample, test);
    expect([events['sample.first-portion'], events['sample.final-portion'], events['test.finished']]).toEqual(
      [at(0), at(6), at(9)].map(Date.parse),
    );
    expect(events['sample.finished']).toBeUndefined();
    expect(inForce(test.readings).get('shape')?.id).toBe('shape300');
  });

  it('is none for a method that the core does not know', () => {
    const place = {
      method: 'gone',
      variant: 'x',
      system: 'si' as const,
      startedAt: at(8),
      equipmentId: null,
      retestOf: null,
      readings: [],
    };
    expect(situation(sample, place, new Map())).toBeNull();
  });
});

describe('settings', () => {
  it('say in a sentence what is wrong with them', () => {
    expect(() => configFrom({})).toThrowError(/KEEN_MORTAR_DATABASE_URL/);
    expect(() => configFrom({ KEEN_MORTAR_DATABASE_URL: 'mysql://a:b@127.0.0.1/x', KEEN_MORTAR_PORT: '70000' })).toThrowError(
      /KEEN_MORTAR_PORT/,
    );
    expect(configFrom({ KEEN_MORTAR_DATABASE_URL: 'mysql://a:b@127.0.0.1/x' }).port).toBe(4310);
  });
});
