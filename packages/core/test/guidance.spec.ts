import {
  asksForAnother,
  CATALOGUE,
  evaluate,
  guidance,
  judgeAll,
  judgeTurn,
  methodById,
  METHODS,
  nextTurn,
  pairWords,
  testsApart,
  unspell,
  verdictOfEach,
  type Comparison,
  type Evaluation,
  type Judged,
  type Limit,
  type Shape,
  type Spelled,
} from '../src/index.js';

const under = (id: string, spelled: Spelled, variant?: string, system: 'si' | 'us' = 'si'): Evaluation => {
  const m = methodById(id)!;
  return evaluate(m, unspell(m.fields as Shape, spelled), { variant: variant ?? Object.keys(m.variants)[0]!, system });
};
const judged = (e: Evaluation, limits: Omit<Limit, 'id' | 'source'>[], comparison: Comparison = 'reported'): Judged[] =>
  judgeAll(methodById(e.method)!, e, [
    { id: 's', name: 'S', comparison, limits: limits.map((l, i) => ({ ...l, id: `l${i}`, source: `2.${i}` })) },
  ]);
const verdictOf = (e: Evaluation, limits: Omit<Limit, 'id' | 'source'>[], comparison?: Comparison) =>
  judged(e, limits, comparison)[0]!.verdicts.find((v) => v.limit !== undefined)!;
const told = (e: Evaluation, limits: Omit<Limit, 'id' | 'source'>[] = []) =>
  guidance(methodById(e.method)!, e, limits.length > 0 ? judged(e, limits) : []);
const slump = (drop: string, more: Spelled = {}) => under('slump', { shape: 'true', mold: '300 mm', drop, ...more });

describe('several specifications on one result', () => {
  it('give it one verdict: the worst, whichever of them is named first', () => {
    const m = methodById('slump')!;
    const e = slump('130 mm');
    const spec = (id: string, upper: string) => ({
      id,
      name: id,
      comparison: 'reported' as const,
      limits: [{ id, property: 'slump', unit: 'mm' as const, upper, source: '2.4' }],
    });
    for (const order of [['wide', 'narrow'] as const, ['narrow', 'wide'] as const]) {
      const verdicts = verdictOfEach(
        m,
        judgeAll(
          m,
          e,
          order.map((id) => spec(id, id === 'wide' ? '200' : '100')),
        ),
      );
      expect(verdicts.filter((v) => v.result === 'slump').map((v) => [v.state, v.limit])).toEqual([['out', 'narrow']]);
    }
  });
});

describe('several limits on one property', () => {
  const both: Omit<Limit, 'id' | 'source'>[] = [
    { property: 'slump', unit: 'mm', lower: '50' },
    { property: 'slump', unit: 'mm', upper: '100' },
  ];

  it('are all judged: the worst is the verdict, each stays beside it', () => {
    const states = (drop: string) => {
      const v = verdictOf(slump(drop), both);
      return [v.state, v.limit, ...(v.each ?? []).map((one) => one.state)];
    };
    expect(states('200 mm')).toEqual(['out', 'l1', 'within', 'out']);
    expect(states('20 mm')).toEqual(['out', 'l0', 'out', 'within']);
    expect(states('75 mm').slice(0, 1)).toEqual(['within']);
    // In whichever order they stand.
    expect(verdictOf(slump('200 mm'), [...both].reverse()).state).toBe('out');
  });

  it('a limit in another unit of the dimension is converted, and 92 min is above 1.5 h', () => {
    const time = (discharged: string) => under('time-in-truck', { batched: '2026-11-25T07:00:00Z', discharged });
    const limit = [{ property: 'time-in-truck', unit: 'h' as const, upper: '1.5' }];
    expect(verdictOf(time('2026-11-25T08:30:00Z'), limit).state).toBe('within');
    expect(verdictOf(time('2026-11-25T08:32:00Z'), limit).state).toBe('out');
    expect(told(time('2026-11-25T08:32:00Z'), limit)[0]?.says).not.toContain('is compared unrounded');
  });

  it('drying shrinkage has a limit of its own, from the start of drying', () => {
    const m = methodById('length-change')!;
    const properties = Object.values(m.results as Record<string, { property?: string }>).flatMap((r) => (r.property ? [r.property] : []));
    expect(properties.length).toBeGreaterThanOrEqual(2);
    expect(new Set(properties).size).toBe(properties.length);
  });
});

describe('comparing', () => {
  it('as reported is the usual way: 5 1/4 in is above 5, and 30.5 °C above 30', () => {
    const inches = under('slump', { shape: 'true', mold: '12 in', drop: '5.25 in' }, 'us', 'us');
    const [v] = [verdictOf(inches, [{ property: 'slump', unit: 'in', upper: '5' }])];
    expect([v.state, v.compared, v.otherwise?.rounded]).toEqual(['out', '5.25', 'edge']);
    const warm = under('temperature', { temperature: '30.5 C' });
    expect(verdictOf(warm, [{ property: 'temperature', unit: 'C', upper: '30' }]).state).toBe('out');
  });

  it('rounded as the limit is written says so, and no sentence contradicts the figure beside it', () => {
    const warm = under('temperature', { temperature: '30.5 C' });
    const limits = [{ property: 'temperature', unit: 'C' as const, upper: '30' }];
    const [t] = guidance(methodById('temperature')!, warm, judged(warm, limits, 'rounded'));
    expect([verdictOf(warm, limits, 'rounded').state, t?.says]).toEqual([
      'edge',
      jasmine.stringContaining('30.5 °C rounds to 30 °C as the limit is written') as never,
    ]);
    expect(t?.says).not.toMatch(/^Temperature is exactly on the upper limit\.$/);
  });
});

describe('what a technician is told', () => {
  it('every void, mark, refusal and doubt of the catalogue has its next step', () => {
    // The specs of the codes produce each of them; here: what a person reads of all examples turned wrong.
    for (const m of METHODS) {
      const e = evaluate(m, unspell(m.fields as Shape, m.example), { variant: Object.keys(m.variants)[0]!, system: 'si' });
      for (const t of guidance(m, e))
        if (t.kind !== 'note' && t.kind !== 'verdict') expect(t.next.length).withContext(`${m.id} ${t.code}`).toBeGreaterThan(0);
    }
    expect(Object.keys(CATALOGUE).length).toBeGreaterThan(150);
  });

  it('a second shear in a row ends it: one next step, and it is no third slump', () => {
    const e = slump('20 mm', { shape: 'shear', previous: 'shear' });
    const list = told(e);
    expect(list.map((t) => t.code)).toEqual(['sheared-twice']);
    expect([list[0]?.says, list[0]?.next]).toEqual([
      'Sheared twice running: this concrete lacks the cohesion for the slump test.',
      ['Make no third slump. Report that it lacks cohesion, without a number, and tell the engineer.'],
    ]);
  });

  it('an out result: what the specification says first, then what to do; once both are out, not the check test again', () => {
    const limits = [{ property: 'slump', unit: 'mm' as const, upper: '125', onFail: 'Reject the load.' }];
    const e = slump('160 mm');
    const steps = (pair: Parameters<typeof guidance>[3]) =>
      guidance(methodById('slump')!, e, judged(e, limits), pair).find((t) => t.code === 'out')!.next;
    expect(steps(null)[0]).toBe('Reject the load.');
    expect(steps(null).some((s) => s.includes('check test'))).toBeTrue();
    expect(steps('load-fails').some((s) => s.startsWith('Make a check test'))).toBeFalse();
  });

  it('a mark says whether the test still counts', () => {
    const e = under('gradation', {
      dry: '500 g',
      sieves: [
        { opening: '4.75 mm', retained: '100 g' },
        { opening: '2.36 mm', retained: '100 g' },
      ],
      pan: '290 g',
    });
    const mark = told(e).find((t) => t.kind === 'mark');
    expect([mark?.code, mark?.counts]).toEqual([
      'sieving-loss',
      'Reported with a remark. It does not count for acceptance. By ASTM C136/C136M (2019).',
    ]);
    expect(mark?.next[0]).toContain('other portion');
  });

  it('“no slump” or a collapse with a height is not plainly within', () => {
    const limits = [{ property: 'slump', unit: 'mm' as const, lower: '75', upper: '250' }];
    const e = under('slump', { shape: 'collapse', mold: '300 mm', drop: '240 mm' });
    expect(told(e, limits).some((t) => t.kind === 'mark' || t.kind === 'void')).toBeTrue();
  });
});

describe('a test and the one before it', () => {
  const first = slump('145 mm');
  const check = slump('115 mm');

  type State = Parameters<typeof judgeTurn>[1][number]['state'];
  const turn = (...tests: [State, Evaluation?][]) =>
    judgeTurn(
      methodById('slump')!,
      tests.map(([state, evaluation]) => ({ state, evaluation: evaluation ?? slump('120 mm') })),
    );

  it('two that are further apart than two results may be ask for a third', () => {
    const { pair, apart } = turn(['out', first], ['within', check]);
    expect(apart?.params['apart']).toBe('30 mm');
    const words = pairWords(pair, apart);
    expect(words?.says).toContain('30 mm');
    expect(words?.next).toMatch(/third/);
    expect(testsApart(methodById('slump')!, first, slump('135 mm'))).toBeNull();
  });

  it('the third decides with the one that it agrees with, and no fourth is asked for', () => {
    const third = (state: State, mm: string) => turn(['out', first], ['within', check], [state, slump(mm)]);
    expect([third('within', '112 mm').pair, third('out', '148 mm').pair]).toEqual(['third-passes', 'third-fails']);
    // Inside, but as far from the one that is inside as the first was: nothing is settled.
    expect(third('within', '85 mm').pair).toBe('unsettled');
    expect(third('within', '112 mm').as).toBe('third');
    const more = (pair: Parameters<typeof pairWords>[0]) => asksForAnother({ state: 'within', evaluation: check, pair });
    expect((['third-passes', 'third-fails', 'unsettled'] as const).map(more)).toEqual([false, false, false]);
    expect(pairWords('third-fails', null)?.fails).toBeTrue();
  });

  it('the next test says what either outcome of it would mean', () => {
    const next = (...tests: Parameters<typeof turn>) => {
      const [state, evaluation] = tests.at(-1)!;
      const before = tests.length > 1 ? turn(...tests) : { pair: null, as: null };
      return nextTurn({ state, evaluation: evaluation ?? slump('120 mm'), ...before });
    };
    expect(next(['out', first])).toEqual({
      as: 'check',
      within: 'The check test is inside: the load meets this requirement.',
      out: 'First and check test are both out: the load fails this requirement.',
    });
    expect([next(['void'])?.as, next(['out', first], ['void'])?.as]).toEqual(['repeat', 'repeat']);
    // The repeat of a void check is the check: it can fail the load.
    expect(next(['out', first], ['void'])?.out).toContain('fails');
    expect(next(['void'])?.out).not.toContain('fails');
    expect(next(['out', first], ['within', check])?.as).toBe('third');
    expect([next(['within', check]), next(['out', first], ['out', slump('140 mm')])]).toEqual([null, null]);
  });

  it('what is void is out of the count: its repeat is what it was to be', () => {
    expect(turn(['void'], ['out']).pair).toBe('repeat-stands');
    expect(turn(['void'], ['void']).pair).toBe('both-void');
    expect(turn(['out', first], ['open']).pair).toBe('waiting');
    expect(turn(['out', first], ['void'], ['out', slump('140 mm')])).toEqual({ pair: 'load-fails', apart: null, as: 'repeat' });
    expect(turn(['out', first], ['void'], ['within', slump('130 mm')]).pair).toBe('check-passes');
    expect(turn(['out', first], ['within', check], ['void'], ['within', slump('112 mm')])).toEqual({
      pair: 'third-passes',
      apart: null,
      as: 'third',
    });
  });

  it('another test is asked for by a void or out one and by two too far apart, never after what ends testing', () => {
    const last = (e: Evaluation, state: 'void' | 'out' | 'within', pair: Parameters<typeof pairWords>[0] | null = null) =>
      asksForAnother({ state, evaluation: e, pair });
    expect([last(slump('20 mm', { shape: 'shear' }), 'void'), last(first, 'out'), last(check, 'within', 'apart')]).toEqual([
      true,
      true,
      true,
    ]);
    expect([
      last(slump('20 mm', { shape: 'shear', previous: 'shear' }), 'void'),
      last(first, 'out', 'load-fails'),
      last(check, 'within'),
    ]).toEqual([false, false, false]);
  });

  it('both out fail the load however far apart, both void have their sentence, a waiting one says nothing', () => {
    expect(turn(['out', slump('145 mm')], ['out', slump('60 mm')]).pair).toBe('load-fails');
    expect(pairWords('both-void', null)?.next).toContain('once more');
    expect(pairWords('waiting', null)).toBeNull();
  });
});
