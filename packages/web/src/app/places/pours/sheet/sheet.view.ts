import {
  askedOf,
  dayIn,
  fillingOf,
  entriesOf,
  inForce,
  situation,
  type Entry,
  type Reading,
  type Sample,
  type Test,
} from '@keen-mortar/contract';
import {
  evaluate,
  FRESH_TESTS,
  testsFor,
  judgeAll,
  judgeTurn,
  methodById,
  guidance,
  otherVariants,
  usualInputs,
  usualVariant,
  worst,
  type AnyInputs,
  type AnyMethod,
  type CrossCheck,
  type OtherVariant,
  type Told,
  type Evaluation,
  type Judged,
  type Keyed,
  type PairVerdict,
  type Turn,
  type Verdict,
  type VerdictState,
  verdictOfEach,
} from '@keen-mortar/core';
import { createSelector } from '@ngrx/store';
import { usualKit } from '../../../test/sound-kit';
import type { Command, Draft, DraftEntry } from '../../../device/device-db';
import { sheet } from './sheet.state';

/** A test as the sheet shows it, kept or being keyed. `key` is its id, or `new:method` before anything was keyed. */
export interface Row {
  readonly key: string;
  readonly method: AnyMethod;
  readonly test: Test | null;
  readonly draft: Draft | null;
  readonly retestOf: string | null;
  readonly evaluation: Evaluation;
  readonly judged: readonly Judged[];
  /** Verdicts of results that a specification may limit; the worst of several specifications first. */
  readonly verdicts: readonly Verdict[];
  readonly state: VerdictState;
  readonly waiting: boolean;
  readonly pair: PairVerdict | null;
  /** First and check test further apart than two results may be. */
  readonly apart: CrossCheck | null;
  /** What it was made as, because of the one before it. */
  readonly as: Turn['as'] | null;
  readonly hasRepeat: boolean;
}

type Place = Pick<Test, 'method' | 'variant' | 'system' | 'startedAt' | 'equipmentId' | 'retestOf' | 'readings'> &
  Partial<Pick<Test, 'own' | 'kit' | 'also' | 'kitReason'>> & { readonly alsoIds?: readonly string[] };

/** Drafted values lie over kept ones: what is computed is what will be kept. */
function entries(test: Test | null, draft: Draft | null): Map<string, Entry> {
  const all = test ? entriesOf(test.readings) : new Map<string, Entry>();
  for (const [field, { text, unit, reading }] of Object.entries(draft?.entries ?? {})) {
    if (text.trim() === '') all.delete(field);
    else all.set(field, { text, unit, reading });
  }
  return all;
}

/** For the clocks a drafted reading counts as read when it was keyed. */
function readingsFor(test: Test | null, draft: Draft | null): Reading[] {
  const drafted = Object.entries(draft?.entries ?? {}).filter(([, e]) => e.text.trim() !== '');
  const kept = test?.readings ?? [];
  const current = inForce(kept);
  return [
    ...kept,
    ...drafted.map(([field, e]): Reading => ({
      id: e.reading,
      field,
      text: e.text,
      unit: e.unit,
      by: '',
      at: draft?.readAt ?? e.at,
      receivedAt: e.at,
      device: 'hand',
      supersedes: current.get(field)?.id ?? null,
      reason: e.reason ?? null,
    })),
  ];
}

const placeOf = (test: Test | null, draft: Draft | null, now: string): Place => {
  const source = draft ?? test!;
  return {
    method: source.method,
    variant: source.variant,
    system: source.system,
    equipmentId: source.equipmentId,
    retestOf: source.retestOf,
    startedAt: draft?.startedAt ?? test?.startedAt ?? now,
    readings: readingsFor(test, draft),
    ...(test ? { own: test.own, kit: test.kit, also: test.also, kitReason: test.kitReason } : {}),
    ...(draft && !test ? { alsoIds: draft.alsoIds, kitReason: draft.kitReason.trim() || null } : {}),
  };
};

function evaluateRow(sample: Sample, test: Test | null, draft: Draft | null): { evaluation: Evaluation; judged: readonly Judged[] } | null {
  if (test?.kept && (!draft || Object.keys(draft.entries).length === 0))
    return { evaluation: test.kept.evaluation, judged: test.kept.judged };
  const place = placeOf(test, draft, new Date().toISOString());
  const now = situation(sample, place, entries(test, draft));
  if (!now) return null;
  const evaluation = evaluate(now.method, now.inputs, now.how);
  return { evaluation, judged: judgeAll(now.method, evaluation, sample.specifications) };
}

interface Made {
  readonly sample: Sample;
  readonly test: Test | null;
  readonly waiting: boolean;
  readonly row: Row | null;
}

/** What was worked out of what stands still is not worked out with every key into another test. */
const made = new WeakMap<object, Made>();

function rowOnce(sample: Sample, m: AnyMethod, test: Test | null, draft: Draft | null, key: string, waiting: boolean): Row | null {
  const of: object = draft ?? test!;
  const before = made.get(of);
  if (before?.sample === sample && before.test === test && before.waiting === waiting) return before.row;
  const row = rowFor(sample, m, test, draft, key, waiting);
  made.set(of, { sample, test, waiting, row });
  return row;
}

/** Blank rows of a sheet, as they are within a minute: what they hold matters only once something is keyed. */
const blanks = new WeakMap<Sample, { readonly minute: number; readonly rows: Map<string, Row | null> }>();
const MINUTE = 60_000;

function blankRow(sample: Sample, m: AnyMethod): Row | null {
  const minute = Math.floor(Date.now() / MINUTE);
  let own = blanks.get(sample);
  if (own?.minute !== minute) blanks.set(sample, (own = { minute, rows: new Map() }));
  if (!own.rows.has(m.id)) {
    const draft = blankDraft(sample, m, () => BLANK_ID, new Date().toISOString());
    const row = rowFor(sample, m, null, draft, `new:${m.id}`, false);
    // What nothing was keyed into yet is nobody's draft.
    own.rows.set(m.id, row && { ...row, draft: null });
  }
  return own.rows.get(m.id)!;
}

function rowFor(sample: Sample, m: AnyMethod, test: Test | null, draft: Draft | null, key: string, waiting: boolean): Row | null {
  const result = evaluateRow(sample, test, draft);
  if (!result) return null;
  const verdicts = verdictOfEach(m, result.judged);
  return {
    key,
    method: m,
    test,
    draft,
    retestOf: (draft ?? test)?.retestOf ?? null,
    ...result,
    verdicts,
    state: worst(verdicts.filter((v) => v.state !== 'unjudged').map((v) => v.state)),
    waiting,
    pair: null,
    apart: null,
    as: null,
    hasRepeat: false,
  };
}

/** What the core computes a row on: as kept, as drafted, or as the sheet begins it. */
export function inputsOfRow(sample: Sample, row: Row): AnyInputs {
  const now = new Date().toISOString();
  const draft = row.draft ?? (row.test ? null : blankDraft(sample, row.method, () => BLANK_ID, now));
  return situation(sample, placeOf(row.test, draft, now), entries(row.test, draft))?.inputs ?? ({} as AnyInputs);
}

/** A draft of nothing yet: what a method's row is before the first key. */
export function blankDraft(sample: Sample, m: AnyMethod, ids: () => string, now: string, before?: Test): Draft {
  const { system, practice } = sample.project;
  const usual = usualKit(sample.kit, m, dayIn(sample.project.timezone, now));
  const variant = before?.variant ?? usualVariant(practice, m);
  const first = Object.entries(usualInputs(m, variant, before?.system ?? system)).map(([id, value]): [string, DraftEntry] => {
    const { text, unit } = typeof value === 'string' ? { text: value, unit: null } : (value as Keyed);
    return [id, { text, unit, at: now, reading: ids() }];
  });
  return {
    testId: ids(),
    sampleId: sample.id,
    method: m.id,
    variant,
    variantReason: null,
    system: before?.system ?? system,
    equipmentId: before?.equipmentId ?? usual.equipmentId,
    alsoIds: before?.also.map((k) => k.id) ?? usual.alsoIds,
    kitReason: before?.kitReason ?? '',
    retestOf: before?.id ?? null,
    startedAt: null,
    readAt: null,
    exists: false,
    entries: Object.fromEntries(first),
    watches: {},
    state: 'open',
    problem: null,
  };
}

/** Of what is on no sheet yet. */
const BLANK_ID = '00000000-0000-4000-8000-000000000000';

function rowsOf(sample: Sample, drafts: Readonly<Record<string, Draft>>, commands: readonly Command[]): Row[] {
  const asked = testsFor('sample', askedOf(sample));
  return FRESH_TESTS.flatMap((id) => {
    const m = methodById(id);
    if (!m) return [];
    const tests = sample.tests.filter((t) => t.method === id);
    // What the mix and its specifications do not ask for is not offered; what was made all the same stays.
    if (!asked.includes(m) && tests.length === 0) return [];
    const fresh = Object.values(drafts).filter((d) => d.method === id && d.sampleId === sample.id && !tests.some((t) => t.id === d.testId));
    const waiting = (testId: string): boolean => commands.some((c) => c.testId === testId);
    const rows = [
      ...tests.map((t) => rowOnce(sample, m, t, drafts[t.id] ?? null, t.id, waiting(t.id))),
      ...fresh.map((d) => rowOnce(sample, m, null, d, d.testId, waiting(d.testId))),
    ].filter((row) => row !== null);
    if (rows.length === 0) {
      const blank = blankRow(sample, m);
      return blank ? [blank] : [];
    }
    return linked(rows);
  });
}

/** Repeats follow what they repeat, and the pair is judged together. */
function linked(rows: readonly Row[]): Row[] {
  const keyOf = (row: Row): string => row.test?.id ?? row.draft?.testId ?? '';
  const roots = rows.filter((row) => !rows.some((other) => keyOf(other) === row.retestOf));
  const chain = (row: Row, before: readonly Row[] = []): Row[] => {
    const repeat = rows.find((other) => other.retestOf === keyOf(row));
    if (!repeat) return [row];
    const made = [...before, row];
    return [{ ...row, hasRepeat: true }, ...chain({ ...repeat, ...judgeTurn(row.method, [...made, repeat]) }, made)];
  };
  return roots.flatMap((row) => chain(row));
}

export const rows = createSelector(sheet.selectSample, sheet.selectDrafts, sheet.selectCommands, (sample, drafts, commands) =>
  sample ? rowsOf(sample, drafts, commands) : [],
);

/** The row in hand: the chosen one, else the first that still waits for readings. */
export const rowInHand = createSelector(
  rows,
  sheet.selectChosen,
  (all, chosen): Row | null =>
    all.find((r) => r.key === chosen) ?? all.find((r) => r.state === 'open' || r.test === null) ?? all[0] ?? null,
);

/** The same readings under the method's other variants. */
export function othersOf(sample: Sample, row: Row): OtherVariant[] {
  if (!row.test && !row.draft) return [];
  const place = placeOf(row.test, row.draft, new Date().toISOString());
  const now = situation(sample, place, entries(row.test, row.draft));
  return now ? otherVariants(now.method, now.inputs, now.how) : [];
}

/** How measure and bowl are filled, as the slump on this sheet says. */
export const filling = createSelector(rows, sheet.selectSample, (all, sample) =>
  sample
    ? fillingOf(
        sample,
        all.map((r) => r.evaluation),
      )
    : null,
);

/** The next test that still waits, once the one in hand has an answer. */
export const nextRow = createSelector(rows, rowInHand, (all, row): Row | null => {
  if (!row || row.state === 'open') return null;
  return all.slice(all.findIndex((r) => r.key === row.key) + 1).find((r) => r.state === 'open' && r.test === null) ?? null;
});

/** What comes after the test in hand, and how. */
export const next = createSelector(nextRow, filling, (after, filled): string | null => {
  if (!after) return null;
  const head = `Then ${after.method.title.toLowerCase()}.`;
  return after.method.kit === 'measure' && filled ? `${head} ${filled.how}` : head;
});

/** Everything worth saying about a row, but for what stands at its own fields. */
export const toldOf = (row: Row): Told[] => guidance(row.method, row.evaluation, row.judged, row.pair);
