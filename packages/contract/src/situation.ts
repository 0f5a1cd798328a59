import {
  assemble,
  compositeOf,
  byOwnCopy,
  evaluate,
  inputsOf,
  kitMarks,
  LENGTH_CHANGE,
  prismRemarks,
  runById,
  shortOf,
  waterSince,
  runMarks,
  stepsOf,
  unsaidKit,
  unsaidRemark,
  say,
  type OwnFigures,
  type PrismFacts,
  methodById,
  otherSpecimen,
  type AnyInputs,
  type AnyMethod,
  type Asked,
  type Events,
  type How,
  type Field,
  type EntryInForce,
  type ResultField,
  type Kit,
  type Remark,
  type RowOrder,
  type Shape,
  type Sources,
} from '@keen-mortar/core';
import { batchOf } from './batch.js';
import { ownCopyAt } from './own-copies.js';
import type { Around, Reading, Test } from './resources.js';
import { dayIn } from './zone.js';

type Known = Pick<Around, 'events' | 'load' | 'revision' | 'sources' | 'kit' | 'ownCopies' | 'tests' | 'project' | 'given'>;
type Started = Pick<Test, 'method' | 'variant' | 'system' | 'startedAt' | 'equipmentId' | 'retestOf' | 'readings'> &
  Partial<Pick<Test, 'kit' | 'also' | 'kitReason' | 'given' | 'own'>> & { readonly alsoIds?: readonly string[] };

/** One value that was read, as the page drafts it or the table keeps it. */
export type Entry = EntryInForce;

export interface Situation {
  readonly method: AnyMethod;
  readonly inputs: AnyInputs;
  /** Which row of the record stands at which place of the inputs. */
  readonly rows: RowOrder;
  readonly how: How;
}

/** What was kept last at each path, what strikes out as well. */
export const lastOf = (readings: readonly Reading[]): Map<string, Reading> => new Map(readings.map((reading) => [reading.field, reading]));

/** A reading that stands. */
export type InForce = Reading & { readonly text: string };

/** The reading in force of each field: the last of its turns, if it was not struck out. Earlier ones stay in the list. */
export function inForce(readings: readonly Reading[]): Map<string, InForce> {
  return new Map([...lastOf(readings)].filter((entry): entry is [string, InForce] => entry[1].text !== null));
}

const ms = (iso: string): number => Date.parse(iso);

const isAside = (field: Field | undefined): boolean => field?.optional === true || field?.minor === true;

/** When things happened, as the core's windows name them. */
export function eventsOf(sample: Pick<Around, 'events' | 'load'>, test?: Pick<Test, 'method' | 'startedAt' | 'readings'>): Events {
  const of = (kind: string): number[] => sample.events.filter((event) => event.kind === kind).map((event) => ms(event.at));
  const [portions, finished, molding, discharged] = ['portion', 'finished', 'molding', 'discharged'].map(of) as [
    number[],
    number[],
    number[],
    number[],
  ];
  // Only what the result needs tells when it was done, and only its first reading: neither a correction nor
  // a remark that is keyed later makes a test late.
  const fields = (test && methodById(test.method)?.fields) as Shape | undefined;
  const firsts = (test?.readings ?? [])
    .filter((reading) => reading.supersedes === null && !isAside(fields?.[reading.field.split('.')[0]!]))
    .map((reading) => ms(reading.at));
  return {
    ...(sample.load ? { 'load.batched': ms(sample.load.batchedAt) } : {}),
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
export function situation(sample: Known, test: Started, entries: ReadonlyMap<string, Entry>): Situation | null {
  const method = methodById(test.method);
  if (!method) return null;
  const kit = kitOf(sample, test);
  const sources = sourcesFor(sample, test);
  const { inputs: readings, rows } = assemble(method.fields as Shape, entries);
  const inputs = inputsOf(method, readings, sources);
  return {
    method,
    inputs,
    rows,
    how: {
      variant: test.variant,
      system: test.system,
      working: true,
      events: eventsOf(sample, test),
      ...together(
        onRecord(sample, test, method, [kit, ...alsoOf(sample, test)], sources, inputs),
        byOwnCopy(method, test.variant, ownOf(sample, test)),
      ),
    },
  };
}

/** What the record says for and against a test: its equipment, its sample, water that came later. */
function onRecord(
  sample: Known,
  test: Started,
  method: AnyMethod,
  kit: readonly (Kit | undefined)[],
  given: Sources,
  inputs: AnyInputs,
): Pick<How, 'marks' | 'voids' | 'notes' | 'doubts' | 'usual'> {
  const day = dayIn(sample.project.timezone, test.startedAt);
  const marks: Remark[] = [
    ...kit.flatMap((k) => kitMarks(k, day, test.kitReason ?? null)),
    ...unsaidMarks(test, method),
    ...setMarks(sample, test, method, inputs),
    ...benchMarks(sample, method, given),
    ...leastMarks(sample, method, inputs),
  ];
  const asks = doubtsOf(sample, method, inputs);
  if (sample.sources['prisms.cast'] !== undefined) {
    const prisms = prismRemarks(prismFacts(sample.sources), readAt(sample, test));
    return { ...asks, marks: [...marks, ...prisms.marks], voids: prisms.voids };
  }
  if (!sample.load || sample.sources['sample.portions'] === undefined) return { marks, ...asks };
  const fresh = method.work?.on === 'fresh';
  const { 'sample.portions': portions, 'sample.finished': finished } = sample.sources;
  const { validity } = compositeOf({ facts: { portions, finished } as AnyInputs }, test.system);
  const water = fresh ? waterSince(sample.load, ms(test.startedAt)) : null;
  return {
    ...asks,
    // What strayed in it stands on every test of the sample, and what it was molded into.
    marks: validity.state === 'marked' ? [...marks, ...validity.reasons] : marks,
    voids: validity.state === 'void' ? validity.reasons.map((r) => ({ code: 'sample-void', params: { why: say(r.code, r.params) } })) : [],
    notes: water === null ? [] : [{ code: 'water-after-test', params: { water } }],
  };
}

/** What a set went through, and whether it was broken at its age, stands on what its specimens gave. */
function setMarks(sample: Known, test: Started, method: AnyMethod, inputs: AnyInputs): Remark[] {
  if (!method.breaks) return [];
  const { sources } = sample;
  const of = (id: string, inputs: AnyInputs): readonly Remark[] => {
    const m = methodById(id)!;
    const [variant] = Object.keys(m.variants) as [string];
    const { validity } = evaluate(m, inputsOf(m, inputs, sources), { variant, system: test.system, offers: false });
    return validity.state === 'marked' ? validity.reasons : [];
  };
  const age = sources['specimen.age'];
  const at = { age, cast: sources['specimens.made'], broken: test.startedAt } as AnyInputs;
  const other = otherSpecimen({ facts: setFacts(sources) }, method, inputs);
  return [
    ...of('curing', {}),
    ...(age === undefined || sources['specimens.shape'] === 'core' ? [] : of('age-window', at)),
    ...(other ? [{ code: other.code, params: other.params }] : []),
  ];
}

/** Somebody went on without naming the instrument, and said why. */
function unsaidMarks({ equipmentId, kitReason = null }: Started, method: AnyMethod): Remark[] {
  const unsaid = unsaidKit(method, equipmentId);
  return unsaid === null || kitReason === null ? [] : [unsaidRemark(unsaid, kitReason)];
}

/** What a set of prisms gives to its tests of its first hours. */
const prismFacts = (sources: Sources): PrismFacts => ({
  castAt: sources['prisms.cast'] as string | undefined,
  regime: sources['prisms.regime'] as string | undefined,
  demolded: sources['prisms.demolded'] as string | undefined,
  initialAt: sources['prisms.initial'] as string | undefined,
});

/** When a set of prisms was read, this time with the others, ms. */
const readAt = (sample: Pick<Known, 'tests'>, test: Started): number[] =>
  [...sample.tests.filter((t) => t.kept !== null), test].filter((t) => t.method === LENGTH_CHANGE).map((t) => ms(t.startedAt));

/** What a set was molded as, as far as what it gives to its tests says so. */
const setFacts = (sources: Sources): AnyInputs =>
  ({ shape: sources['specimens.shape'], width: sources['specimens.width'] }) as unknown as AnyInputs;

/** So far from what its mix is designed for air is asked about, points. */
const AIR_AROUND = 4;

/** What is asked about before it is kept: a specimen that is not of its set, air that is far from the design's. */
function doubtsOf({ sources, revision }: Known, method: AnyMethod, inputs: AnyInputs): Pick<How, 'doubts' | 'usual'> {
  const other = method.breaks ? otherSpecimen({ facts: setFacts(sources) }, method, inputs) : null;
  const design = Number(revision?.air);
  const air = Object.entries(method.results as Readonly<Record<string, ResultField>>).find(([, f]) => f.property === 'air')?.[0];
  return {
    ...(other ? { doubts: [other] } : {}),
    ...(air !== undefined && Number.isFinite(design)
      ? { usual: { [air]: { unit: '%', least: String(Math.max(0, design - AIR_AROUND)), most: String(design + AIR_AROUND) } } }
      : {}),
  };
}

/** Less of it than its least mass says less of the whole. */
function leastMarks({ sources }: Known, { least }: AnyMethod, inputs: AnyInputs): Remark[] {
  const short = least && shortOf(least.table, (inputs as Readonly<Record<string, unknown>>)[least.of], sources['source.nominal']);
  return short ? [{ code: 'tested-too-little', params: short }] : [];
}

/** What strayed while it went through its steps at the bench stands on what the run ends in. */
function benchMarks({ sources }: Known, method: AnyMethod, given: Sources): Remark[] {
  const run = runById(sources['portion.run']);
  if (!run?.tests?.includes(method.id)) return [];
  const trial = given['test.cone'] as { readonly reading?: string } | undefined;
  const cone = run.events.some((e) => e.test === 'cone') && trial?.reading === undefined;
  return [...runMarks(run, stepsOf(sources['portion.steps'])), ...(cone ? [{ code: 'no-cone-trial' as const, params: {} }] : [])];
}

/** As the test was started by; of one that is being keyed, as it is in force now. */
function ownOf(sample: Known, test: Started): OwnFigures | null {
  const own = test.own === undefined ? ownCopyAt(sample.ownCopies, test, test.startedAt) : test.own;
  return own?.figures ?? null;
}

const together = (a: Pick<How, 'marks' | 'voids' | 'notes' | 'doubts' | 'usual'>, b: Pick<How, 'params' | 'notes'>): Partial<How> => ({
  ...a,
  ...b,
  notes: [...(a.notes ?? []), ...(b.notes ?? [])],
});

/** As it was when the test was started; of one that is being keyed, as it is. */
const kitOf = (sample: Known, test: Started): Kit | undefined => test.kit ?? sample.kit.find((k) => k.id === test.equipmentId);

const alsoOf = (sample: Known, test: Started): readonly Kit[] =>
  test.also ?? sample.kit.filter((k) => test.alsoIds?.includes(k.id) === true);

/** What a mix, a source and their specifications ask of the tests of an item. */
export const askedOf = ({ sources, specifications }: Pick<Around, 'sources' | 'specifications'>): Asked => ({
  sources,
  properties: specifications.flatMap((s) => s.limits.map((l) => l.property)),
});

/** All that the record gives to a test. */
export function sourcesFor(sample: Known, test: Started): Sources {
  const kit = kitOf(sample, test);
  const before = sample.tests.find((t) => t.id === test.retestOf);
  const shape = before && inForce(before.readings).get('shape')?.text;
  // What was in the truck when it was tested.
  const batch = sample.load && sample.revision ? { 'ticket.batch': batchOf(sample.load, sample.revision, ms(test.startedAt)) } : {};
  const given = (test.given ?? sample.given[test.method])?.sources;
  // What is used beside it gives what it has; the one that enters the result comes before it.
  const also = Object.assign({}, ...alsoOf(sample, test).map((k) => k.sources)) as Sources;
  return { ...sample.sources, ...batch, ...also, ...kit?.sources, ...given, ...(shape ? { 'retest.shape': shape } : {}) };
}

/** Entries of a test's readings in force. */
export function entriesOf(readings: readonly Reading[]): Map<string, Entry> {
  return new Map([...lastOf(readings)].map(([field, r]) => [field, { text: r.text, unit: r.unit, reading: r.id }]));
}
