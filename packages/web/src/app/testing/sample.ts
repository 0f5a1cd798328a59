import type { Item, Mix, PourDetail, Project, Reading, Sample, Test } from '@keen-mortar/contract';
import { evaluate, guidance, judgeAll, methodById, type UnitId } from '@keen-mortar/core';
import { entriesOf, situation } from '@keen-mortar/contract';

/** Parts of the scenario, as the server would answer with them. */
export const AT = '2026-11-25T12:00:00.000Z';
export const PERSON = { id: '11111111-1111-4111-8111-111111111111', name: 'Rosalind Oakhanger', role: 'Technician' };
export const OTHER = { id: '22222222-2222-4222-8222-222222222222', name: 'Merrin Sallow', role: 'Technician' };

export const later = (seconds: number): string => new Date(Date.parse(AT) + seconds * 1000).toISOString();

export const project: Project = {
  id: '33333333-3333-4333-8333-333333333333',
  code: 'QM',
  name: 'Tidal footbridge',
  site: 'Quillmouth',
  system: 'si',
  practice: 'us-astm',
  timezone: 'Etc/UTC',
};

const specification = {
  id: 'spec',
  projectId: project.id,
  name: 'Deck concrete',
  comparison: 'rounded' as const,
  by: 'p-1',
  madeAt: '2026-01-01T00:00:00.000Z',
  limits: [
    {
      id: 'l1',
      property: 'slump' as const,
      unit: 'mm' as const,
      target: '100',
      minus: '25',
      plus: '25',
      source: 'project specification 2.4',
      onFail: 'Reject it.',
    },
    { id: 'l2', property: 'air' as const, unit: '%' as const, lower: '4.5', upper: '7.5', source: 'project specification 2.5' },
    { id: 'l3', property: 'temperature' as const, unit: 'C' as const, lower: '10', upper: '30', source: 'project specification 2.6' },
    { id: 'l4', property: 'time-in-truck' as const, unit: 'min' as const, upper: '90', source: 'project specification 3.6' },
  ],
};

const kg = (text: string) => ({ text, unit: 'kg' as const });
const ingredients = [
  { name: 'Cement', role: 'cementitious' as const, mass: kg('340'), sg: '3.15' },
  { name: 'Water', role: 'water' as const, mass: kg('160'), sg: '1.000' },
];

export const mix: Mix = {
  id: 'mix',
  projectId: project.id,
  code: 'D-32A',
  name: 'Deck mix 32 A',
  revisions: [
    {
      id: 'rev',
      mixId: 'mix',
      by: 'p-1',
      madeAt: '2026-01-01T00:00:00.000Z',
      specificationIds: ['spec'],
      number: 1,
      effectiveFrom: AT,
      largest: { text: '25', unit: 'mm' },
      nominal: { text: '19', unit: 'mm' },
      air: '6.0',
      aggregate: 'normal' as const,
      ingredients,
      theoretical: { text: '2422', unit: 'kg/m3' },
    },
  ],
};

const load = {
  id: 'load',
  pourId: 'pour',
  revisionId: 'rev',
  revision: 1,
  number: 6,
  ticket: 'F-1',
  truck: '3',
  batchedAt: later(-1800),
  design: { text: '6.0', unit: 'm3' as const },
  materials: [{ name: 'Cement', role: 'cementitious' as const, actual: '2037', unit: 'kg' as const }],
  water: [],
  voided: false,
};

const pour = {
  id: 'pour',
  projectId: project.id,
  mixId: 'mix',
  name: 'Boardwalk span 4',
  element: 'Deck',
  on: '2026-11-25',
  planned: { text: '36', unit: 'm3' as const },
  mixCode: 'D-32A',
  mixName: 'Deck mix 32 A',
  weather: null,
  loads: 1,
  samples: 1,
  out: 0,
};

export const pourDetail: PourDetail = {
  ...pour,
  readAt: AT,
  project,
  mix,
  specifications: [specification],
  loadList: [load],
  sampleList: [],
  findings: [],
  drawn: null,
};

const item = (id: string, kind: Item['kind'], parentId: string | null, facts: object): Item => ({
  id,
  kind,
  projectId: project.id,
  parentId,
  number: 6,
  code: id,
  name: null,
  on: '2026-11-25',
  at: kind === 'load' ? load.batchedAt : AT,
  by: PERSON.id,
  subjectId: 'mix',
  revisionId: 'rev',
  facts: facts as Item['facts'],
  answered: [],
  voided: false,
  children: 0,
  outs: 0,
  samples: 0,
  worst: null,
});

const { revisions, ...mixHead } = mix;

export const sample: Sample = {
  readAt: AT,
  id: 'sample',
  label: 'Q-106',
  createdAt: AT,
  by: PERSON.id,
  project,
  pour,
  mix: mixHead,
  revision: revisions[0]!,
  load,
  specifications: [specification],
  kit: [
    {
      id: 'old',
      projectId: project.id,
      kind: 'air-meter',
      name: 'Air meter 2',
      calibratedOn: '2026-08-01',
      until: '2026-11-01',
      wrong: null,
      sources: { 'meter.division': { text: '0.5', unit: '%' } },
    },
    {
      id: 'new',
      projectId: project.id,
      kind: 'air-meter',
      name: 'Air meter 1',
      calibratedOn: '2026-10-01',
      until: '2027-01-01',
      wrong: null,
      sources: { 'meter.division': { text: '0.5', unit: '%' } },
    },
  ],
  sources: { 'mix.correction': { text: '0.4', unit: '%' }, 'mix.aggregate': 'normal' },
  events: [
    { id: 'e1', kind: 'portion', at: AT, part: 'middle' },
    { id: 'e2', kind: 'portion', at: later(300), part: 'middle' },
    { id: 'e3', kind: 'finished', at: later(360), part: null },
  ],
  ownCopies: [],
  given: {},
  tests: [],
  history: {},
  line: [
    item('pour', 'pour', null, { element: 'Deck', planned: pour.planned }),
    item('load', 'load', 'pour', {
      ...load,
      materials: load.materials.map(({ name, role, actual, unit }) => ({ name, role, actual: { text: actual, unit } })),
    }),
    item('sample', 'sample', 'load', { portions: [{ at: AT }, { at: later(300) }], finished: later(360) }),
  ],
  findings: [],
  decisions: [],
};

/** A kept test, computed as the server would. */
export function keptTest(method: string, values: Record<string, [string, UnitId | null]>, more: Partial<Test> = {}): Test {
  const readings = Object.entries(values).map(([field, [text, unit]]): Reading => ({
    id: `${method}-${field}`,
    field,
    text,
    unit,
    by: OTHER.id,
    at: later(420),
    receivedAt: later(421),
    device: 'hand',
    supersedes: null,
    reason: null,
  }));
  const variant = Object.keys(methodById(method)!.variants)[0]!;
  const test: Test = {
    id: `test-${method}`,
    method,
    variant,
    variantReason: null,
    system: 'si',
    startedAt: later(400),
    by: OTHER.id,
    equipmentId: null,
    retestOf: null,
    readings,
    own: null,
    kit: null,
    also: [],
    kitReason: null,
    given: { sources: {}, took: {}, from: [] },
    again: false,
    kept: null,
    ...more,
  };
  const now = situation(sample, test, entriesOf(test.readings))!;
  const evaluation = evaluate(now.method, now.inputs, now.how);
  const judged = judgeAll(now.method, evaluation, sample.specifications);
  return {
    ...test,
    kept: {
      turn: 0,
      coreVersion: '0',
      computedAt: AT,
      cause: null,
      inputs: now.inputs,
      evaluation,
      judged,
      guidance: guidance(now.method, evaluation, judged),
    },
  };
}
