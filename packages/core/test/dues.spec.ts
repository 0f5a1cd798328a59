import {
  breaksOf,
  dueWords,
  duesOf,
  fitInto,
  moldingsOf,
  spanWords,
  specimensOf,
  usualPlan,
  type DueItem,
  type ItemKind,
} from '../src/index.js';

const HOUR = 3_600_000;
const iso = (ms: number) => new Date(ms).toISOString();
const CAST = Date.parse('2026-11-12T10:52:00Z');

const item = (kind: ItemKind, more: object): DueItem => ({
  kind,
  facts: {},
  events: {},
  tests: [],
  sources: {},
  properties: [],
  truckMinutes: null,
  ...more,
});
const at = (kind: ItemKind, more: object) =>
  duesOf(item(kind, more)).map(({ id, opensAt, endsAt, doneAt }) => [id, ...[opensAt, endsAt, doneAt].map((t) => t && (t - CAST) / HOUR)]);

describe('what an item waits for', () => {
  const set = { shape: 'cylinder', madeAt: iso(CAST) };

  it('a specimen, for its age: ± what C39 prints, ages without a window from their day on, done once it is broken', () => {
    const waits = (age: string, unit = 'd', tests: object[] = []) =>
      at('specimen', { facts: { age: { text: age, unit } }, sources: { 'specimens.made': iso(CAST) }, tests });
    expect(waits('28')).toEqual([['break', 28 * 24 - 20, 28 * 24 + 20, null]]);
    expect(waits('24', 'h')).toEqual([['break', 23.5, 24.5, null]]);
    expect(waits('14')).toEqual([['break', 14 * 24, null, null]]);
    const broken = { method: 'cylinder', startedAt: CAST + 27 * 24 * HOUR, kept: true };
    const begun = { method: 'cylinder', startedAt: CAST + 26 * 24 * HOUR, kept: false };
    expect(waits('28', 'd', [{ method: 'loading-rate', startedAt: CAST, kept: true }, begun, broken])[0]![3]).toBe(27 * 24);
    // A spare has no age, and a core’s is not counted from when it was drilled: nothing waits for them.
    const core = { 'specimens.made': iso(CAST), 'specimens.shape': 'core' };
    expect(at('specimen', { facts: { age: { text: '28', unit: 'd' } }, sources: core })).toEqual([]);
    expect(at('specimen', { sources: { 'specimens.made': iso(CAST) } })).toEqual([]);
    expect(dueWords('specimen', 'break', { age: { text: '56', unit: 'd' } } as never)!.window).toBe('56 d ± 40 h');
  });

  it('a set, for the way to final curing; once it is out of its molds half an hour is left', () => {
    expect(at('specimen-set', { facts: set })).toEqual([['fetch', 8, 48, null]]);
    // Cured with the structure it is not fetched out of its molds.
    expect(at('specimen-set', { facts: { ...set, curing: 'field' } })).toEqual([]);
    expect(at('specimen-set', { facts: { ...set, demolded: iso(CAST + 24 * HOUR) } })).toEqual([
      ['fetch', 8, 48, 24],
      ['cure', 24, 24.5, null],
    ]);
    expect(at('specimen-set', { facts: { ...set, shape: 'core' } })).toEqual([]);
  });

  it('prisms, for every reading of their regime; a reading is the one that it was nearest to', () => {
    const facts = { castAt: iso(CAST), regime: 'hybrid' };
    const tests = [24.2, 7 * 24 + 3].map((h) => ({ method: 'length-change', startedAt: CAST + h * HOUR, kept: true }));
    expect(at('prism-set', { facts, tests })).toEqual([
      ['read:0', 23, 24, 24.2],
      ['read:1', 23.5, 24.5, 24.2],
      ['read:2', 7 * 24, null, 7 * 24 + 3],
      ['read:3', 35 * 24, null, null],
    ]);
    expect(dueWords('prism-set', 'read:1', facts as never)?.then).toBe('the set is void');
    expect(dueWords('prism-set', 'read:9', facts as never)).toBeNull();
  });

  it('a sample, for its windows and for the tests that are asked for; a load, for its truck where a time is set', () => {
    const events = { 'sample.first-portion': CAST, 'sample.final-portion': CAST + HOUR / 10 };
    const dues = duesOf(
      item('sample', { events, properties: ['slump'], tests: [{ method: 'slump', startedAt: CAST + HOUR / 6, kept: false }] }),
    );
    expect(dues.find((d) => d.id === 'test:slump')).toEqual({
      id: 'test:slump',
      opensAt: CAST + HOUR / 10,
      endsAt: CAST + HOUR / 10 + 300_000,
      doneAt: CAST + HOUR / 6,
    });
    for (const d of dues) expect(dueWords('sample', d.id, {} as never)?.label).toBeTruthy();
    const load = { events: { 'load.batched': CAST, 'load.discharged': CAST + HOUR } };
    expect(at('load', { ...load, truckMinutes: 90 })).toEqual([['truck', 0, 1.5, 1]]);
    expect(at('load', load)).toEqual([]);
  });
});

describe('a window against opening hours', () => {
  const day = (d: number, from: number, to: number) => ({ from: (d * 24 + from) * HOUR, to: (d * 24 + to) * HOUR });
  const week = [day(0, 7, 17), day(1, 7, 17), day(4, 7, 17)];

  it('gives what is left of it and the best time; none where the lab is closed', () => {
    const whole = fitInto(day(1, 4, 16), 34 * HOUR, week);
    expect(whole).toEqual({ pieces: [day(1, 7, 16)], best: 34 * HOUR });
    // Due at night: the nearest that leaves room.
    expect(fitInto(day(0, 15, 39), 27 * HOUR, week).best).toBe(31.5 * HOUR);
    expect(fitInto(day(2, 8, 12), 58 * HOUR, week)).toEqual({ pieces: [], best: null });
    // A short piece is not left to its last minute.
    expect(fitInto({ from: 16.9 * HOUR, to: 18 * HOUR }, 17.5 * HOUR, week).best! / HOUR).toBeCloseTo(16.975, 1);
  });
});

describe('how a specimen is filled', () => {
  it('follows from its shape and size, in either system; a beam’s strokes from its top', () => {
    const of = (shape: string, width: string, unit: string, length: string | null = null) =>
      moldingsOf(shape, { text: width, unit } as never, length === null ? null : ({ text: length, unit } as never)).map((m) => [
        m.way,
        m.layers,
        m.each,
      ]);
    expect(of('cylinder', '100', 'mm')).toEqual([
      ['rod', 2, 25],
      ['vibrate', 2, 1],
    ]);
    expect(of('cylinder', '6', 'in')[0]).toEqual(['rod', 3, 25]);
    expect(of('cube', '150', 'mm')[0]).toEqual(['rod', 3, 35]);
    expect(of('beam', '150', 'mm', '500')[0]).toEqual(['rod', 2, 54]);
    expect(of('cylinder', '75', 'mm')).toEqual([]);
    expect(spanWords(49.5 * 3_600_000)).toBe('49 h 30 min');
  });
});

describe('the breaks of a set that is planned', () => {
  const november = (day: number, clock: string) => Date.parse(`2026-11-${day}T${clock}:00Z`);
  const open = (day: number, until = '17:30') => ({ from: november(day, '07:00'), to: november(day, until) });
  const week = [open(12), open(13), open(14, '12:00'), open(16), open(17)];
  it('has each age’s window against opening hours, and another age where nobody is there', () => {
    const ages = specimensOf([
      { count: 1, age: null },
      { count: 2, age: 28 },
      { count: 1, age: 3 },
    ]);
    expect(ages).toEqual([3, 28, 28, null]);
    expect(specimensOf(usualPlan({ companions: 3 }))).toEqual([7, 7, 28, 28, 28, null]);
    const [three, late] = breaksOf(ages, CAST, week);
    expect([three!.letters, late!.letters]).toEqual([['A'], ['B', 'C']]);
    // Three days later is Sunday; the next morning would be four days.
    expect([three!.fit.best, three!.instead]).toEqual([null, { age: 4, at: november(16, '10:52') }]);
    expect(breaksOf([1], CAST, week)[0]!.fit.best).toBe(november(13, '10:52'));
  });
});
