import fc from 'fast-check';
import {
  diagnose,
  drawLoads,
  evaluate,
  JOBS,
  methodById,
  plan,
  type AnyInputs,
  type Interval,
  type PlanEvent,
  type PlanLink,
  type UnitId,
} from '../src/index.js';

const H = 3_600_000;
/** Hours from a midnight: 7 is 07:00 of the first day, 31 is 07:00 of the next. */
const at = (hours: number) => hours * H;
const days = (count: number, from = 7, to = 17.5): Interval[] =>
  Array.from({ length: count }, (_d, i) => ({ from: at(24 * i + from), to: at(24 * i + to) }));
const event = (id: string, more: Partial<PlanEvent> = {}): PlanEvent => ({ id, label: id, attended: true, ...more });
const link = (from: string, to: string, least: number, most?: number): PlanLink => ({
  from,
  to,
  least: at(least),
  ...(most === undefined ? {} : { most: at(most) }),
});

describe('jobs to plan', () => {
  const job = (id: string) => JOBS.find((j) => j.id === id)!;
  const planned = (id: string, fixed: string, ms: number, openings: Interval[]) => {
    const { events, links } = job(id);
    const wished = events.map((e) => (e.id === fixed ? { ...e, notBefore: ms, notAfter: ms } : e));
    return plan(wished, links, openings, 'latest');
  };

  it('every link joins two moments of its job, every moment is joined, and a week of open days has room for it', () => {
    for (const { id, events, links, wished } of JOBS) {
      const ids = events.map((e) => e.id);
      expect(links.flatMap((l) => [l.from, l.to]).filter((end) => !ids.includes(end)))
        .withContext(id)
        .toEqual([]);
      expect(ids.filter((e) => !links.some((l) => l.from === e || l.to === e)))
        .withContext(id)
        .toEqual([]);
      expect(planned(id, wished, at(24 * 4 + 9), days(40)).ok)
        .withContext(id)
        .toBeTrue();
    }
  });

  it('cones at 07:00: into the water between 12:00 and 16:00 the day before; cast 16:10: breaks in their windows', () => {
    const sand = planned('fine-aashto', 'cone', at(55), days(5));
    if (!sand.ok) throw new Error('no plan');
    expect(sand.events.find((e) => e.id === 'soak')!.feasible).toEqual({ from: at(36), to: at(40) });
    const cast = 16 + 1 / 6;
    const round = days(40, 0, 24);
    const set = planned('breaks', 'cast', at(cast), round);
    if (!set.ok) throw new Error('no plan');
    expect(set.events.find((e) => e.id === 'd3')!.feasible).toEqual({ from: at(72 + cast - 2), to: at(72 + cast + 2) });
    expect(set.events.find((e) => e.id === 'd7')!.feasible).toEqual({ from: at(168 + cast - 6), to: at(168 + cast + 6) });
  });
});

describe('planning', () => {
  it('backwards: cones at 07:00 tomorrow, so the sand goes to soak between 12:00 and 16:00 today', () => {
    const events = [event('oven'), event('soak'), event('cone', { notBefore: at(31), notAfter: at(31) })];
    const made = plan(events, [link('oven', 'soak', 4), link('soak', 'cone', 15, 19)], days(2), 'latest');
    if (!made.ok) throw new Error('no plan');
    const of = (id: string) => made.events.find((e) => e.id === id)!;
    expect(of('soak').feasible).toEqual({ from: at(12), to: at(16) });
    // Half an hour inside the soak's latest, and a quarter more for the oven: nobody is punctual to the minute.
    expect([of('soak').best, of('oven').best]).toEqual([at(15.5), at(11.25)]);
    expect(of('oven').feasible.from).toBe(at(7));
  });

  it('moves a break off a closed day when the window lets it, and says when it does not', () => {
    const cast = event('cast', { notBefore: at(9), notAfter: at(9) });
    const open = days(40).filter((_o, i) => i !== 28);
    const wide = plan([cast, event('break')], [link('cast', 'break', 28 * 24 - 20, 28 * 24 + 20)], open);
    if (!wide.ok) throw new Error('no plan');
    // 28 d ± 20 h from 09:00: the evening before from 13:00, or the next morning from 07:00 on no longer.
    expect(wide.events[1]?.feasible).toEqual({ from: at(27 * 24 + 13), to: at(27 * 24 + 17.5) });
    const narrow = plan(
      [cast, event('break')],
      [link('cast', 'break', 3 * 24 - 2, 3 * 24 + 2)],
      days(40).filter((_o, i) => i !== 3),
    );
    expect(narrow.ok || narrow.fails).toEqual({ kind: 'closed', events: ['break'] });
    // By how much: where the break would have to fall.
    expect(narrow.events[1]?.feasible).toEqual({ from: at(3 * 24 + 7), to: at(3 * 24 + 11) });
  });

  it('names the two events whose delays cannot both be met', () => {
    const made = plan([event('a', { notBefore: at(8), notAfter: at(8) }), event('b', { notAfter: at(10) })], [link('a', 'b', 3)], days(1));
    expect(made.ok || made.fails).toEqual({ kind: 'delay', from: 'a', to: 'b' });
    const circle = plan([event('a'), event('b')], [link('a', 'b', 1), link('b', 'a', 1)], days(1));
    expect(circle.ok || circle.fails).toEqual({ kind: 'delay', from: 'a', to: 'b' });
  });

  it('names no more steps than must be while the lab is closed', () => {
    const events = [event('soak'), event('cone', { notBefore: at(22), notAfter: at(22) }), event('flask')];
    const late = plan(events, [link('soak', 'cone', 5, 14), link('cone', 'flask', 0.5, 4)], days(2));
    expect(late.ok || late.fails).toEqual({ kind: 'closed', events: ['cone', 'flask'] });
  });

  it('plans nothing into the past: names what had to be done by then, and when the wish could come true instead', () => {
    const events = [event('soak'), event('cone', { notBefore: at(31), notAfter: at(31) })];
    const links = [link('soak', 'cone', 15, 19)];
    expect(plan(events, links, days(3), 'latest', at(12)).ok).toBeTrue();
    const late = plan(events, links, days(3), 'latest', at(16.5));
    expect(late.ok || late.fails).toEqual({ kind: 'past', event: 'soak', by: at(16) });
    expect(late.events[1]?.feasible.from).toBe(at(16.5 + 15));
    expect(late.events.every((e) => e.feasible.from >= at(16.5) && e.best >= at(16.5))).toBeTrue();
  });

  it('an unattended event may fall in the night', () => {
    const events = [event('in', { notBefore: at(16), notAfter: at(16) }), event('dry', { attended: false }), event('weigh')];
    const made = plan(events, [link('in', 'dry', 6, 6), link('dry', 'weigh', 1, 14)], days(2));
    if (!made.ok) throw new Error('no plan');
    expect(made.events.map((e) => e.best)).toEqual([at(16), at(22), at(31.25)]);
  });

  it('what it offers keeps every delay and every opening', () => {
    const delays = fc.array(fc.tuple(fc.integer({ min: 0, max: 20 }), fc.integer({ min: 0, max: 20 })), { minLength: 1, maxLength: 4 });
    fc.assert(
      fc.property(delays, fc.constantFrom('earliest', 'latest'), (list, prefer) => {
        const events = [event('0', { notBefore: at(8), notAfter: at(15) }), ...list.map((_d, i) => event(String(i + 1)))];
        const links = list.map(([least, more], i) => link(String(i), String(i + 1), least, least + more));
        const openings = days(6);
        const made = plan(events, links, openings, prefer);
        if (!made.ok) return true;
        const when = new Map(made.events.map((e) => [e.id, e.best]));
        const kept = links.every((l) => when.get(l.to)! - when.get(l.from)! >= l.least && when.get(l.to)! - when.get(l.from)! <= l.most!);
        const inside = made.events.every(
          (e) => openings.some((o) => o.from <= e.best && e.best <= o.to) && e.feasible.from <= e.best && e.best <= e.feasible.to,
        );
        return kept && inside;
      }),
    );
  });
});

describe('diagnosis', () => {
  it('offers the best supported cause first, with what speaks against it and what is not known', () => {
    const [first, ...rest] = diagnose({ slump: 'high', density: 'low', yield: 'high', air: 'usual' });
    expect([first?.id, first?.supports, first?.against, first?.unknown]).toEqual([
      'extra-water',
      ['slump', 'density', 'yield'],
      [],
      ['wcm'],
    ]);
    expect(rest.map((d) => [d.id, d.against])).toEqual([
      ['admixture-dose', ['density']],
      ['too-much-air', ['air']],
    ]);
  });

  it('tells weak concrete from bad testing by the companions', () => {
    expect(diagnose({ strength: 'low', companions: 'scatter', fracture: 'odd' }).map((d) => d.id)).toEqual(['bad-testing']);
    expect(diagnose({ strength: 'low', companions: 'agree', wcm: 'high' }).map((d) => d.id)).toEqual(['weak-concrete']);
  });

  it('says nothing where nothing is out of the usual, whatever it could explain', () => {
    expect(diagnose({ slump: 'usual', density: 'usual', yield: 'usual', air: 'usual', airs: 'agree' })).toEqual([]);
  });

  it('says nothing on one sign alone', () => {
    expect(diagnose({ slump: 'high' })).toEqual([]);
    expect(diagnose({})).toEqual([]);
  });
});

describe('sampling plans, bands and traces', () => {
  const q = (text: string, unit: UnitId) => ({ text, unit });
  const run = (id: string, input: AnyInputs) => {
    const m = methodById(id)!;
    return evaluate(m, input, { variant: Object.keys(m.variants)[0]!, system: 'si' });
  };
  const of = (e: ReturnType<typeof run>, id: string) => e.results.find((r) => r.id === id);

  it('takes the most of a day, volume and area; and five in all, or each batch', () => {
    const tests = (volume: string, more: object = {}) =>
      of(run('sampling-frequency', { volume: q(volume, 'm3'), ...more }), 'day')?.reported;
    expect([tests('20'), tests('110'), tests('110.1'), tests('20', { area: q('1000', 'm2') })]).toEqual(['1', '1', '2', '3']);
    const short = (taken: string, more: object = {}) =>
      of(run('sampling-frequency', { volume: q('20', 'm3'), taken: q(taken, '1'), ...more }), 'short')?.reported;
    expect([short('3'), short('6'), short('1', { batches: q('2', '1') })]).toEqual(['1', '0', '0']);
    // The one of that day is counted: of two batches one was tested before, so nothing is short.
  });

  it('draws one load in each sublot, the same ones for the same seed, each as often as any', () => {
    expect(drawLoads(12, 4, 7, 2)).toEqual(drawLoads(12, 4, 7, 2));
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 60 }), fc.integer({ min: 1, max: 60 }), fc.nat(1_000_000), (n, k, seed) => {
        const take = Math.min(n, k);
        // The k-th pick lies in the k-th of `take` equal stretches: no stretch is missed.
        return drawLoads(n, take, seed).picks.every(
          (load, i) => load > Math.floor((i * n) / take) && load <= Math.floor(((i + 1) * n) / take),
        );
      }),
    );
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 60 }), fc.nat(1_000_000), (n, seed) => new Set(drawLoads(n, 1, seed, n).spares).size === n - 1),
    );
    const counts = new Map<number, number>();
    for (let seed = 0; seed < 6000; seed++) {
      const [load] = drawLoads(6, 1, seed).picks;
      counts.set(load!, (counts.get(load!) ?? 0) + 1);
    }
    for (const n of counts.values()) expect(Math.abs(n - 1000)).toBeLessThan(130);
    const e = run('random-loads', { loads: q('12', '1'), samples: q('3', '1'), spares: q('2', '1'), seed: q('7', '1') });
    expect([of(e, 'sample')?.words?.length, of(e, 'spares')?.words?.length]).toEqual([3, 2]);
  });

  it('says which sieves leave the band, on which side, as reported', () => {
    const sieve = (opening: string, passing: string) => ({ opening: q(opening, 'mm'), passing: q(passing, '%') });
    const stone = (at475: string) =>
      run('grading-band', {
        band: '67',
        sieves: [sieve('25.0', '100'), sieve('19.0', '89'), sieve('9.5', '40'), sieve('4.75', at475), sieve('2.36', '2')],
      });
    expect([of(stone('10.4'), 'above')?.words, of(stone('10.6'), 'above')?.words, of(stone('10'), 'below')?.words]).toEqual([
      [],
      ['4.75'],
      ['19.0'],
    ]);
  });

  it('fits the latter half of a trace, whatever the first half did', () => {
    // A cylinder of 100 mm: 0.25 MPa/s is 1.9635 kN/s.
    const points = [
      [0, 0],
      [5, 100],
      [10, 150],
      [20, 169.635],
      [30, 189.27],
      [40, 208.905],
      [50, 228.54],
      [55, 60],
    ] as const;
    const e = run('loading-rate', {
      diameter: q('100', 'mm'),
      trace: points.map(([t, p]) => ({ time: q(String(t), 's'), load: q(String(p), 'kN') })),
    });
    expect([of(e, 'rate')?.reported, of(e, 'points')?.reported, e.validity.state]).toEqual(['0.25', '5', 'valid']);
  });
});
