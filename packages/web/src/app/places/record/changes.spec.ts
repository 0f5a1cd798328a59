import type { Reading } from '@keen-mortar/contract';
import { methodById, type AnyInputs, type Shape } from '@keen-mortar/core';
import { changesOf, corrects, ROW } from './changes';

const shape = methodById('gradation')!.fields as Shape;
const fields = new Set(['dry', 'sieves']);
let n = 0;
const how = { at: 1_795_000_000_000.5, reason: 'keyed wrong', newId: () => `id-${n++}` };
const kept = (field: string, text: string | null, unit: Reading['unit'] = 'g'): Reading => ({
  id: `was ${field}`,
  field,
  text,
  unit,
  by: 'p',
  at: '',
  receivedAt: '',
  device: 'hand',
  supersedes: null,
  reason: null,
});
const on = [
  kept('dry', '500'),
  kept('sieves.0000.opening', '4.75', 'mm'),
  kept('sieves.0000.retained', '12.8'),
  kept('sieves.0001.retained', '57.1'),
];
const row = (id: string | undefined, values: object) => ({ ...(id ? { [ROW]: id } : {}), ...values });
const q = (text: string, unit = 'g') => ({ text, unit });
const hand = (dry: string, sieves: object[]): AnyInputs => ({ dry: q(dry), sieves }) as unknown as AnyInputs;
const same = [row('0000', { opening: q('4.75', 'mm'), retained: q('12.8') }), row('0001', { retained: q('57.1') })];
const sent = (inputs: AnyInputs, readings = on) =>
  changesOf(shape, fields, readings, inputs, how).map(({ field, text, supersedes }) => [field, text, supersedes]);

describe('what has to be sent so that the record holds what is in hand', () => {
  it('is nothing where it holds it, and of a correction what it corrects', () => {
    expect(sent(hand('500', same))).toEqual([]);
    expect(sent(hand('501', same))).toEqual([['dry', '501', 'was dry']]);
    expect(corrects(changesOf(shape, fields, on, hand('501', same), how))).toBeTrue();
  });

  it('says from which instrument a reading is, as long as it stands as it was taken', () => {
    const taken = { dry: { text: '501.2', unit: 'g', device: 'balance-1' } };
    const device = (dry: string) => changesOf(shape, fields, on, hand(dry, same), { ...how, taken }).map((s) => s.device);
    expect([device('501.2'), device('501.3')]).toEqual([['balance-1'], [undefined]]);
    // A row that is new has no id yet: its place in the table says which it is.
    const inRow = { 'sieves.2.retained': { text: '15.4', unit: 'g', device: 'balance-1' } };
    const added = changesOf(shape, fields, on, hand('500', [...same, row(undefined, { retained: q('15.4') })]), { ...how, taken: inRow });
    expect(added.map((s) => [s.text, s.device])).toEqual([['15.4', 'balance-1']]);
  });

  it('a new row gets an id of its own that sorts after those before it, whole', () => {
    const added = sent(hand('500', [...same, row(undefined, { opening: q('0.075', 'mm'), retained: q('15.4') })]));
    const ids = added.map(([field]) => field!.split('.')[1]!);
    expect([added.length, new Set(ids).size, ids[0]! > '0001', /^[0-9a-z]{10,20}$/.test(ids[0]!)]).toEqual([2, 1, true, true]);
    expect(corrects(changesOf(shape, fields, on, hand('500', [...same, row(undefined, { retained: q('1') })]), how))).toBeFalse();
  });

  it('a row that is gone is struck out as one, a cell by itself, and neither twice', () => {
    expect(sent(hand('500', [same[1]!]))).toEqual([['sieves.0000', null, undefined]]);
    expect(sent(hand('500', [row('0000', { retained: q('12.8') }), same[1]!]))).toEqual([
      ['sieves.0000.opening', null, 'was sieves.0000.opening'],
    ]);
    expect(sent(hand('500', [same[1]!]), [...on, kept('sieves.0000', null, null)])).toEqual([]);
  });

  it('what the record gives is never sent', () => {
    expect(changesOf(shape, new Set(['sieves']), on, hand('777', same), how)).toEqual([]);
  });
});
