import type { Action } from '@ngrx/store';
import { methodById } from '@keen-mortar/core';
import type { Draft } from '../../../device/device-db';
import { HandActions, hand, type Hand } from '../../../state/hand';
import { AT, keptTest, sample } from '../../../testing/sample';
import { handOfSheet, taken } from './sheet.hand';
import { sheet, SheetActions, type SheetState } from './sheet.state';
import { blankDraft, rowInHand, rows, type Row } from './sheet.view';

const mm = (text: string) => ({ text, unit: 'mm' as const });
const scratched: Hand = {
  method: 'slump',
  variant: 'us',
  system: 'si',
  inputs: { shape: 'true', centre: mm('204'), mold: mm('300'), highest: mm(' '), largest: mm('19') },
};

describe('Scratch over the sheet', () => {
  let next = 0;
  const id = (): string => `id-${next++}`;
  const reduce = (...actions: Action[]): SheetState =>
    actions.reduce((state: SheetState | undefined, action) => sheet.reducer(state, action), undefined)!;
  const opened = (tests = sample.tests): SheetState =>
    reduce(SheetActions.opened({ sampleId: sample.id }), SheetActions.loaded({ sample: { ...sample, tests }, fromDevice: false }));
  const rowsOf = (state: SheetState): Row[] => rows.projector(state.sample, state.drafts, state.commands);
  const handOf = (state: SheetState) => {
    const all = rowsOf(state);
    return handOfSheet.projector(state.sample, all, rowInHand.projector(all, state.chosen));
  };
  const kept = (method: string) =>
    keptTest(method, method === 'slump' ? { shape: ['true', null], mold: ['300', 'mm'], centre: ['204', 'mm'] } : {});

  beforeEach(() => (next = 0));

  it('is filled with the test in hand: what was keyed, what is usual, and what the record gives', () => {
    const draft: Draft = { ...blankDraft(sample, methodById('slump')!, id, AT), testId: 't' };
    const keyed = SheetActions.keyed({ testId: 't', field: 'centre', text: '204', unit: 'mm', at: AT, reading: 'r' });
    const state = [SheetActions.draftBegun({ draft }), keyed].reduce((s, action) => sheet.reducer(s, action), opened());
    const shown = handOf(state)!;
    expect([shown.method, shown.where, (shown.inputs['centre'] as { text: string }).text]).toEqual([
      'slump',
      'load 6, sample Q-106',
      '204',
    ]);
    expect((shown.inputs['mold'] as { text: string }).text).toBe('300');
    expect(shown.keeps).toEqual(['temperature', 'slump', 'yield', 'pressure-air']);
  });

  it('works out again only the test into which something is keyed', () => {
    const draft: Draft = { ...blankDraft(sample, methodById('slump')!, id, AT), testId: 't' };
    const key = (text: string) => SheetActions.keyed({ testId: 't', field: 'centre', text, unit: 'mm', at: AT, reading: 'r' });
    const before = [SheetActions.draftBegun({ draft }), key('20')].reduce(
      (s, action) => sheet.reducer(s, action),
      opened([kept('temperature')]),
    );
    const [old, now] = [rowsOf(before), rowsOf(sheet.reducer(before, key('204')))];
    expect(now.filter((row, i) => row !== old[i]).map((row) => row.method.id)).toEqual(['slump']);
  });

  it('offers no record for a test that was kept: that is corrected on the sheet', () => {
    expect(handOf(opened([kept('slump')]))!.keeps).toEqual(['temperature', 'yield', 'pressure-air']);
    expect(taken(sample, rowsOf(opened([kept('slump')])), scratched, AT, id)).toEqual([]);
  });

  it('hands back what is keyed on the sheet, and leaves out what is empty or comes from the record', () => {
    const actions = taken(sample, rowsOf(opened()), scratched, AT, id);
    const state = actions.reduce((s, action) => sheet.reducer(s, action), opened());
    const [draft] = Object.values(state.drafts);
    expect(Object.fromEntries(Object.entries(draft!.entries).map(([field, e]) => [field, `${e.text} ${e.unit ?? ''}`.trim()]))).toEqual({
      mold: '300 mm',
      mishap: 'none',
      sieved: 'no',
      shape: 'true',
      centre: '204 mm',
    });
    expect([draft!.variant, draft!.startedAt, state.chosen]).toEqual(['us', AT, draft!.testId]);
    const slump = rowsOf(state).find((r) => r.method.id === 'slump')!;
    expect(slump.evaluation.results[0]!.reported).toBe('95');
  });

  it('goes on with a draft that is there: nothing that was keyed before is lost', () => {
    const draft: Draft = { ...blankDraft(sample, methodById('slump')!, id, AT), testId: 't' };
    const keyed = SheetActions.keyed({ testId: 't', field: 'lift', text: '4.5', unit: 's', at: AT, reading: 'r' });
    const before = [SheetActions.draftBegun({ draft }), keyed].reduce((s, action) => sheet.reducer(s, action), opened());
    const state = taken(sample, rowsOf(before), scratched, AT, id).reduce((s, action) => sheet.reducer(s, action), before);
    expect(Object.keys(state.drafts)).toEqual(['t']);
    expect([state.drafts['t']!.entries['lift']!.text, state.drafts['t']!.entries['centre']!.text]).toEqual(['4.5', '204']);
  });

  it('a draft that is being kept takes nothing, nor a method that is unknown', () => {
    const draft: Draft = { ...blankDraft(sample, methodById('slump')!, id, AT), testId: 't', state: 'keeping' };
    const keeping = sheet.reducer(opened(), SheetActions.draftBegun({ draft }));
    expect(taken(sample, rowsOf(keeping), scratched, AT, id)).toEqual([]);
    expect(taken(sample, rowsOf(opened()), { ...scratched, method: 'nothing' }, AT, id)).toEqual([]);
  });
});

describe('what is in hand', () => {
  const inHand = { ...scratched, where: 'here', keeps: [] };
  const after = (...actions: Action[]) =>
    actions.reduce((s: ReturnType<typeof hand.reducer> | undefined, a) => hand.reducer(s, a), undefined)!;

  it('is shown by a place and gone with it; Scratch opens, closes, and closes when its readings are taken', () => {
    expect(after(HandActions.shown({ hand: inHand })).hand).toEqual(inHand);
    expect(after(HandActions.shown({ hand: inHand }), HandActions.gone()).hand).toBeNull();
    expect(after(HandActions.scratchOpened()).scratch).toBeTrue();
    expect(after(HandActions.scratchOpened(), HandActions.scratchClosed()).scratch).toBeFalse();
    expect(after(HandActions.scratchOpened(), HandActions.kept({ hand: scratched })).scratch).toBeFalse();
  });
});
