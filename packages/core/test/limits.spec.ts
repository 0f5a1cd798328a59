import fc from 'fast-check';
import {
  boundsOf,
  compare,
  evaluate,
  exact,
  furtherThanD2s,
  judge,
  judgeAll,
  limitWords,
  marginWords,
  methodById,
  METHODS,
  oneSigma,
  PRECISION,
  significant,
  strictestOf,
  worst,
  type Comparison,
  type Limit,
  type Verdict,
} from '../src/index.js';

const slump = methodById('slump')!;
const air = methodById('pressure-air')!;

const slumpOf = (height: string) =>
  evaluate(
    slump,
    { shape: 'true', mold: { text: '300', unit: 'mm' }, centre: { text: height, unit: 'mm' } },
    { variant: 'us', system: 'si' },
  );
const airOf = (gauge: string, correction = '0') => {
  const pct = (text: string) => ({ text, unit: '%' as const });
  const inputs = { gauge: pct(gauge), correction: pct(correction), division: pct('0.5') };
  return evaluate(air, inputs, { variant: 'type-b', system: 'si' });
};

const slumpLimit: Limit = { id: 'l', property: 'slump', unit: 'mm', target: '100', minus: '25', plus: '25', source: 'spec 2.4' };
const airLimit: Limit = { id: 'a', property: 'air', unit: '%', lower: '4.5', upper: '7.5', source: 'spec 2.5' };

function verdictOf(e: ReturnType<typeof slumpOf>, limit: Limit | undefined, comparison: Comparison = 'reported'): Verdict {
  const m = methodById(e.method)!;
  const result = e.results.find((r) => m.results[r.id]?.property !== undefined)!;
  return judge(m, result, e.validity.state, limit, comparison);
}

describe('comparing with a limit', () => {
  it('T3 a limit that is exactly met is inside, however it is compared', () => {
    for (const comparison of ['reported', 'rounded', 'absolute'] as const) {
      expect(compare({ value: exact('75') }, '75', 'lower', comparison).inside).toBeTrue();
      expect(compare({ value: exact('4.9') }, '4.9', 'upper', comparison).inside).toBeTrue();
    }
  });

  it('T4 the three ways of comparing disagree on a borderline value, and say so', () => {
    const e = airOf('7.54');
    expect(verdictOf(e, airLimit).state).toBe('edge');
    expect(verdictOf(e, airLimit, 'absolute').state).toBe('out');
    expect(verdictOf(e, airLimit).otherwise).toEqual({ reported: 'edge', rounded: 'edge', absolute: 'out' });
    expect(verdictOf(airOf('6.0'), airLimit).otherwise).toBeUndefined();
  });

  it('rounds to the reporting step where that is coarser than the limit', () => {
    // 227 mm of heap: a drop of 73 reports to 75 and meets 75, although 73 does not.
    const v = verdictOf(slumpOf('227'), slumpLimit);
    expect([v.compared, v.state]).toEqual(['75', 'edge']);
  });

  it('compares in the unit of the limit', () => {
    const inches: Limit = { id: 'i', property: 'slump', unit: 'in', lower: '3.00', upper: '5.00', source: 's' };
    const v = verdictOf(slumpOf('204'), inches);
    // Reported as 95 mm, which is 3.74 in: what is reported is compared, and not rounded once more to the quarter inch.
    expect([v.compared, v.unit]).toEqual(['3.7402', 'in']);
    // So 5.00 in is 127 mm, and no slump of at most 125 mm.
    const most: Limit = { id: 'i', property: 'slump', unit: 'mm', upper: '125', source: 's' };
    const inch = (text: string) => ({ text, unit: 'in' as const });
    const five = evaluate(slump, { shape: 'true', mold: inch('12'), centre: inch('7') }, { variant: 'us', system: 'us' });
    expect(verdictOf(five, most)).toEqual(jasmine.objectContaining({ state: 'out', compared: '127' }));
  });

  it('never calls a value better for being further out', () => {
    const rank = { within: 2, edge: 1, out: 0, open: -1, unjudged: -1, void: -1 };
    fc.assert(
      fc.property(fc.integer({ min: 30, max: 300 }), fc.integer({ min: 0, max: 60 }), (height, more) => {
        const near = verdictOf(slumpOf(String(height)), slumpLimit);
        if (near.side !== 'lower') return true;
        const drier = Math.min(300, height + more);
        return rank[verdictOf(slumpOf(String(drier)), slumpLimit).state] <= rank[near.state];
      }),
    );
  });
});

describe('verdicts', () => {
  it('are edge within one standard deviation of a limit, and within beyond it', () => {
    expect(verdictOf(airOf('7.2'), airLimit).state).toBe('within');
    expect(verdictOf(airOf('7.3'), airLimit).state).toBe('edge');
    expect(verdictOf(airOf('7.6'), airLimit).state).toBe('out');
  });

  it('are never edge where no figure is published', () => {
    const m = methodById('yield')!;
    const e = evaluate(
      m,
      {
        full: { text: '19.31', unit: 'kg' },
        empty: { text: '3.21', unit: 'kg' },
        volume: { text: '7.043', unit: 'L' },
        batch: [{ name: null, role: 'cementitious', mass: { text: '13444', unit: 'kg' } }],
        design: { text: '6', unit: 'm3' },
      },
      { variant: 'exact', system: 'si' },
    );
    const limit: Limit = { id: 'y', property: 'relative-yield', unit: '1', lower: '0.98', source: 's' };
    const v = judge(
      m,
      e.results.find((r) => r.id === 'relative')!,
      'valid',
      limit,
      'rounded',
    );
    expect([v.compared, v.state]).toEqual(['0.98', 'within']);
  });

  it('a void test is never out, and an unlimited result is unjudged', () => {
    const sheared = evaluate(
      slump,
      { shape: 'shear', mold: { text: '300', unit: 'mm' }, centre: { text: '20', unit: 'mm' } },
      { variant: 'us', system: 'si' },
    );
    expect(verdictOf(sheared, slumpLimit).state).toBe('void');
    expect(verdictOf(slumpOf('204'), undefined).state).toBe('unjudged');
  });

  it('are open while a reading is missing', () => {
    const e = evaluate(slump, { shape: 'true', mold: { text: '300', unit: 'mm' } }, { variant: 'us', system: 'si' });
    expect(e.missing).toEqual(['drop']);
    expect(verdictOf(e, slumpLimit).state).toBe('open');
  });

  it('say the margin in words', () => {
    expect([
      limitWords(slumpLimit),
      ...[
        { lower: '2.60', upper: '2.66' },
        { upper: '1.8' },
        { lower: '5' },
        { target: '6.0', minus: '1.0', plus: '1.5' },
        { target: '6', plus: '1' },
      ].map((ends) => limitWords({ unit: '%', ...ends })),
    ]).toEqual(['100 ± 25 mm', '2.60 to 2.66 %', 'at most 1.8 %', 'at least 5 %', '6.0 −1.0 +1.5 %', '6 +1 %']);
    expect(marginWords(verdictOf(slumpOf('204'), slumpLimit))).toBe('20 mm above the lower limit');
    expect(marginWords(verdictOf(slumpOf('142'), slumpLimit))).toBe('35 mm above the upper limit');
    expect(marginWords(verdictOf(slumpOf('250'), slumpLimit))).toBe('25 mm below the lower limit');
    expect(marginWords(verdictOf(slumpOf('225'), slumpLimit))).toBe('exactly on the lower limit');
    // Where only its rounding puts it there, that is said.
    expect(marginWords(verdictOf(slumpOf('226'), slumpLimit))).toBe('exactly on the lower limit: 74 mm is reported as 75 mm');
    expect(marginWords(verdictOf(airOf('3.5'), airLimit))).toBe('1.0 points below the lower limit');
  });

  it('come from every specification of a mix', () => {
    const spec = (id: string, upper: string) => ({
      id,
      name: id,
      comparison: 'reported' as const,
      limits: [{ ...airLimit, id, lower: undefined, upper }],
    });
    const judged = judgeAll(air, airOf('6.4'), [spec('owner', '6.0'), spec('producer', '7.5')]);
    expect(judged.map((j) => j.verdicts.find((v) => v.result === 'air')?.state)).toEqual(['out', 'within']);
  });

  it('rank void below out, so that neither hides the other', () => {
    expect(worst(['within', 'void', 'out'])).toBe('out');
    expect(worst(['within', 'void'])).toBe('void');
    expect(worst([])).toBe('unjudged');
  });
});

describe('bounds and precision', () => {
  it('every precision that a definition names is published', () => {
    const named = METHODS.flatMap((m) => Object.values(m.results).flatMap((r) => (r.precision === undefined ? [] : [r.precision])));
    expect([...new Set(named)].filter((id) => PRECISION[id] === undefined)).toEqual([]);
  });

  it('two results exactly d2s apart are not too far, and the nearest level decides for slump', () => {
    expect(furtherThanD2s('air', exact('5.0'), exact('5.8'), '%')).toBeFalse();
    expect(furtherThanD2s('air', exact('5.0'), exact('5.81'), '%')).toBeTrue();
    expect([furtherThanD2s('slump', exact('1'), exact('1.7'), 'in'), furtherThanD2s('slump', exact('6'), exact('6.7'), 'in')]).toEqual([
      true,
      false,
    ]);
    expect(furtherThanD2s('air', exact('5'), exact('9'), 'mm')).toBeNull();
  });

  it('a target keeps the finest last place of its parts', () => {
    expect(boundsOf({ ...airLimit, lower: undefined, upper: undefined, target: '6', minus: '1.5', plus: '1.0' })).toEqual({
      lower: '4.5',
      upper: '7.0',
    });
  });

  it('slump’s 1s runs linearly between its levels and is held beyond them', () => {
    expect(oneSigma('slump', exact('1'), 'in')?.toString()).toBe('23/100');
    expect(significant(oneSigma('slump', exact('2.3'), 'in')!, 4)).toBe('0.3050');
    expect(oneSigma('slump', exact('9'), 'in')?.toString()).toBe('2/5');
    expect(oneSigma('density', exact('2300'), 'kg/m3')?.toString()).toBe('52/5');
    expect(oneSigma('nothing', exact('1'), 'mm')).toBeNull();
  });
});

describe('several limits on one property', () => {
  it('are met where all of them are: the highest lower and the lowest upper end, whatever they are written in', () => {
    const limit = (more: object) => ({ id: 'l', property: 'slump', unit: 'mm' as const, source: '2.4', ...more });
    const both = [limit({ target: '100', minus: '25', plus: '25' }), limit({ lower: '80', upper: '150' })];
    expect(strictestOf(both, 'mm')).toEqual({ lower: '80', upper: '125' });
    expect(strictestOf([...both, limit({ unit: 'in', upper: '4' })], 'mm')).toEqual({ lower: '80', upper: '101.6' });
    expect(strictestOf([limit({ upper: '150' })], 'mm')).toEqual({ upper: '150' });
  });
});

describe('what was not read', () => {
  it('is open where a limit asks for it or the test is made for it; what nothing limits is not missing', () => {
    const m = methodById('fine-gravity')!;
    const e = evaluate(m, {} as never, { variant: Object.keys(m.variants)[0]!, system: 'si' });
    const states = judgeAll(m, e, [])[0]!.verdicts.map((v) => [v.result, v.state]);
    const main = Object.entries(m.results as Record<string, { main?: boolean }>).flatMap(([id, r]) => (r.main ? [id] : []));
    expect(states.filter(([, s]) => s === 'open').map(([id]) => id)).toEqual(main);
    expect(states.length).toBeGreaterThan(main.length);
  });
});
