import fc from 'fast-check';
import Fraction from 'fraction.js';
import { decimal, exact, fixed, lineText, ratio, reported, shown, significant, spoken, stopwatch, toStep } from '../src/index.js';
import { naturalLog, powerOfTen, root } from '../src/numbers/transcendental.js';
import { Exact } from '../src/numbers/value.js';

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
    const taken = ['5', '5.', '.5', '-0.25', '+3', ' 19.50 '].map((text) => decimal(text)?.toString());
    expect(taken).toEqual(['5', '5', '1/2', '-1/4', '3', '39/2']);
  });

  it('survives a round trip through n/d', () => {
    fc.assert(fc.property(decimals, (text) => exact(ratio(exact(text))).equals(exact(text))));
  });
});

describe('spoken fractions', () => {
  it('reads inches as they are said', () => {
    const read = ['3 1/4', '3-1/4', '3.25', '1/4', '12'].map((text) => spoken(text)?.toString());
    expect(read).toEqual(['13/4', '13/4', '13/4', '1/4', '12']);
  });

  it('refuses slips instead of mending them', () => {
    for (const text of ['3 5/4', '3 1/0', '3/', '1/4/2', '-1/4', '3 1 / 4', 'a 1/4']) expect(spoken(text)).withContext(text).toBeNull();
  });

  it('reads a stopwatch', () => {
    expect(stopwatch('1:52')?.valueOf()).toBe(112);
    expect(stopwatch('0:04.8')?.toString()).toBe('24/5');
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
        return rounded.div(s).isWhole() && away.compare(s.div(2)) <= 0 && toStep(rounded, s).equals(rounded);
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

  it('a line of working shows figures that go on behind a sign that says so', () => {
    const line = { kind: 'formula', symbol: 'Y', symbols: 'M / D', numbers: '13721 / 2285.9577…', unit: 'm³' } as const;
    expect(lineText({ ...line, value: '6.0022983…' })).toEqual({ numbers: '13721 / 2285.9577', value: '6.0022983', sign: '≈' });
    expect(lineText({ ...line, value: '6' }).sign).toBe('=');
    // What was left out of a long sum stays left out.
    expect(lineText({ ...line, numbers: '1 + 2 + … and 4 more … + 9', value: '30' }).numbers).toContain('… and 4 more …');
  });

  it('says when digits were cut', () => {
    expect(shown(exact('96'))).toBe('96');
    expect(shown(exact('2/3'))).toBe('0.66666667…');
    expect(shown(exact('0.250'))).toBe('0.25');
  });
});

/** A sum of keyed numbers, as a tree: what a formula is to the arithmetic. */
type Tree = string | readonly ['add' | 'sub' | 'mul' | 'div', Tree, Tree];

const { tree } = fc.letrec<{ tree: Tree }>((tie) => ({
  tree: fc.oneof(
    { maxDepth: 5 },
    fc.oneof(decimals, fc.constantFrom('0', '0.1', '2.675', '1000000000.000001', '123456789012345678')),
    fc.tuple(fc.constantFrom('add', 'sub', 'mul', 'div'), tie('tree'), tie('tree')) as fc.Arbitrary<Tree>,
  ),
}));

/** The same tree by a library of fractions alone; null where it divides by zero. */
function byFractions(t: Tree): Fraction | null {
  if (typeof t === 'string') return new Fraction(t);
  const [a, b] = [byFractions(t[1]), byFractions(t[2])];
  return a === null || b === null || (t[0] === 'div' && b.n === 0n) ? null : a[t[0]](b);
}

/** The very value of a double: halves of halves. */
function ofDouble(x: number): Fraction {
  let [top, halves] = [x, 0];
  for (; !Number.isInteger(top); top *= 2) halves++;
  return new Fraction(BigInt(top), 2n ** BigInt(halves));
}

const byFilter = (t: Tree): Exact => (typeof t === 'string' ? exact(t) : byFilter(t[1])[t[0]](byFilter(t[2])));

describe('arithmetic on doubles with a bound, exact where the bound leaves it open', () => {
  it('compares, rounds and spells like fractions do', () => {
    fc.assert(
      fc.property(tree, tree, steps, (one, other, step) => {
        const [f, g] = [byFractions(one), byFractions(other)];
        fc.pre(f !== null && g !== null);
        const [x, y] = [byFilter(one), byFilter(other)];
        const again = Exact.fraction(f);
        expect(Math.sign(x.compare(y))).toBe(Math.sign(f.compare(g)));
        expect([reported(x, step), significant(x, 12), shown(x)]).toEqual([reported(again, step), significant(again, 12), shown(again)]);
        expect(ratio(x)).toBe(`${f.s * f.n}/${f.d}`);
      }),
      { numRuns: 500 },
    );
  });

  it('is never further from its double than it says', () => {
    fc.assert(
      fc.property(tree, (t) => {
        const f = byFractions(t);
        fc.pre(f !== null);
        const x = byFilter(t);
        if (!Number.isFinite(x.off)) return;
        expect(ofDouble(x.near).sub(f).abs().compare(ofDouble(x.off))).toBeLessThanOrEqual(0);
      }),
    );
  });

  it('sums and means of a list are the same, one by one or at once', () => {
    fc.assert(
      fc.property(fc.array(tree, { minLength: 1, maxLength: 40 }), (trees) => {
        const parts = trees.flatMap((t) => byFractions(t) ?? []);
        fc.pre(parts.length === trees.length);
        const values = trees.map(byFilter);
        const sum = parts.reduce((a, b) => a.add(b));
        for (const [x, f] of [[Exact.sum(values), sum] as const, [Exact.mean(values), sum.div(parts.length)] as const]) {
          if (Number.isFinite(x.off)) expect(ofDouble(x.near).sub(f).abs().compare(ofDouble(x.off))).toBeLessThanOrEqual(0);
          expect(ratio(x)).toBe(`${f.s * f.n}/${f.d}`);
        }
      }),
    );
    expect([Exact.sum([]).toString(), Exact.sum([exact('2'), exact('3')]).off]).toEqual(['0', 0]);
    expect(() => Exact.mean([])).toThrowError('division by zero');
  });

  it('decides what doubles cannot: equal by different ways, a tie, a last place', () => {
    const third = exact('1').div(3);
    expect(third.mul(3).equals(1)).toBeTrue();
    expect(exact('0.1').add(exact('0.2')).equals(exact('0.3'))).toBeTrue();
    expect(exact('9007199254740993').compare(exact('9007199254740992'))).toBeGreaterThan(0);
    expect(() => exact('1').div(exact('0.3').sub(exact('0.1').mul(3)))).toThrowError(/division by zero/);
  });

  it('adds up a long series without running out of stack, and still exactly', () => {
    let sum = exact('0');
    for (let i = 0; i < 30_000; i++) sum = sum.add(exact('0.1'));
    expect(sum.equals(3000)).toBeTrue();
  });

  it('keeps 40 digits of a root, a logarithm and a power, and knows a perfect square', () => {
    expect(root(exact('2.25')).equals(exact('1.5'))).toBeTrue();
    expect(significant(root(exact('2')), 30)).toBe('1.41421356237309504880168872421');
    expect(significant(naturalLog(exact('10')), 20)).toBe('2.3025850929940456840');
    expect(powerOfTen(exact('-3')).equals(exact('0.001'))).toBeTrue();
  });
});

describe('short texts', () => {
  it('with the same double are the same number, however they are written; a digit more tells them apart', () => {
    expect([exact('4.75').compare(exact('4.750')), exact('0.6').compare(exact('0.600')), exact('0.600').equals(exact('0.6'))]).toEqual([
      0,
      0,
      true,
    ]);
    expect(exact('0.1').compare(exact('0.1000000000000000000001'))).toBeLessThan(0);
    expect(exact('0.30000000000001').compare(exact('0.30000000000002'))).toBeLessThan(0);
  });
});
