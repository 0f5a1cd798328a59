import {
  dayIn,
  entriesOf,
  inForce,
  sourcesFor,
  type Equipment,
  type Item,
  type Keep,
  type KeepAnswer,
  type NewTest,
  type Reading,
  type Test,
} from '@keen-mortar/contract';
import {
  assemble,
  ageWindow,
  CALIBRATION,
  curing,
  endsTesting,
  entryPath,
  ITEM_KINDS,
  kitMarks,
  unsaidKit,
  unsaidRemark,
  say,
  keyedFields,
  methodById,
  otherInstrument,
  nextStep,
  takenBy,
  testDue,
  WAIT_FOR_RESULTS,
  type AnyMethod,
  type Evaluation,
  type ItemKind,
  type RowOrder,
  type Shape,
  type Issue,
} from '@keen-mortar/core';
import type { PoolConnection } from 'mysql2/promise';
import type { Act } from '../actor.js';
import { fault, type ToldFault } from '../faults.js';
import { faultOf, notFound, Refused } from '../problems.js';
import { frameOf, type Frame } from '../queries/around.js';
import { givenTo } from '../queries/given.js';
import { benchOf, inTurn, keptOf, testView, workOut } from '../queries/tests.js';
import { inOrder, insertEntries } from '../store/entries.js';
import { lockLine } from '../store/items.js';
import { beginDue } from '../store/dues.js';
import { equipmentCalled, equipmentNamed, hasKit, type EquipmentThen } from '../store/kit.js';
import { insertTestKit } from '../store/test-kit.js';
import { ownCopyOn } from '../store/own-copies.js';
import { insertTest, itemIdOfTest, setStoodOn, testsOfItems, type TestRecord } from '../store/tests.js';
import { beginLedger } from '../store/ledger.js';
import { giveAgain, keepEvaluation, workOutAgain } from './again.js';
import { waitAgain } from './dues.js';
import { mustBeOf, mustFollow, mustHaveBeen, refuse } from './checks.js';
import { checkEntries, entriesFrom } from './entries.js';
import { stand } from './standing.js';
import { tellOf } from './telling.js';

/** Starts a test of an item: the method is one that is made on such items, the equipment one that it takes. */
export async function startTest(cx: PoolConnection, act: Act, itemId: string, body: NewTest): Promise<Test> {
  await lockLine(cx, itemId);
  const frame = await frameOf(cx, itemId);
  const { item, project } = frame;
  const gone = frame.line.find((i) => i.voided);
  if (gone) throw refuse('voided', 'itemId', `${gone.code} was voided: nothing is tested on it.`);
  const m = methodById(body.method);
  if (!m) throw refuse('unknown-method', 'method', `There is no method ${body.method}.`);
  if (!m.on?.includes(item.kind)) throw refuse('not-on-this', 'method', `${m.title} is not made on ${item.code}.`);
  if (!Object.hasOwn(m.variants, body.variant)) throw refuse('unknown-variant', 'variant', `${m.title} has no variant ${body.variant}.`);
  const startedAt = mustHaveBeen(body.startedAt, act, 'startedAt');
  if (frame.load)
    mustFollow(startedAt, new Date(frame.load.batchedAt), 'startedAt', 'A test cannot be started before the load was batched.');
  const day = dayIn(project.timezone, body.startedAt);
  const kit = await kitTaken(cx, m, project.id, body, { day, at: startedAt });
  const unsaid = unsaidKit(m, body.equipmentId);
  const remarks = [
    ...kit.flatMap((k) => kitMarks(k, day)),
    ...(unsaid !== null && (await hasKit(cx, project.id, unsaid)) ? [unsaidRemark(unsaid)] : []),
  ];
  if (remarks.length > 0 && body.kitReason === undefined)
    throw new Refused(
      'needs-reason',
      'Say why it is made with this equipment, or with none.',
      remarks.map(({ code, params }): ToldFault =>
        fault('needs-reason', 'kitReason', say(code, params), nextStep(code, params) ?? undefined),
      ),
    );
  if (m.breaks) mustBeWhole(item, await testsOfItems(cx, [item.id]));
  const made = (await testsOfItems(cx, [itemId])).filter((t) => t.method === body.method);
  if (body.retestOf !== null && !made.some((t) => t.id === body.retestOf))
    throw refuse('wrong-retest', 'retestOf', 'A repeat belongs to a test of the same method on the same sample.');
  const ended = made.flatMap((t) => t.newest?.frozen.said.validity.reasons ?? []).find(({ code }) => endsTesting(code));
  if (ended) throw refuse('testing-ended', 'method', say(ended.code, ended.params), nextStep(ended.code, ended.params) ?? undefined);
  const own = await ownCopyOn(cx, project.id, body.method, body.variant, startedAt);
  const record = {
    id: body.id,
    itemId,
    method: body.method,
    variant: body.variant,
    variantReason: body.variantReason ?? null,
    system: body.system,
    startedAt,
    by: act.personId,
    equipmentId: body.equipmentId,
    calibrationId: kit.find((k) => k.id === body.equipmentId)?.calibrationId ?? null,
    ownCopyId: own?.id ?? null,
    kitReason: remarks.length > 0 ? (body.kitReason ?? null) : null,
    retestOf: body.retestOf,
  };
  await insertTest(cx, record);
  await insertTestKit(cx, record.id, startedAt, kit);
  await beginLedger(cx, item, record);
  if (item.kind === 'sample') await beginDue(cx, itemId, testDue(m.id), startedAt);
  await tellOf(cx, act, frame.line, 'test', body.id);
  const given = (await givenTo(cx, frame, [{ ...record, newest: null }])).get(record.id);
  const isMain = (k: Equipment): boolean => k.id === body.equipmentId;
  return testView(
    { ...record, newest: null },
    [],
    { kit: kit.find(isMain) ?? null, also: kit.filter((k) => !isMain(k)), own, given },
    frame.specifications,
  );
}

/** What is broken cannot be broken once more: two stations had the same specimen in hand, or its label was read wrong. */
function mustBeWhole(item: Item, tests: readonly Pick<TestRecord, 'method' | 'newest'>[]): void {
  if (tests.some((t) => methodById(t.method)?.breaks && t.newest !== null))
    throw new Refused(
      'already-broken',
      `${item.code} is broken already. Look at its label; what was keyed then is corrected, not kept again.`,
    );
}

/** The equipment that a test is started with, the one that enters its result first: each of the project, and of a kind that the method takes. */
async function kitTaken(
  cx: PoolConnection,
  m: AnyMethod,
  projectId: string,
  body: NewTest,
  then: { day: string; at: Date },
): Promise<EquipmentThen[]> {
  const asked = [
    ...(body.equipmentId === null ? [] : [{ id: body.equipmentId, path: 'equipmentId', kinds: m.kit ? [m.kit] : [] }]),
    ...body.alsoIds.map((id, i) => ({ id, path: `alsoIds.${i}`, kinds: m.uses ?? [] })),
  ];
  const all = await equipmentNamed(
    cx,
    asked.map((a) => a.id),
    then.day,
    then.at,
  );
  const taken: EquipmentThen[] = [];
  for (const { id, path, kinds } of asked) {
    const kit = all.find((k) => k.id === id);
    if (kit?.projectId !== projectId) await mustBeOf(cx, 'equipment', id, projectId, path);
    if (!kit || !kinds.includes(kit.kind))
      throw refuse('wrong-kind', path, `${kit?.name ?? 'This'} does not serve ${m.title.toLowerCase()}.`);
    if (taken.some((k) => k.kind === kit.kind)) throw refuse('twice', path, `One ${CALIBRATION[kit.kind].label.toLowerCase()} at a time.`);
    taken.push(kit);
  }
  return taken;
}

/** What an instrument is called that gives itself an id; undefined where none of that id is at the end of a line. */
export type NameOf = (device: string) => string | undefined;

/**
 * Keeps readings and works the test out with them. All of it or nothing: an impossible reading, a correction
 * without a reason, or one that somebody else has corrected meanwhile refuses the whole.
 * @param nameOf what an instrument at the end of a line is called: its piece of kit
 */
export async function keepReadings(
  cx: PoolConnection,
  act: Act,
  testId: string,
  body: Keep,
  nameOf: NameOf = () => undefined,
): Promise<KeepAnswer> {
  const itemId = await itemIdOfTest(cx, testId);
  await lockLine(cx, itemId);
  const bench = await benchOf(cx, await frameOf(cx, itemId), (id) => id === testId);
  const [test, record] = [bench.tests.find((t) => t.id === testId), bench.records.find((r) => r.id === testId)];
  if (!test || !record) throw notFound('test', testId);
  const m = methodById(test.method);
  if (!m) throw new Error(`table holds a test of unknown method ${test.method}`);
  if (m.breaks && !test.kept)
    mustBeWhole(
      bench.item,
      bench.records.filter((r) => r.id !== testId),
    );
  const sources = sourcesFor({ ...bench, kit: [], given: {}, ownCopies: [] }, test);
  const keyed = new Set(keyedFields(m, test.variant, sources).map(([id]) => id));
  const turns = checkEntries(m.title, m.fields as Shape, test.readings, body, (top) => keyed.has(top));

  const added = entriesFrom(act, body);
  const readings = [...test.readings, ...added];
  const now = workOut(bench, { ...test, readings });
  if (body.readings.length === 0 && (test.kept || now.evaluation.missing.length > 0))
    throw refuse('needs-reading', 'readings', test.kept ? 'Nothing of it was changed.' : 'The record does not give all of it.');
  checkIssues(m, now.evaluation, readings);
  await checkInstruments(cx, m, bench.item.projectId, test, added, nameOf);

  await insertEntries(cx, testId, added, turns);
  await keepEvaluation(cx, act, test, now, null);
  const turn = test.kept ? test.kept.turn + 1 : 0;
  const kept = keptOf(m, { turn, core: now.core, cause: null, computedAt: act.now, frozen: now.frozen }, bench.specifications);
  const alone: Test = { ...test, readings: inOrder(readings), kept };
  const tests = inTurn(bench.tests.map((t) => (t.id === testId ? alone : t)));
  const answer = tests.find((t) => t.id === testId)!;
  await stand(cx, bench, tests, new Set([test.method]));
  if (test.kept) await workOutAgain(cx, act, { usedId: testId, usedItemId: itemId }, { kind: 'test', id: testId });
  else await setStoodOn(cx, testId, usedBy(bench, m, test));
  if (m.gives) await giveAgain(cx, act, bench, m, testId);
  if (!test.kept && WAIT_FOR_RESULTS.includes(bench.item.kind)) await waitAgain(cx, bench, await testsOfItems(cx, [itemId]));
  await tellOf(cx, act, bench.line, 'reading', testId);
  return { test: answer, differs: differing(answer, body.shown) };
}

/** What speaks of the set that a broken specimen is one of. */
const SET_METHODS = [curing, ageWindow];

/** All that a test is worked out from beside its own readings and its equipment, which never move. */
function usedBy(frame: Frame, m: AnyMethod, test: Test): string[] {
  const takes = takenBy(m);
  const sources = new Set(
    [m, ...(m.breaks ? SET_METHODS : [])].flatMap(({ fields }) => Object.values(fields as Shape).map((f) => f.from ?? f.takes)),
  );
  const gives = (kind: ItemKind): boolean => Object.values(ITEM_KINDS[kind].gives ?? {}).some((source) => sources.has(source));
  const used = frame.line.filter(
    ({ id, kind }) => ITEM_KINDS[kind].tells ?? (gives(kind) || takes.item.length > 0 || (takes.made !== null && id === frame.item.id)),
  );
  return [...used.map((i) => i.id), ...(test.retestOf === null ? [] : [test.retestOf]), ...Object.values(test.given.took)];
}

/** Every digit that the page had shown otherwise. */
export const differing = (test: Test, shown: Readonly<Record<string, string>>): KeepAnswer['differs'] =>
  (test.kept?.evaluation.results ?? []).flatMap((r) => {
    const was = shown[r.id];
    return was !== undefined && r.reported !== null && was !== r.reported ? [{ result: r.id, shown: was, kept: r.reported }] : [];
  });

function checkIssues(m: AnyMethod, evaluation: Evaluation, readings: readonly Reading[]): void {
  const impossible = evaluation.issues.filter((issue) => issue.severity === 'impossible');
  const { rows } = assemble(m.fields as Shape, entriesOf(readings));
  if (impossible.length > 0)
    throw new Refused(
      'invalid-input',
      `${m.title}: ${impossible.length === 1 ? 'a reading is' : 'readings are'} impossible.`,
      impossible.map((issue) => onRecord(faultOf(m, issue), rows)),
    );
  const current = inForce(readings);
  // What is unlikely of the whole, or of a value that the record gives, is explained at any reading of the test.
  const explained = [...current.values()].some((r) => r.reason !== null);
  const unexplained = evaluation.issues.filter(({ code, path }) => {
    const own = current.get(entryPath(rows, path) ?? path);
    return own ? own.reason === null : code === 'unlikely-result' && !explained;
  });
  if (unexplained.length > 0) {
    throw new Refused(
      'needs-reason',
      'An unlikely reading is kept with a reason.',
      unexplained.map((issue): ToldFault => ({ ...onRecord(faultOf(m, issue), rows), code: 'needs-reason' })),
    );
  }
}

/** What was read from an instrument that the test is not made with is kept with a reason. */
async function checkInstruments(
  cx: PoolConnection,
  m: AnyMethod,
  projectId: string,
  { kit, also }: Test,
  added: readonly Reading[],
  nameOf: NameOf,
): Promise<void> {
  const made = [...(kit ? [kit] : []), ...also];
  const wrong: Issue[] = [];
  for (const { field, device, reason } of added) {
    const name = reason === null && made.length > 0 ? nameOf(device) : undefined;
    const read = name === undefined ? undefined : await equipmentCalled(cx, projectId, name);
    const doubt = read && otherInstrument(field, read, made);
    if (doubt) wrong.push(doubt);
  }
  if (wrong.length > 0)
    throw new Refused(
      'needs-reason',
      'A reading of another instrument is kept with a reason.',
      wrong.map((d): ToldFault => ({ ...faultOf(m, d), code: 'needs-reason' })),
    );
}

/** A fault by the path of the record: rows by their ids. */
const onRecord = (fault: ToldFault, rows: RowOrder): ToldFault => ({ ...fault, path: entryPath(rows, fault.path) ?? fault.path });
