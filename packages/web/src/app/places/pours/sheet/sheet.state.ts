import type { KeepAnswer, Problem, Sample } from '@keen-mortar/contract';
import type { UnitId } from '@keen-mortar/core';
import { createActionGroup, createFeature, createReducer, emptyProps, on, props } from '@ngrx/store';
import type { Command, Draft, DraftEntry } from '../../../device/device-db';
import { fallsWith } from '../../../device/outbox';

export const SheetActions = createActionGroup({
  source: 'Sheet',
  events: {
    Opened: props<{ sampleId: string }>(),
    Closed: emptyProps(),
    Restored: props<{ drafts: readonly Draft[]; commands: readonly Command[] }>(),
    Asked: emptyProps(),
    Loaded: props<{ sample: Sample; fromDevice: boolean }>(),
    'Load Failed': props<{ problem: Problem }>(),
    'Row Chosen': props<{ key: string }>(),
    'Draft Begun': props<{ draft: Draft }>(),
    'Draft Set': props<{
      testId: string;
      change: Partial<Pick<Draft, 'variant' | 'variantReason' | 'equipmentId' | 'alsoIds' | 'kitReason' | 'startedAt' | 'readAt'>>;
    }>(),
    Keyed: props<{ testId: string; field: string; text: string; unit: UnitId | null; at: string; reading: string; device?: string }>(),
    Reasoned: props<{ testId: string; field: string; reason: string }>(),
    'Watch Started': props<{ testId: string; field: string; at: number }>(),
    'Watch Stopped': props<{ testId: string; field: string }>(),
    'Draft Dropped': props<{ testId: string }>(),
    'Correction Begun': props<{ draft: Draft; field: string; entry: DraftEntry }>(),
    Queued: props<{ commands: readonly Command[]; keeping?: string }>(),
    Sent: props<{ command: Command; answer: unknown }>(),
    Refused: props<{ command: Command; problem: Problem }>(),
    /** What was just told did not happen: it never leaves the device. */
    'Taken Back': props<{ id: string }>(),
    /** It happened earlier than it was told. */
    'Told Otherwise': props<{ id: string; at: string }>(),
    /** What waits to be sent, and whether the server is away. */
    Waiting: props<{ commands: readonly Command[]; away: boolean }>(),
    'Someone Keying': props<{ by: string; testId: string; method: string; at: number }>(),
    'Difference Seen': emptyProps(),
    'Refusal Seen': emptyProps(),
  },
});

export interface SheetState {
  readonly sampleId: string | null;
  readonly sample: Sample | null;
  /** The sheet is this device's copy: the server does not answer. */
  readonly fromDevice: boolean;
  readonly problem: Problem | null;
  readonly away: boolean;
  readonly drafts: Readonly<Record<string, Draft>>;
  readonly commands: readonly Command[];
  readonly chosen: string | null;
  readonly keying: Readonly<Record<string, { readonly by: string; readonly method: string; readonly at: number }>>;
  readonly differs: KeepAnswer['differs'];
  readonly refused: Problem | null;
}

const initial: SheetState = {
  sampleId: null,
  sample: null,
  fromDevice: false,
  problem: null,
  away: false,
  drafts: {},
  commands: [],
  chosen: null,
  keying: {},
  differs: [],
  refused: null,
};

const withDraft = (state: SheetState, testId: string, change: (draft: Draft) => Draft): SheetState => {
  const draft = state.drafts[testId];
  return draft ? { ...state, drafts: { ...state.drafts, [testId]: change(draft) } } : state;
};

const without = <T>(record: Readonly<Record<string, T>>, key: string): Record<string, T> =>
  Object.fromEntries(Object.entries(record).filter(([k]) => k !== key));

const released = ({ heldUntil: _held, ...command }: Command): Command => command;

/** The kept test takes its place on the sheet at once; the draft has done its work. */
function withKept(state: SheetState, answer: KeepAnswer): SheetState {
  const { sample } = state;
  if (!sample) return state;
  const others = sample.tests.filter((t) => t.id !== answer.test.id);
  const tests = [...others, answer.test].sort((a, b) => a.startedAt.localeCompare(b.startedAt));
  return {
    ...state,
    sample: { ...sample, tests },
    drafts: without(state.drafts, answer.test.id),
    differs: [...state.differs, ...answer.differs],
  };
}

export const sheet = createFeature({
  name: 'sheet',
  reducer: createReducer(
    initial,
    on(SheetActions.opened, (state, { sampleId }) => ({ ...initial, sampleId, commands: state.commands })),
    on(SheetActions.restored, (state, { drafts, commands }) => ({
      ...state,
      // A keep whose write is gone was refused while another sheet was open: its draft is open again.
      drafts: Object.fromEntries(
        drafts.map((d) => [d.testId, commands.some((c) => c.testId === d.testId) ? d : { ...d, state: 'open' as const }]),
      ),
      commands,
    })),
    on(SheetActions.loaded, (state, { sample, fromDevice }) => ({
      ...state,
      sample,
      fromDevice,
      away: fromDevice,
      problem: null,
      // A test of a draft may have reached the server although its answer never came back.
      drafts: Object.fromEntries(
        Object.entries(state.drafts).map(([id, d]) => [id, sample.tests.some((t) => t.id === id) ? { ...d, exists: true } : d]),
      ),
    })),
    on(SheetActions.loadFailed, (state, { problem }) => ({ ...state, problem, away: true })),
    on(SheetActions.rowChosen, (state, { key }) => ({ ...state, chosen: key })),
    on(SheetActions.draftBegun, (state, { draft }) => ({
      ...state,
      drafts: { ...state.drafts, [draft.testId]: draft },
      chosen: draft.testId,
    })),
    on(SheetActions.draftSet, (state, { testId, change }) => withDraft(state, testId, (d) => ({ ...d, ...change }))),
    on(SheetActions.keyed, (state, { testId, field, text, unit, at, reading, device }) =>
      withDraft(state, testId, (d) => {
        const old = d.entries[field];
        const entry: DraftEntry = {
          text,
          unit,
          at,
          reading: old?.reading ?? reading,
          ...(old?.reason ? { reason: old.reason } : {}),
          ...(device ? { device } : {}),
        };
        return { ...d, startedAt: d.startedAt ?? at, entries: { ...d.entries, [field]: entry }, problem: null };
      }),
    ),
    on(SheetActions.reasoned, (state, { testId, field, reason }) =>
      withDraft(state, testId, (d) => {
        const entry = d.entries[field];
        return entry ? { ...d, entries: { ...d.entries, [field]: { ...entry, reason } } } : d;
      }),
    ),
    on(SheetActions.watchStarted, (state, { testId, field, at }) =>
      withDraft(state, testId, (d) => ({
        ...d,
        startedAt: d.startedAt ?? new Date(at).toISOString(),
        watches: { ...d.watches, [field]: at },
      })),
    ),
    on(SheetActions.watchStopped, (state, { testId, field }) =>
      withDraft(state, testId, (d) => ({ ...d, watches: without(d.watches, field) })),
    ),
    on(SheetActions.draftDropped, (state, { testId }) => ({ ...state, drafts: without(state.drafts, testId) })),
    on(SheetActions.correctionBegun, (state, { draft, field, entry }) => ({
      ...state,
      chosen: draft.testId,
      drafts: {
        ...state.drafts,
        [draft.testId]: { ...(state.drafts[draft.testId] ?? draft), entries: { ...state.drafts[draft.testId]?.entries, [field]: entry } },
      },
    })),
    on(SheetActions.queued, (state, { commands, keeping }) => {
      // A result is judged by what happened before it: with a keep, nothing is held back any longer.
      const before = keeping === undefined ? state.commands : state.commands.map(released);
      const next = { ...state, commands: [...before, ...commands] };
      return keeping === undefined ? next : withDraft(next, keeping, (d) => ({ ...d, state: 'keeping', problem: null }));
    }),
    on(SheetActions.sent, (state, { command, answer }) => {
      const next = { ...state, away: false, commands: state.commands.filter((c) => c.id !== command.id) };
      if (command.kind === 'keep' && command.itemId === state.sampleId) return withKept(next, answer as KeepAnswer);
      if (command.kind === 'event' && command.itemId === state.sampleId) return { ...next, sample: answer as Sample, fromDevice: false };
      return command.testId === undefined ? next : withDraft(next, command.testId, (d) => ({ ...d, exists: true }));
    }),
    on(SheetActions.refused, (state, { command, problem }) => {
      const next = { ...state, away: false, commands: state.commands.filter((c) => !fallsWith(command, c)) };
      return command.testId === undefined
        ? { ...next, refused: problem }
        : withDraft(next, command.testId, (d) => ({ ...d, state: 'open', problem }));
    }),
    on(SheetActions.takenBack, (state, { id }) => ({ ...state, commands: state.commands.filter((c) => c.id !== id) })),
    on(SheetActions.toldOtherwise, (state, { id, at }) => ({
      ...state,
      commands: state.commands.map((c) => (c.id === id ? { ...c, body: { ...c.body, at } } : c)),
    })),
    on(SheetActions.waiting, (state, { commands, away }) => ({ ...state, commands, away: away || state.fromDevice })),
    on(SheetActions.someoneKeying, (state, { by, testId, method, at }) => ({
      ...state,
      keying: { ...state.keying, [testId]: { by, method, at } },
    })),
    on(SheetActions.differenceSeen, (state) => ({ ...state, differs: [] })),
    on(SheetActions.refusalSeen, (state) => ({ ...state, refused: null })),
  ),
});
