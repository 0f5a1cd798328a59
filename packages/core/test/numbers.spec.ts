import fc from 'fast-check';
import { decimal, exact, fixed, ratio, reported, shown, significant, spoken, stopwatch, toStep } from '../src/index.js';

/** Decimal text with up to four places, as a person would key it. */
const decimals = fc
  .tuple(fc.integer({ min: -9_999_999, max: 9_999_999 }), fc.integer({ min: 0, max: 4 }))
  .map(([n, places]) => fixed(exact(String(n)).div(exact(String(10 ** places))), places));
const steps = fc.constantFrom('0.01', '0.05', '0.1', '0.125', '0.25', '0.5', '1', '5', '10');

describe('decimal text', () => {
  it('refuses what is not a plain decimal', () => {
    for (const text of ['', ' ', 'NaN', 'Infinity', '1e3', '0x10', '12,5', '1.2.3', '--1', '.', '1/3', '٣', '9'.repeat(25)]) {
      expect(decimal(text)).withContext(text).toBeNull();
    }
  });

  it('takes what people key', () => {
    const taken = ['5', '5.', '.5', '-0.25', '+3', ' 19.50 '].map((text) => decimal(text)?.toFraction());
    expect(taken).toEqual(['5', '5', '1/2', '-1/4', '3', '39/2']);
  });

  it('survives a round trip through n/d', () => {
    fc.assert(fc.property(decimals, (text) => exact(ratio(exact(text))).equals(exact(text))));
  });
});

describe('spoken fractions', () => {
  it('reads inches as they are said', () => {
    const read = ['3 1/4', '3-1/4', '3.25', '1/4', '12'].map((text) => spoken(text)?.toFraction());
    expect(read).toEqual(['13/4', '13/4', '13/4', '1/4', '12']);
  });

  it('refuses slips instead of mending them', () => {
    for (const text of ['3 5/4', '3 1/0', '3/', '1/4/2', '-1/4', '3 1 / 4', 'a 1/4']) expect(spoken(text)).withContext(text).toBeNull();
  });

  it('reads a stopwatch', () => {
    expect(stopwatch('1:52')?.valueOf()).toBe(112);
    expect(stopwatch('0:04.8')?.toFraction()).toBe('24/5');
    expect(stopwatch('112')?.valueOf()).toBe(112);
    expect(stopwatch('1:75')).toBeNull();
  });
});

describe('rounding', () => {
  it('T1 takes a tie on the step to the even multiple, both ways', () => {
    expect(reported(exact('2.665'), '0.01')).toBe('2.66');
    expect(reported(exact('2.675'), '0.01')).toBe('2.68');
    expect(reported(exact('3.125'), '0.25')).toBe('3.00');
    expect(reported(exact('3.375'), '0.25')).toBe('3.50');
    expect(reported(exact('-55.1875'), '0.025')).toBe('-55.200');
  });

  it('T2 gets the values that doubles misround', () => {
    expect((1.005).toFixed(2)).toBe('1.00');
    expect(reported(exact('1.005'), '0.01')).toBe('1.00');
    expect(reported(exact('1.015'), '0.01')).toBe('1.02');
    expect(reported(exact('4.05'), '0.1')).toBe('4.0');
  });

  it('keeps the decimals of the step and never says -0', () => {
    expect(reported(exact('145.2'), '1')).toBe('145');
    expect(reported(exact('-0.04'), '0.1')).toBe('0.0');
    expect(reported(exact('2'), '0.25')).toBe('2.00');
  });

  it('lands on a multiple, at most half a step away, and stays there', () => {
    fc.assert(
      fc.property(decimals, steps, (text, step) => {
        const [x, s] = [exact(text), exact(step)];
        const rounded = toStep(x, s);
        const away = rounded.sub(x).abs();
        return rounded.div(s).d === 1n && away.compare(s.div(2)) <= 0 && toStep(rounded, s).equals(rounded);
      }),
    );
  });

  it('never turns the order of two values round', () => {
    fc.assert(
      fc.property(decimals, decimals, steps, (a, b, step) => {
        const order = exact(a).compare(exact(b));
        const after = toStep(exact(a), exact(step)).compare(toStep(exact(b), exact(step)));
        return order === 0 ? after === 0 : order * after >= 0;
      }),
    );
  });

  it('refuses a step that is not above zero', () => {
    expect(() => toStep(exact('1'), exact('0'))).toThrowError(/invalid step/);
  });
});

describe('text for people', () => {
  it('shows significant digits, a carry included', () => {
    expect(significant(exact('2/3'), 4)).toBe('0.6667');
    expect(significant(exact('9.9996'), 4)).toBe('10.00');
    expect(significant(exact('123456'), 3)).toBe('123000');
    expect(significant(exact('0'), 12)).toBe('0');
  });

  it('says when digits were cut', () => {
    expect(shown(exact('96'))).toBe('96');
    expect(shown(exact('2/3'))).toBe('0.66666667…');
    expect(shown(exact('0.250'))).toBe('0.25');
  });
});
