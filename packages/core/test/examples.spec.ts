import { exampleOf, furtherExamples } from '../src/examples/index.js';
import { answerTexts, evaluate, METHODS, spell, unspell, type Shape } from '../src/index.js';

/** Examples that show a fault on purpose: what they say is the lesson. */
const TEACHES: Readonly<Record<string, readonly string[]>> = { 'compaction-factor': ['stated-slip'] };

describe('worked examples', () => {
  for (const m of METHODS) {
    it(`${m.id} is complete: nothing refused, unlikely or missing, and its main results are given`, () => {
      for (const inputs of [exampleOf(m), ...furtherExamples(m)]) {
        const e = evaluate(m, inputs, { variant: Object.keys(m.variants)[0]!, system: 'si' });
        expect(e.issues.map((i) => i.code).filter((code) => !TEACHES[m.id]?.includes(code))).toEqual([]);
        expect(e.missing).toEqual([]);
        const main = e.results.filter((r) => m.results[r.id]?.main);
        expect(main.filter((r) => r.state !== 'given').map((r) => r.id)).toEqual([]);
        for (const r of e.results) {
          const field = m.results[r.id]!;
          const texts = answerTexts(field, r, () => 'a moment');
          // Codes are for programs: what a person reads is words.
          expect(texts.filter((text) => /^[a-z]+(_[a-z0-9]+)+$/.test(text))).toEqual([]);
          if (field.along !== undefined)
            expect(texts.length)
              .withContext(r.id)
              .toBe((inputs[field.along] as unknown[]).length);
        }
        expect(spell(m.fields as Shape, unspell(m.fields as Shape, spell(m.fields as Shape, inputs)))).toEqual(
          spell(m.fields as Shape, inputs),
        );
      }
    });
  }
});

describe('inputs as they are written down', () => {
  const fields = METHODS.find((m) => m.id === 'slump')!.fields as Shape;

  it('keeps fractions, stopwatch times and units as keyed', () => {
    const read = unspell(fields, { centre: '8 1/4 in', total: '1:52', lift: '4.5 s', shape: 'true' });
    expect(read).toEqual({
      centre: { text: '8 1/4', unit: 'in' },
      total: { text: '1:52', unit: 's' },
      lift: { text: '4.5', unit: 's' },
      shape: 'true',
    });
  });

  it('leaves what it does not know as it was typed, for the field to say', () => {
    const read = unspell(fields, { centre: '204 kg', drop: 'tall', other: '1', mold: [] });
    expect(read).toEqual({ centre: { text: '204 kg', unit: 'mm' }, drop: { text: 'tall', unit: 'mm' } });
    const slump = METHODS.find((m) => m.id === 'slump')!;
    expect(evaluate(slump, read, { variant: 'us', system: 'si' }).issues.map((i) => i.code)).toEqual(['not-a-number', 'wrong-unit']);
  });
});
