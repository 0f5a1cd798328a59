import type { KeepAnswer, Sample, Test } from '@keen-mortar/contract';
import type { Command, Draft } from '../../../device/device-db';
import { sheet, SheetActions, type SheetState } from './sheet.state';
import { blankDraft, rowInHand, rows, type Row } from './sheet.view';
import { methodById } from '@keen-mortar/core';
import { elapsed } from '../../../parts/when';

const AT = '2026-11-25T12:00:00.000Z';
let next = 0;
const ids = (): string => `id-${next++}`;

const limit = { id: 'l', property: 'slump', unit: 'mm', lower: '75', upper: '125', source: 'spec' };
const sample = {
  id: 's',
  project: { id: 'p', system: 'si', practice: 'us-astm', timezone: 'Etc/UTC' },
  load: { batchedAt: AT, materials: [], water: [] },
  revision: { ingredients: [], air: '6.0', aggregate: 'normal' },
  specifications: [{ id: 'spec', name: 'Spec', comparison: 'rounded', limits: [limit] }],
  kit: [],
  sources: { 'mix.aggregate': 'normal' },
  events: [{ id: 'e', kind: 'portion', at: AT, part: 'middle', by: 'a' }],
  ownCopies: [],
  given: {},
  tests: [],
  history: {},
} as unknown as Sample;

const slump = methodById('slump')!;
const draftOf = (testId: string, texts: Record<string, [string, string | null]>, more: Partial<Draft> = {}): Draft => ({
  ...blankDraft(sample, slump, ids, AT),
  testId,
  startedAt: AT,
  entries: Object.fromEntries(
    Object.entries(texts).map(([field, [text, unit]]) => [field, { text, unit: unit as 'mm' | null, at: AT, reading: ids() }]),
  ),
  ...more,
});
const heap = (centre: string, shape = 'true'): Record<string, [string, string | null]> => ({
  shape: [shape, null],
  mold: ['300', 'mm'],
  centre: [centre, 'mm'],
});

const reduce = (...actions: Parameters<typeof sheet.reducer>[1][]): SheetState =>
  actions.reduce((state: SheetState | undefined, action) => sheet.reducer(state, action), undefined)!;
const opened = SheetActions.opened({ sampleId: 's' });
const loaded = SheetActions.loaded({ sample, fromDevice: false });
const rowsOf = (state: SheetState): Row[] => rows.projector(state.sample, state.drafts, state.commands);
const slumpRows = (state: SheetState): Row[] => rowsOf(state).filter((r) => r.method.id === 'slump');

describe('the sheet', () => {
  it('computes while somebody keys, and names what is missing before', () => {
    const blank = reduce(opened, loaded);
    expect(rowsOf(blank).map((r) => [r.method.id, r.state])).toEqual([
      ['temperature', 'open'],
      ['slump', 'open'],
      ['yield', 'open'],
      ['pressure-air', 'open'],
    ]);
    const keyed = reduce(opened, loaded, SheetActions.draftBegun({ draft: draftOf('t', heap('204')) }));
    expect(slumpRows(keyed).map((r) => [r.state, r.evaluation.results[0]?.reported])).toEqual([['within', '95']]);
  });

  it('keeps a reading’s id and its reason while its text changes', () => {
    const key = (text: string, reading: string) => SheetActions.keyed({ testId: 't', field: 'centre', text, unit: 'mm', at: AT, reading });
    const state = reduce(
      opened,
      loaded,
      SheetActions.draftBegun({ draft: draftOf('t', {}) }),
      key('2', 'first'),
      SheetActions.reasoned({ testId: 't', field: 'centre', reason: 'why' }),
      key('20', 'second'),
    );
    expect(state.drafts['t']?.entries['centre']).toEqual({ text: '20', unit: 'mm', at: AT, reading: 'first', reason: 'why' });
  });

  it('puts a repeat under what it repeats and judges the pair', () => {
    const first = draftOf('t1', heap('140'));
    const check = draftOf('t2', heap('138'), { retestOf: 't1' });
    const state = reduce(opened, loaded, SheetActions.draftBegun({ draft: check }), SheetActions.draftBegun({ draft: first }));
    expect(slumpRows(state).map((r) => [r.key, r.state, r.pair, r.hasRepeat])).toEqual([
      ['t1', 'out', null, true],
      ['t2', 'out', 'load-fails', false],
    ]);
  });

  it('calls a sheared slump void, not out', () => {
    const state = reduce(opened, loaded, SheetActions.draftBegun({ draft: draftOf('t', heap('20', 'shear')) }));
    expect(slumpRows(state)[0]?.state).toBe('void');
  });

  it('takes the kept test and lets the draft go; a refused one stays as it was keyed', () => {
    const draft = draftOf('t', heap('204'));
    const command: Command = { id: 'k', order: 1, itemId: 's', opens: '', kind: 'keep', path: '', body: { id: 'k' }, testId: 't' };
    const begun = [opened, loaded, SheetActions.draftBegun({ draft }), SheetActions.queued({ commands: [command], keeping: 't' })];
    expect(reduce(...begun).drafts['t']?.state).toBe('keeping');
    const test = { id: 't', method: 'slump', startedAt: AT, readings: [], kept: null } as unknown as Test;
    const answer: KeepAnswer = { test, differs: [{ result: 'slump', shown: '95', kept: '90' }] };
    const kept = reduce(...begun, SheetActions.sent({ command, answer }));
    expect([Object.keys(kept.drafts), kept.sample?.tests.map((t) => t.id), kept.commands, kept.differs.length]).toEqual([[], ['t'], [], 1]);
    const problem = { type: '', title: '', status: 422, detail: 'no', code: 'invalid-input' };
    const refused = reduce(...begun, SheetActions.refused({ command, problem }));
    expect([refused.drafts['t']?.state, refused.drafts['t']?.entries, refused.drafts['t']?.problem]).toEqual([
      'open',
      draft.entries,
      problem,
    ]);
  });

  it('goes to the first test that waits when none is chosen', () => {
    const state = reduce(opened, loaded);
    expect(rowInHand.projector(rowsOf(state), null)?.method.id).toBe('temperature');
    expect(rowInHand.projector(rowsOf(state), 'new:slump')?.method.id).toBe('slump');
  });

  it('a stopwatch shows tenths below a minute and minutes from there', () => {
    expect([elapsed(4_840), elapsed(59_949), elapsed(112_000), elapsed(-5)]).toEqual(['4.8', '59.9', '1:52', '0.0']);
  });
});
