import { exampleOf } from '../src/examples/index.js';
import {
  evaluate,
  type AnyInputs,
  figuresIn,
  METHODS,
  methodById,
  ownFaults,
  ownWords,
  say,
  withOwn,
  type OwnFigures,
  type Parameters,
  type Variant,
} from '../src/index.js';

const slump = methodById('slump')!;
const printed = (method: string, variant: string): Parameters =>
  (methodById(method)!.variants as Readonly<Record<string, Variant<Parameters>>>)[variant]!.params;
const us = printed('slump', 'us');
const cylinder = printed('cylinder', 'c39');
const faultsOf = (params: Parameters, own: OwnFigures): Record<string, string> =>
  Object.fromEntries(Object.entries(ownFaults(params, own)).map(([path, { code, params: p }]) => [path, say(code, p)]));

describe('a lab’s own copy of a variant', () => {
  it('moves the figure that it says and no other', () => {
    const own = { 'increments|mm': '10' };
    expect(faultsOf(us, own)).toEqual({});
    expect(withOwn(us, own)).toEqual({ ...us, increments: { ...(us['increments'] as object), mm: '10' } });
    expect(ownWords(us, own)).toBe('reported to 10 mm (in print 5 mm)');
    const inputs: AnyInputs = { ...exampleOf(slump), drop: { text: '103', unit: 'mm' } };
    const of = (params: Parameters) => {
      const e = evaluate(slump, inputs, { variant: 'us', system: 'si', params });
      return e.results.find((r) => r.id === 'slump')?.reported;
    };
    expect([of(us), of(withOwn(us, own))]).toEqual(['105', '100']);
  });

  it('of a table moves one cell, and the table stays in order', () => {
    const words = ownWords(cylinder, { 'factors|#1|factor': '0.97' });
    expect(words).toBe('factors, row 1, factor 0.97 (in print 0.98)');
    expect(faultsOf(cylinder, { 'factors|#1|factor': '0.97' })).toEqual({});
    expect(faultsOf(cylinder, { 'factors|#2|ratio': '1.80' })).toEqual({ 'factors|#2|ratio': 'It must stay below the row before.' });
  });

  it('says at its place what may not be', () => {
    const faults = faultsOf(us, {
      'increments|mm': '15',
      'increments|in': 'x',
      'lift|least': '-3',
      total: '15000',
      'mold|si|least': '',
      gone: '1',
    });
    expect(Object.keys(faults).sort()).toEqual(['gone', 'increments|in', 'increments|mm', 'lift|least', 'mold|si|least', 'total']);
    expect(faults['increments|mm']).toContain('1, 2, 2.5 or 5');
    expect(faults['total']).toContain('In print it is 150');
    expect(faultsOf(us, { 'lift|least': '8' })).toEqual({ 'lift|most': 'The upper end must not be below the lower one.' });
    const head = printed('constant-head', 'viscosity');
    expect(faultsOf(head, { 'steady|intervals': '2.5', 'increments|m/s': '12' })).toEqual({
      'steady|intervals': 'A whole number, please.',
      'increments|m/s': 'From 1 to 9 significant figures.',
    });
  });

  it('says of every figure in print that it may be what it is, and computes with any that may be', () => {
    for (const m of METHODS)
      for (const [variant, { params }] of Object.entries(m.variants as Readonly<Record<string, Variant<Parameters>>>))
        for (const { path, text, words, kind } of figuresIn(params)) {
          expect(words).withContext(`${m.id} ${path}`).not.toBe('');
          expect(faultsOf(params, { [path]: text }))
            .withContext(`${m.id} ${path}`)
            .toEqual({});
          for (const other of kind === 'decimal' ? [`${text}5`.replace(/^(-?\d+)5$/, '$1.5')] : ['1', '5']) {
            if (Object.keys(ownFaults(params, { [path]: other })).length > 0) continue;
            const own = withOwn(params, { [path]: other });
            expect(() => evaluate(m, exampleOf(m), { variant, system: 'si', params: own, offers: false })).not.toThrow();
          }
        }
  });
});
