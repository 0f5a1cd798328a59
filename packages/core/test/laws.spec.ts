import fc from 'fast-check';
import { evaluate, exact, fixed, methodById, type AnyInputs, type Evaluation, type Exact, type How, type UnitId } from '../src/index.js';
import { plain, recording, type Calc, type WorkingLine } from '../src/methods/calc.js';
import { naturalLog, powerOfTen, root } from '../src/numbers/transcendental.js';

const q = (text: string, unit: UnitId) => ({ text, unit });
const g = (text: string) => q(text, 'g');
const MPa = (value: number) => ({ strength: q(value.toFixed(1), 'MPa') });

function run(id: string, input: AnyInputs, how: Partial<How> = {}): Evaluation {
  const m = methodById(id)!;
  return evaluate(m, input, { variant: Object.keys(m.variants)[0]!, system: 'si', ...how });
}
const value = (e: Evaluation, id: string): Exact => exact(e.results.find((r) => r.id === id)!.exact!);
const words = (e: Evaluation, id: string) => e.results.find((r) => r.id === id)?.words ?? [];
const tenths = (min: number, max: number) => fc.integer({ min: min * 10, max: max * 10 }).map((n) => (n / 10).toFixed(1));

describe('laws of aggregates', () => {
  const stone = fc
    .tuple(fc.integer({ min: 10_000, max: 60_000 }), fc.integer({ min: 0, max: 800 }), fc.integer({ min: 550, max: 680 }))
    .map(([dry, absorbed, inWater]) => ({
      dry: g((dry / 10).toFixed(1)),
      ssd: g(((dry + Math.round((dry * absorbed) / 10_000)) / 10).toFixed(1)),
      inWater: g(((dry * inWater) / 10_000).toFixed(1)),
    }));

  it('oven-dry ≤ SSD ≤ apparent, and the identity of the three holds exactly', () => {
    fc.assert(
      fc.property(stone, (masses) => {
        const e = run('coarse-gravity', masses);
        const [od, ssd, apparent, absorption] = ['od', 'ssd', 'apparent', 'absorption'].map((id) => value(e, id)) as [
          Exact,
          Exact,
          Exact,
          Exact,
        ];
        const identity = od.inverse().sub(apparent.inverse()).equals(absorption.div(100));
        return od.compare(ssd) <= 0 && ssd.compare(apparent) <= 0 && identity;
      }),
    );
  });

  it('a film of water left on the stone raises absorption and lowers the oven-dry gravity', () => {
    fc.assert(
      fc.property(stone, fc.integer({ min: 1, max: 200 }), (masses, film) => {
        const wetter = { ...masses, ssd: g((Number(masses.ssd.text) + film / 10).toFixed(1)) };
        const [as, wet] = [run('coarse-gravity', masses), run('coarse-gravity', wetter)];
        return value(wet, 'absorption').compare(value(as, 'absorption')) > 0 && value(wet, 'od').compare(value(as, 'od')) < 0;
      }),
    );
  });

  it('a companion of the very same mass gives what the flask’s contents give', () => {
    fc.assert(
      fc.property(tenths(480, 499), (dry) => {
        const flask = { ssd: g('500.0'), flaskWater: g('650'), flaskSample: g('960') };
        const own = run('fine-gravity', { ...flask, dry: g(dry) });
        const companion = run('fine-gravity', { ...flask, companionSsd: g('500.0'), companionDry: g(dry) });
        return ['od', 'ssd', 'apparent', 'absorption'].every((id) => value(own, id).equals(value(companion, id)));
      }),
    );
  });

  it('what passes never rises from a sieve to a finer one, and everything adds up', () => {
    const retained = fc.array(fc.integer({ min: 0, max: 900 }), { minLength: 3, maxLength: 6 });
    const openings = ['9.5', '4.75', '2.36', '1.18', '0.600', '0.300'];
    fc.assert(
      fc.property(retained, fc.integer({ min: 0, max: 500 }), (masses, pan) => {
        const total = masses.reduce((a, b) => a + b, pan);
        if (total === 0) return true;
        const sieves = masses.map((m, i) => ({ opening: q(openings[i]!, 'mm'), retained: g((m / 10).toFixed(1)) }));
        const e = run('gradation', { dry: g((total / 10).toFixed(1)), area: q('0.3', 'm2'), sieves, pan: g((pan / 10).toFixed(1)) });
        const passing = e.results.find((r) => r.id === 'passing')!.series!.map((f) => exact(f.exact));
        const falls = passing.every((p, i) => i === 0 || p.compare(passing[i - 1]!) <= 0);
        return falls && value(e, 'loss').equals(0) && passing.at(-1)!.equals(exact(`${pan * 100}/${total}`));
      }),
    );
  });

  it('reduction leaves at least the least mass, and less than twice it', () => {
    fc.assert(
      fc.property(tenths(1, 400), tenths(1, 60), (bulk, least) => {
        const e = run('reduction', { bulk: q(bulk, 'kg'), least: q(least, 'kg'), material: 'coarse', wet: 'no' });
        if (words(e, 'refused')[0] === 'yes') return exact(bulk).compare(exact(least)) < 0;
        const left = value(e, 'left');
        return left.compare(exact(least)) >= 0 && left.compare(exact(least).mul(2)) < 0;
      }),
    );
  });

  it('the cone says SSD only after a trial that kept its shape since water was last mixed in', () => {
    const look = fc.constantFrom('kept', 'slight', 'half', 'fell', 'knocked');
    fc.assert(
      fc.property(fc.array(look, { minLength: 1, maxLength: 12 }), (looks) => {
        const trials = looks.map((l, i) => ({ at: new Date(i * 40 * 60_000).toISOString(), look: l }));
        const log = words(run('cone', { trials }), 'log');
        return log.every((state, i) => {
          if (state !== 'ssd') return true;
          const wetted = log.slice(0, i).findLastIndex((s) => s === 'cannot_tell' || s === 'over_dried');
          return looks.slice(wetted + 1, i).includes('kept');
        });
      }),
    );
  });
});

describe('laws of concrete', () => {
  const series = fc.array(fc.integer({ min: 200, max: 500 }), { minLength: 4, maxLength: 12 }).map((list) => list.map((n) => n / 10));

  it('acceptance never gets worse when one result gets better', () => {
    fc.assert(
      fc.property(series, fc.nat(), fc.integer({ min: 1, max: 100 }), (list, at, more) => {
        const better = list.map((x, i) => (i === at % list.length ? x + more / 10 : x));
        const ok = (tests: number[]) =>
          words(run('aci-acceptance', { specified: q('30', 'MPa'), tests: tests.map(MPa) }), 'acceptable')[0] === 'yes';
        return !ok(list) || ok(better);
      }),
    );
  });

  it('what the next test must be at least is just enough for the mean', () => {
    fc.assert(
      fc.property(series, (list) => {
        const input = (tests: { strength: { text: string; unit: UnitId } }[]) => ({ specified: q('30', 'MPa'), tests });
        const next = value(run('aci-acceptance', input(list.map(MPa))), 'next');
        if (next.compare(0) <= 0) return true;
        const runs = run('aci-acceptance', input([...list.map(MPa), { strength: q(fixed(next, 1), 'MPa') }])).results.find(
          (r) => r.id === 'runs',
        )!.series!;
        return exact(runs.at(-1)!.exact).equals(30);
      }),
    );
  });

  it('statistics do not depend on the order, but the running means do', () => {
    fc.assert(
      fc.property(series, (list) => {
        const of = (tests: number[]) => run('strength-statistics', { tests: tests.map((x) => ({ companions: [MPa(x), MPa(x + 1)] })) });
        const [a, b] = [of(list), of([...list].reverse())];
        return ['mean', 'deviation', 'meanRange'].every((id) => value(a, id).equals(value(b, id)));
      }),
    );
  });

  it('a shorter cylinder never gains from its correction', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1000, max: 2100 }), fc.integer({ min: 1, max: 300 }), (length, less) => {
        const at = (l: number) =>
          value(
            run('cylinder', { d1: q('100', 'mm'), d2: q('100', 'mm'), length: q((l / 10).toFixed(1), 'mm'), load: q('300', 'kN') }),
            'factor',
          );
        const shorter = Math.max(1000, length - less);
        return at(shorter).compare(at(length)) <= 0 && at(length).compare(1) <= 0;
      }),
    );
  });

  it('every result is the same in whichever unit the readings were keyed', () => {
    fc.assert(
      fc.property(fc.integer({ min: 15_000, max: 25_000 }), (grams) => {
        const inKg = run('density', { full: q((grams / 1000).toFixed(3), 'kg'), empty: q('3.211', 'kg'), volume: q('7.043', 'L') });
        const mixed = run('density', { full: g(String(grams)), empty: g('3211'), volume: q('0.007043', 'm3') });
        return JSON.stringify(inKg.results) === JSON.stringify(mixed.results);
      }),
    );
  });

  it('free water of SSD masses and of batched masses is one and the same', () => {
    fc.assert(
      fc.property(tenths(0, 9), tenths(0, 4), (moisture, absorption) => {
        const percents = { moisture: q(moisture, '%'), absorption: q(absorption, '%') };
        const corrected = run('moisture-correction', {
          water: q('500', 'kg'),
          aggregates: [{ name: null, ssd: q('700', 'kg'), ...percents }],
        });
        const batched = exact(corrected.results.find((r) => r.id === 'batch')!.series![0]!.exact);
        const free = exact(corrected.results.find((r) => r.id === 'free')!.series![0]!.exact);
        // B·(p − a)/(100 + p) = S·(p − a)/(100 + a).
        const [p, a] = [exact(moisture), exact(absorption)];
        return free.equals(batched.mul(p.sub(a)).div(p.add(100)));
      }),
    );
  });

  it('warmer water is lighter above 4 °C, and reads as the method’s own check values', () => {
    const at = (t: string) => value(run('water-density', { temperature: q(t, 'C') }), 'density');
    fc.assert(fc.property(tenths(4, 39), (t) => at(t).compare(at((Number(t) + 0.5).toFixed(1))) > 0));
    expect(['15.6', '21.1', '23.0', '26.7'].map((t) => fixed(at(t), 1))).toEqual(['999.0', '998.0', '997.5', '996.6']);
  });
});

describe('the arithmetic', () => {
  it('sets brackets where the order of operations needs them, and only there', () => {
    const lines: WorkingLine[] = [];
    const c = recording(lines);
    const [a, b, d] = ['a', 'b', 'd'].map((s, i) => c.enter(s, exact(String(i + 2)), 'kg')) as [never, never, never];
    c.name('x', c.sub(a, c.sub(b, d)), 'kg');
    c.name('y', c.div(c.add(a, b), c.mul(b, d)), 'kg');
    c.name('z', c.add(a, c.mul(b, d)), 'kg');
    c.name('w', c.apply('√', c.sub(d, b)), 'kg');
    expect(lines.map((l) => `${l.symbols} = ${l.numbers} = ${l.value}`)).toEqual([
      'a − (b − d) = 2 − (3 − 4) = 3',
      '(a + b) / (b · d) = (2 + 3) / (3 · 4) = 0.41666667…',
      'a + b · d = 2 + 3 · 4 = 14',
      '√(d − b) = √(4 − 3) = 1',
    ]);
  });

  it('computes the same in both interpreters', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 999 }), fc.integer({ min: 1, max: 999 }), (m, n) => {
        const body = <V>(c: Calc<V>): Exact => {
          const [x, y] = [c.enter('x', exact(String(m)), 'kg'), c.enter('y', exact(String(n)), 'kg')];
          return c.value(c.name('z', c.sum([c.div(x, y), c.mul(x, y), c.apply('ln', c.div(x, y))]), 'kg'));
        };
        return body(plain).equals(body(recording([])));
      }),
    );
  });

  it('roots, logarithms and powers hold to forty digits', () => {
    const two = root(exact('2'));
    expect(two.mul(two).sub(2).abs().compare(exact('0.0000000000000000000000000000000001'))).toBeLessThan(0);
    expect(fixed(naturalLog(exact('2')), 30)).toBe('0.693147180559945309417232121458');
    expect(powerOfTen(exact('3')).equals(1000)).toBeTrue();
    expect(() => root(exact('-1'))).toThrowError(/below 0/);
    expect(() => naturalLog(exact('0'))).toThrowError(/not above 0/);
  });
});
