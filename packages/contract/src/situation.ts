import {
  inputsOf,
  kitMarks,
  methodById,
  type AnyInputs,
  type AnyMethod,
  type Events,
  type How,
  type Kit,
  type Sources,
  type UnitId,
} from '@keen-mortar/core';
import type { Reading, Sample, Test } from './resources.js';

type Known = Pick<Sample, 'events' | 'load' | 'sources' | 'kit' | 'tests'>;
type Place = Pick<Test, 'method' | 'variant' | 'system' | 'startedAt' | 'equipmentId' | 'retestOf' | 'readings'>;

/** One value that was read, as the page drafts it or the table keeps it. */
export interface Entry {
  readonly text: string;
  readonly unit: UnitId | null;
  readonly reading?: string;
}

export interface Situation {
  readonly method: AnyMethod;
  readonly inputs: AnyInputs;
  readonly how: How;
}

/** The reading in force of each field: the last of its turns. Earlier ones stay in the list. */
export function inForce(readings: readonly Reading[]): Map<string, Reading> {
  return new Map(readings.map((reading) => [reading.field, reading]));
}

const ms = (iso: string): number => Date.parse(iso);

/** When things happened, as the core's windows name them. */
export function eventsOf(sample: Pick<Sample, 'events' | 'load'>, test?: Pick<Test, 'startedAt' | 'readings'>): Events {
  const of = (kind: string): number[] => sample.events.filter((event) => event.kind === kind).map((event) => ms(event.at));
  const [portions, finished, molding, discharged] = ['portion', 'finished', 'molding', 'discharged'].map(of) as [
    number[],
    number[],
    number[],
    number[],
  ];
  // A correction made later does not make a test late: only first readings tell when it was done.
  const firsts = (test?.readings ?? []).filter((reading) => reading.supersedes === null).map((reading) => ms(reading.at));
  return {
    'load.batched': ms(sample.load.batchedAt),
    ...(discharged.length > 0 ? { 'load.discharged': Math.min(...discharged) } : {}),
    ...(portions.length > 0 ? { 'sample.first-portion': Math.min(...portions), 'sample.final-portion': Math.max(...portions) } : {}),
    ...(finished.length > 0 ? { 'sample.finished': Math.min(...finished) } : {}),
    ...(molding.length > 0 ? { 'sample.molding': Math.min(...molding) } : {}),
    ...(test ? { 'test.started': ms(test.startedAt) } : {}),
    ...(firsts.length > 0 ? { 'test.finished': Math.max(...firsts) } : {}),
  };
}

/**
 * Everything that the core needs to evaluate a test: readings, what the record gives, and when.
 * The page (with drafts) and the server (with readings) both come through here, so that both
 * compute on the same inputs.
 */
export function situation(sample: Known, test: Place, entries: ReadonlyMap<string, Entry>): Situation | null {
  const method = methodById(test.method);
  if (!method) return null;
  const kit = sample.kit.find((k) => k.id === test.equipmentId);
  const sources = sourcesFor(sample, test, kit);
  const readings = Object.fromEntries(
    [...entries].map(([field, { text, unit, reading }]) => [field, unit === null ? text : { text, unit, ...(reading ? { reading } : {}) }]),
  );
  return {
    method,
    inputs: inputsOf(method, readings, sources),
    how: {
      variant: test.variant,
      system: test.system,
      working: true,
      events: eventsOf(sample, test),
      marks: kitMarks(kit, test.startedAt.slice(0, 10)),
    },
  };
}

function sourcesFor(sample: Known, test: Place, kit: Kit | undefined): Sources {
  const before = sample.tests.find((t) => t.id === test.retestOf);
  const shape = before && inForce(before.readings).get('shape')?.text;
  return { ...sample.sources, ...kit?.sources, ...(shape ? { 'retest.shape': shape } : {}) };
}

/** Entries of a test's readings in force. */
export function entriesOf(readings: readonly Reading[]): Map<string, Entry> {
  return new Map([...inForce(readings)].map(([field, r]) => [field, { text: r.text, unit: r.unit, reading: r.id }]));
}
