import { TestBed } from '@angular/core/testing';
import { evaluate, methodById, METHODS, spell, type AnyInputs, type Shape } from '@keen-mortar/core';
import { exampleOf } from '@keen-mortar/core/examples';
import Papa from 'papaparse';
import { asCsv, asJson, asText } from './copies';
import { find } from './find';
import { isBlank, setAt, withoutRow } from '../../test/form/inputs';
import { fragmentOf, linkedIn, LONGEST_LINK } from './link';
import { work } from '../../test/long/work';
import { thinned } from '../../test/long/picture';
import { openings } from './plan/openings';
import { ComputationStore } from '../../test/computation.store';
import { cellsOf, gridFrom, linesIn, rowsFrom } from '../../test/form/table-paste';

const sieves = (methodById('gradation')!.fields as Record<string, { of: Shape }>)['sieves']!.of;
const g = (text: string) => ({ text, unit: 'g' });
const mm = (text: string) => ({ text, unit: 'mm' });

describe('finding a computation', () => {
  it('every name of every method finds it, and a name typed out comes first', () => {
    for (const m of METHODS) {
      for (const name of m.names)
        expect(find(name).map((f) => f.id))
          .withContext(`${m.id}: ${name}`)
          .toContain(m.id);
      expect(find(m.title)[0]!.id).toBe(m.id);
    }
  });

  it('by the words of the trade, with a slip of the finger, and by its designation', () => {
    const first = (query: string) =>
      find(query)
        .slice(0, 4)
        .map((f) => f.id);
    expect(first('slump')[0]).toBe('slump');
    expect(first('unit weight')).toContain('density');
    expect(first('SG')).toContain('coarse-gravity');
    expect(first('minus 200')[0]).toBe('wash');
    expect(first('break')).toContain('cylinder');
    expect(first('fineness modlus')[0]).toBe('gradation');
    expect(find('C 173').map((f) => f.id)).toContain('volumetric-air');
    expect(find('soak').map((f) => f.id)).toContain('plan');
    expect(find('xyzzy')).toEqual([]);
  });
});

describe('a link', () => {
  it('brings back the readings of every method, as keyed', () => {
    for (const m of METHODS) {
      const variant = Object.keys(m.variants as object).at(-1)!;
      const fragment = fragmentOf(m, { variant, system: 'us', inputs: exampleOf(m) })!;
      const back = linkedIn(m, fragment)!;
      expect([back.variant, back.system]).toEqual([variant, 'us']);
      expect(spell(m.fields as Shape, back.inputs))
        .withContext(m.id)
        .toEqual(spell(m.fields as Shape, exampleOf(m)));
    }
  });

  it('that cannot be read is nothing at all, and one that would be too long is not made', () => {
    const m = methodById('density')!;
    for (const broken of ['readings={', 'readings=[1]', 'readings=7', 'variant=none'])
      expect(linkedIn(m, broken)).withContext(broken).toBeNull();
    expect(linkedIn(m, '')).toBeNull();
    expect(linkedIn(m, 'readings={"full":"19.31 kg"}')?.inputs).toEqual({ full: { text: '19.31', unit: 'kg' } });
    const tests = Array.from({ length: LONGEST_LINK / 20 }, () => ({ strength: { text: '30', unit: 'MPa' } }));
    expect(fragmentOf(methodById('aci-acceptance')!, { variant: 'aci318', system: 'si', inputs: { tests } as never })).toBeNull();
  });
});

describe('a pasted table', () => {
  it('goes to its columns by their heads, with the units that they name, in whatever order', () => {
    expect(rowsFrom('Retained (g)\tOpening (mm)\n12.8\t4.75\n57.1\t2.36\n', sieves, 'si')).toEqual([
      { opening: mm('4.75'), retained: g('12.8') },
      { opening: mm('2.36'), retained: g('57.1') },
    ] as never);
  });

  it('without heads goes in order from the cell on; empty cells stay empty; words stay for the field to say', () => {
    expect(rowsFrom('9.5\t0\n4.75\t', sieves, 'si')).toEqual([
      { opening: mm('9.5'), retained: g('0') },
      { opening: mm('4.75'), retained: null },
    ] as never);
    expect(rowsFrom('12,8\n57,1', sieves, 'si', {}, 1)).toEqual([{ retained: g('12,8') }, { retained: g('57,1') }] as never);
    expect(rowsFrom('1,234;tall\n2;"3"', sieves, 'si')).toEqual([
      { opening: mm('1,234'), retained: g('tall') },
      { opening: mm('2'), retained: g('3') },
    ] as never);
    expect(rowsFrom('1 in\t0.5 kg', sieves, 'si')).toEqual([{ opening: mm('1 in'), retained: g('0.5 kg') }] as never);
  });

  it('of a grid leaves a dash unread', () => {
    const field = (methodById('half-cell')!.fields as Record<string, never>)['potential']!;
    expect(gridFrom('-180\t–\n\t-360', 'cells', ['potential', field], 'mV')).toEqual([
      { cells: [{ potential: { text: '-180', unit: 'mV' } }, {}] },
      { cells: [{}, { potential: { text: '-360', unit: 'mV' } }] },
    ] as never);
  });

  it('is counted without being taken apart', () => {
    expect([linesIn('a'), linesIn('a\n'), linesIn('a\nb'), cellsOf('a\r\n\r\nb').length]).toEqual([1, 1, 2, 2]);
  });
});

describe('inputs', () => {
  it('are set at a path, and nothing else of them moves', () => {
    const before = { sieves: [{ opening: mm('9.5') }], pan: g('1') } as unknown as AnyInputs;
    const after = setAt(before, 'sieves.2.retained', g('3'));
    expect(after).toEqual({ sieves: [{ opening: mm('9.5') }, {}, { retained: g('3') }], pan: g('1') } as never);
    expect(before['sieves']).toEqual([{ opening: mm('9.5') }] as never);
    expect(withoutRow(after, 'sieves', 1)['sieves']).toEqual([{ opening: mm('9.5') }, { retained: g('3') }] as never);
    expect([isBlank({ a: [{ b: g(' ') }] }), isBlank({ a: [{ b: g('0') }] })]).toEqual([true, false]);
  });
});

describe('copies', () => {
  const m = methodById('density')!;
  const inputs = exampleOf(m);
  const whole = { method: m, inputs, evaluation: evaluate(m, inputs, { variant: 'astm', system: 'si' }) };

  it('as text, JSON and CSV say the same density', () => {
    expect(asText(whole)).toContain('Measure full: 19.31 kg\n');
    expect(asText(whole)).toContain('Density: 2286 kg/m³');
    const json = JSON.parse(asJson(whole)) as { readings: Record<string, string>; results: { reported: string; exact: string }[] };
    expect([json.readings['volume'], json.results[0]!.reported, json.results[0]!.exact]).toEqual(['7.043 L', '2286', '16100000/7043']);
    const [heads, values] = Papa.parse<string[]>(asCsv(whole)).data;
    expect(values![heads!.indexOf('density (kg/m³)')]).toBe('2286');
    expect(values![heads!.indexOf('full')]).toBe('19.31 kg');
  });
});

describe('a copied text', () => {
  it('has units as people write them', () => {
    const m = methodById('constant-head')!;
    const inputs = { ...exampleOf(m), area: { text: '78.5', unit: 'cm2' } } as AnyInputs;
    const evaluation = evaluate(m, inputs, { variant: Object.keys(m.variants)[0]!, system: 'si' });
    const text = asText({ method: m, inputs, evaluation });
    expect([text.includes('78.5 cm²'), text.includes('cm2')]).toEqual([true, false]);
  });
});

describe('a CSV row', () => {
  it('has a column for each figure that comes of a row', () => {
    const m = methodById('gradation')!;
    const inputs = exampleOf(m);
    const evaluation = evaluate(m, inputs, { variant: 'c136', system: 'si' });
    const [heads, values] = asCsv({ method: m, inputs, evaluation })
      .split('\r\n')
      .map((line) => line.split(','));
    expect(values![heads!.indexOf('passing (%) 3')]).toBe('86');
  });
});

describe('the computation in hand', () => {
  let store: InstanceType<typeof ComputationStore>;

  beforeEach(() => {
    localStorage.setItem('km.scratch.system', 'si');
    TestBed.configureTestingModule({ providers: [ComputationStore] });
    store = TestBed.inject(ComputationStore);
  });
  const value = (id: string) => store.evaluation()!.results.find((r) => r.id === id);

  it('opens with what is usual, is untouched until something is keyed, and answers with each key', () => {
    store.open(methodById('slump')!);
    expect([store.untouched(), (store.inputs()['mold'] as { text: string }).text]).toEqual([true, '300']);
    store.set('shape', 'true');
    store.key('centre', '204', 'mm');
    expect([store.untouched(), value('slump')?.reported, store.working()]).toEqual([false, '95', null]);
    // Working and the other variants follow when the fingers rest, and never of another computation.
    store.settle();
    expect([store.working()!.working.length > 0, store.others().length]).toEqual([true, 2]);
    store.choose({ variant: 'en' });
    expect([store.working(), store.others()]).toEqual([null, []]);
  });

  it('begins in the units of where the device is, until others are chosen', () => {
    localStorage.removeItem('km.scratch.system');
    const begun = (language: string): string => {
      spyOnProperty(navigator, 'language').and.returnValue(language);
      TestBed.resetTestingModule();
      TestBed.configureTestingModule({ providers: [ComputationStore] });
      return TestBed.inject(ComputationStore).system();
    };
    expect(begun('en-US')).toBe('us');
  });

  it('another system changes what nobody keyed, and keeps what was keyed as it was keyed', () => {
    store.open(methodById('slump')!);
    store.key('centre', '204', 'mm');
    store.choose({ system: 'us' });
    expect([store.inputs()['mold'], store.inputs()['centre']]).toEqual([{ text: '12', unit: 'in' }, mm('204')] as never);
    expect(localStorage.getItem('km.scratch.system')).toBe('us');
  });

  it('a paste, a taken-out row and the example are taken back one by one', () => {
    store.open(methodById('gradation')!);
    store.paste('sieves', '4.75\t10\n2.36\t20');
    store.removeRow('sieves', 0);
    store.example();
    store.undo();
    expect(store.inputs()['sieves']).toEqual([{ opening: mm('2.36'), retained: g('20') }] as never);
    store.undo();
    store.undo();
    expect([store.untouched(), store.past().length]).toEqual([true, 0]);
    store.undo();
    expect(store.untouched()).toBeTrue();
  });

  it('what was keyed after a paste is put back again, in the system that it was keyed in', () => {
    store.open(methodById('gradation')!);
    store.choose({ system: 'us' });
    store.example();
    store.key('pan', '9.9', 'g');
    store.undo();
    expect([store.system(), store.untouched()]).toEqual(['us', true]);
    store.redo();
    expect([store.system(), store.inputs()['pan'], store.ahead().length]).toEqual(['si', g('9.9'), 0] as never);
    store.undo();
    store.clear();
    expect(store.ahead()).toEqual([]);
  });

  it('an empty cell of a paste empties what stood there', () => {
    store.open(methodById('gradation')!);
    store.paste('sieves', '4.75\t10\n2.36\t20');
    store.paste('sieves', '4.75\t\n2.36\t21');
    expect(store.evaluation()!.missing).toContain('sieves.0.retained');
  });

  it('a block goes into a grid from its cell on, and leaves what stands beside it', () => {
    store.open(methodById('half-cell-map')!);
    store.paste('lines', '-100\t-110\t-120\n-200\t-210\t-220');
    store.paste('lines', '-999\n-888', {}, 0, 1);
    const texts = (store.inputs()['lines'] as unknown as { cells: { potential: { text: string } }[] }[]).map((l) =>
      l.cells.map((c) => c.potential.text),
    );
    expect(texts).toEqual([
      ['-100', '-999', '-120'],
      ['-200', '-888', '-220'],
    ]);
  });

  it('a paste starts at its row and leaves the other columns of it', () => {
    store.open(methodById('gradation')!);
    store.paste('sieves', '9.5\n4.75');
    store.paste('sieves', '0\n12.8\n57.1', {}, 0, 1);
    expect(store.inputs()['sieves']).toEqual([
      { opening: mm('9.5'), retained: g('0') },
      { opening: mm('4.75'), retained: g('12.8') },
      { retained: g('57.1') },
    ] as never);
  });

  it('more rows than a form takes change nothing; a strength series of any length goes to the background', () => {
    const long = Array.from({ length: 2001 }, (_l, i) => `${i + 1}`).join('\n');
    store.open(methodById('gradation')!);
    store.paste('sieves', long);
    expect([store.inputs()['sieves'], store.long(), store.said()]).toEqual([
      undefined,
      null,
      '2001 rows are more than this table takes (2000). Nothing was changed.',
    ] as never);
    store.open(methodById('aci-acceptance')!);
    store.paste('tests', long);
    expect(store.long()).toBe(long);
  });

  it('a column takes another unit as a whole', () => {
    store.open(methodById('gradation')!);
    store.paste('sieves', '4.75\t10\n2.36\t20');
    store.unitOfColumn('sieves', 'retained', 'kg');
    expect((store.inputs()['sieves'] as unknown as { retained: object }[]).map((r) => r.retained)).toEqual([
      { text: '10', unit: 'kg' },
      { text: '20', unit: 'kg' },
    ]);
  });
});

describe('a long series', () => {
  const specified = { text: '28', unit: 'MPa' } as const;

  it('is what the core says of it, with its progress told and its faults by row', () => {
    const told: number[] = [];
    const text = ['Strength', ...Array.from({ length: 6000 }, (_t, i) => (i === 4000 ? '20.0' : '32.5'))].join('\n');
    const { picture, said, faults } = work(
      { kind: 'series', text, simulate: 0, companions: false, specified, system: 'si', unit: 'MPa' },
      (share) => told.push(share),
    );
    expect([picture.count, picture.floor, picture.broken, faults]).toEqual([6000, 24.5, [4001], []]);
    expect(said.find((s) => s.id === 'ruleB')?.text).toBe('4001');
    expect(said.find((s) => s.id === 'mean')?.text).toBe('32.498 MPa');
    expect(told.length).toBeGreaterThan(4);
    expect(told).toEqual([...told].sort((a, b) => a - b));
    const bad = work(
      { kind: 'series', text: '30\ntall\n31', simulate: 0, companions: false, specified, system: 'si', unit: 'MPa' },
      () => undefined,
    );
    expect(bad.faults.length).toBe(1);
    expect(bad.faults[0]).toMatch(/^Row 2: /);
  });

  it('of tests with companions keeps every companion, and says of a wider table which column it took', () => {
    const told = () => undefined;
    const text = ['30.0\t31.0', '34.0\t33.0', '32.0\t32.4'].join('\n');
    const pairs = work({ kind: 'series', text, simulate: 0, companions: true, specified, system: 'si', unit: 'MPa' }, told);
    // Tests 30.5, 33.5, 32.2; ranges 1.0, 1.0, 0.4 over d2 = 1.128.
    expect(pairs.picture.tests.map((p) => p.y)).toEqual([30.5, 33.5, 32.2]);
    expect(Number(pairs.said.find((s) => s.id === 'within')!.text.replace(/ MPa$/, ''))).toBeCloseTo(0.8 / 1.128, 4);
    expect(pairs.faults).toEqual([]);
    const one = work({ kind: 'series', text, simulate: 0, companions: false, specified, system: 'si', unit: 'MPa' }, told);
    expect(one.faults).toEqual(['The text has 2 columns: the one headed as the strength was taken, else the first.']);
  });

  it('is thinned for drawing without losing a peak', () => {
    const values = Array.from({ length: 10_000 }, (_v, i) => (i === 7123 ? -5 : i === 42 ? 99 : Math.sin(i)));
    const drawn = thinned(values, 1, 200);
    expect(drawn.length).toBeLessThanOrEqual(200);
    expect(drawn).toContain({ x: 7124, y: -5 });
    expect(drawn).toContain({ x: 43, y: 99 });
    expect(drawn.map((p) => p.x)).toEqual(drawn.map((p) => p.x).sort((a, b) => a - b));
    expect(thinned([1, 2], 3, 200)).toEqual([
      { x: 3, y: 1 },
      { x: 4, y: 2 },
    ]);
  });
});

describe('opening hours', () => {
  it('are by the calendar: closed days are left out, and the clock counts, not the hours since midnight', () => {
    const from = new Date(2026, 2, 27, 0, 0).getTime();
    const hours = { opens: '07:00', closes: '17:30', days: [1, 2, 3, 4, 5] };
    const open = openings(hours, from, from + 4 * 86_400_000);
    // Friday, Monday, Tuesday: a weekend lies between, in some zones with a change to summer time.
    expect(
      open.map((o) => [new Date(o.from).getDay(), new Date(o.from).getHours(), new Date(o.to).getHours(), new Date(o.to).getMinutes()]),
    ).toEqual([
      [5, 7, 17, 30],
      [1, 7, 17, 30],
      [2, 7, 17, 30],
    ]);
    expect(openings({ ...hours, closes: '06:00' }, from, from + 86_400_000)).toEqual([]);
  });
});
