import {
  entriesOf as inForceOf,
  situation,
  type Around,
  type Equipment,
  type GivenTo,
  type Kept,
  type Reading,
  type Sheet,
  type Test,
} from '@keen-mortar/contract';
import {
  chainsOf,
  CORE_VERSION,
  evaluate,
  guidance,
  judgeAll,
  methodById,
  stateOfTest,
  type AnyMethod,
  type Evaluation,
  type Judged,
} from '@keen-mortar/core';
import type { Cx } from '../db.js';
import { entriesOf } from '../store/entries.js';
import { kitOfTests } from '../store/test-kit.js';
import { ownOfTest } from '../store/own-copies.js';
import { specificationsNamed } from '../store/specifications.js';
import { waitingAt } from '../store/pending.js';
import { itemIdOfTest, testsOfItems, type KeptEvaluation, type TestRecord } from '../store/tests.js';
import { frameOf, type Frame } from './around.js';
import { givenTo } from './given.js';

/** An item’s tests with all that they are worked out from. */
export interface Bench extends Frame {
  readonly records: readonly TestRecord[];
  readonly tests: readonly Test[];
}

/**
 * The evaluation that was kept, worked out again from what was frozen with it. Under another core than that which kept
 * it, it says what it said then; lines of working that would lead elsewhere are left out.
 */
export function keptOf(m: AnyMethod, kept: KeptEvaluation, specifications: Frame['specifications']): Kept {
  const { inputs, how, specificationIds, said } = kept.frozen;
  const again = evaluate(m, inputs, { ...how, working: true });
  const evaluation =
    kept.core === CORE_VERSION ? again : { ...again, ...said, ...(alike(again.results, said.results) ? {} : { working: [] }) };
  const judged = judgeAll(
    m,
    evaluation,
    specifications.filter((s) => specificationIds.includes(s.id)),
  );
  return {
    turn: kept.turn,
    coreVersion: kept.core,
    computedAt: kept.computedAt.toISOString(),
    inputs: inputs as Kept['inputs'],
    cause: kept.cause,
    evaluation,
    judged,
    guidance: guidance(m, evaluation, judged),
  };
}

/** As they are written: what a result works out when it is asked for is asked for. */
const alike = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

const NOTHING: GivenTo = { sources: {}, took: {}, from: [] };

/** What a test stands on beside its readings. */
export interface Beside {
  readonly kit: Equipment | null;
  readonly also?: readonly Equipment[];
  readonly own: Test['own'];
  readonly given?: GivenTo | undefined;
  readonly again?: boolean;
}

export function testView(
  record: TestRecord,
  readings: readonly Reading[],
  { kit, also, own, given, again }: Beside,
  specifications: Frame['specifications'],
): Test {
  const m = methodById(record.method);
  return {
    id: record.id,
    method: record.method,
    variant: record.variant,
    variantReason: record.variantReason,
    system: record.system,
    startedAt: record.startedAt.toISOString(),
    by: record.by,
    equipmentId: record.equipmentId,
    retestOf: record.retestOf,
    readings,
    own,
    kit,
    also: also ?? [],
    kitReason: record.kitReason,
    given: given ?? NOTHING,
    again: again === true,
    kept: record.newest && m ? keptOf(m, record.newest, specifications) : null,
  };
}

/** @param which are worked out here: what other tests give to these is looked up */
export async function benchOf(cx: Cx, frame: Frame, which: (id: string) => boolean = () => true): Promise<Bench> {
  const records = await testsOfItems(cx, [frame.item.id]);
  const [readings, kit, own, given] = await Promise.all([
    entriesOf(
      cx,
      records.map((r) => r.id),
    ),
    kitOfTests(
      cx,
      records.map((r) => r.id),
    ),
    Promise.all(records.map((r) => ownOfTest(cx, r.ownCopyId))),
    givenTo(
      cx,
      frame,
      records.filter((r) => which(r.id)),
    ),
  ]);
  // What a test was judged by stays its own, whatever the item must meet by now.
  const judgedBy = await specificationsNamed(cx, [...new Set(records.flatMap((r) => r.newest?.frozen.specificationIds ?? []))]);
  const tests = records.map((r, i) => {
    const all = kit.get(r.id) ?? [];
    const beside: Beside = {
      kit: all.find((k) => k.id === r.equipmentId) ?? null,
      also: all.filter((k) => k.id !== r.equipmentId),
      own: own[i] ?? null,
      given: given.get(r.id),
    };
    return testView(r, readings.get(r.id) ?? [], beside, judgedBy);
  });
  return { ...frame, records, tests: inTurn(tests) };
}

/** What is told of a test is told of it together with those that it was made because of, as its sheet tells it. */
export function inTurn(tests: readonly Test[]): Test[] {
  const judged = tests.flatMap(({ id, retestOf, method, kept }) => {
    const m = methodById(method);
    if (!m || !kept) return [];
    const { evaluation } = kept;
    const state = evaluation.validity.state === 'void' ? 'void' : stateOfTest(m, evaluation, kept.judged);
    return [{ id, retestOf, method: m, state, outcome: evaluation }];
  });
  const turns = new Map(
    chainsOf(judged)
      .flat()
      .map(({ test, turn }) => [test.id, { m: test.method, pair: turn?.pair ?? null }]),
  );
  return tests.map((test) => {
    const turn = turns.get(test.id);
    if (!turn?.pair || !test.kept) return test;
    return { ...test, kept: { ...test.kept, guidance: guidance(turn.m, test.kept.evaluation, test.kept.judged, turn.pair) } };
  });
}

/** For whoever looks at it: with what waits to be worked out again. */
export async function benchShown(cx: Cx, frame: Frame): Promise<{ readonly bench: Bench; readonly again: Sheet['again'] }> {
  const [bench, { own, on }] = await Promise.all([benchOf(cx, frame), waitingAt(cx, frame.item.id)]);
  return { bench: { ...bench, tests: bench.tests.map((t) => (own.has(t.id) ? { ...t, again: true } : t)) }, again: on };
}

/** A test worked out on what is in force now. */
export interface WorkedOut {
  readonly evaluation: Evaluation;
  readonly judged: readonly Judged[];
  readonly frozen: KeptEvaluation['frozen'];
  readonly core: string;
}

export function workOut(around: Omit<Around, 'history' | 'kit' | 'given' | 'ownCopies'>, test: Test): WorkedOut {
  const now = situation({ ...around, kit: [], given: {}, ownCopies: [] }, test, inForceOf(test.readings));
  if (!now) throw new Error(`no method ${test.method}`);
  const { working: _working, offers: _offers, ...how } = now.how;
  const evaluation = evaluate(now.method, now.inputs, now.how);
  const { results, validity, issues, missing, notes } = evaluation;
  return {
    evaluation,
    judged: judgeAll(now.method, evaluation, around.specifications),
    // The parameters as they are now: what a variant says later moves nothing.
    frozen: {
      inputs: now.inputs,
      how: { ...how, params: evaluation.params },
      specificationIds: around.specifications.map((s) => s.id),
      ...(Object.keys(test.given.took).length === 0 ? {} : { took: test.given.took }),
      said: { results, validity, issues, missing, notes },
    },
    core: CORE_VERSION,
  };
}

export async function testOf(cx: Cx, testId: string): Promise<Test> {
  const { bench } = await benchShown(cx, await frameOf(cx, await itemIdOfTest(cx, testId)));
  return bench.tests.find((t) => t.id === testId)!;
}
