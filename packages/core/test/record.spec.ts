import fc from 'fast-check';
import { exampleOf } from '../src/examples/index.js';
import {
  assemble,
  codeOf,
  entryPath,
  evaluate,
  factsForm,
  fieldOnPath,
  firstRowId,
  flatten,
  ITEM_KIND_IDS,
  ITEM_KINDS,
  mayLieIn,
  methodById,
  METHODS,
  rowIdAt,
  standingOf,
  stateOfTest,
  judgeAll,
  testsOn,
  type AnyInputs,
  type EntryInForce,
  type Field,
  type OnRecord,
  type Shape,
} from '../src/index.js';
import { lettersOf } from '../src/record/items.js';

describe('kinds of item', () => {
  it('hold together: what they name is there', () => {
    const wrong = ITEM_KIND_IDS.flatMap((kind) => {
      const { parents, facts, at, gives, tells } = ITEM_KINDS[kind];
      const named = [...(at ? [at] : []), ...Object.keys(gives ?? {}), ...Object.keys(tells ?? {})];
      return [
        ...parents.filter((p) => p !== null && !ITEM_KIND_IDS.includes(p)).map((p) => `${kind} lies in ${String(p)}`),
        ...named.filter((id) => !(id in facts)).map((id) => `${kind} has no ${id}`),
        ...(at && facts[at]?.kind !== 'instant' ? [`${kind}: ${at} is no moment`] : []),
      ];
    });
    expect(wrong).toEqual([]);
    // From every kind a way leads up to the top, and none leads back to itself by another.
    const top = (kind: (typeof ITEM_KIND_IDS)[number], seen: readonly string[] = []): boolean =>
      !seen.includes(kind) && ITEM_KINDS[kind].parents.some((p) => p === null || top(p, [...seen, kind]));
    expect(ITEM_KIND_IDS.filter((kind) => !top(kind))).toEqual([]);
  });

  it('have their tests from the definitions, and every one that is on the pour sheet is made on samples', () => {
    expect(METHODS.filter((m) => m.work?.on === 'fresh' && !m.on?.includes('sample')).map((m) => m.id)).toEqual([]);
    expect(METHODS.flatMap((m) => (m.on ?? []).filter((kind) => !ITEM_KIND_IDS.includes(kind)))).toEqual([]);
    expect(testsOn('field-sample').map((m) => m.id)).toContain('gradation');
    expect(testsOn('pour').map((m) => m.id)).toEqual(['sampling-frequency', 'random-loads']);
  });

  it('are called as people call them, and lie where they lie', () => {
    expect([1, 26, 27, 52, 53].map(lettersOf)).toEqual(['A', 'Z', 'AA', 'AZ', 'BA']);
    expect([codeOf('sample', 6, 'Load 3', null), codeOf('load', 3, '', null), codeOf('specimen', 2, 'D-4', null)]).toEqual([
      'Q-106',
      'Load 3',
      'D-4-B',
    ]);
    expect([mayLieIn('specimen', 'specimen-set'), mayLieIn('specimen', 'load'), mayLieIn('pour', null), mayLieIn('load', null)]).toEqual([
      true,
      false,
      true,
      false,
    ]);
  });

  it('say what is missing and what cannot be, as a form of a test does', () => {
    const facts = { ticket: 'F-1', truck: '7', batchedAt: '2026-05-12T07:42:00Z', design: { text: '600', unit: 'm3' as const } };
    const { missing, issues } = evaluate(factsForm('load'), facts as AnyInputs, { variant: 'facts', system: 'si' });
    expect([missing, issues.map((i) => [i.path, i.severity])]).toEqual([['materials'], [['design', 'impossible']]]);
    // A row that is there is whole.
    const rows = { ...facts, materials: [{ name: 'Sand', role: 'fine', actual: { text: '4350', unit: 'kg' } }, { name: 'Stone' }] };
    expect(evaluate(factsForm('load'), rows as unknown as AnyInputs, { variant: 'facts', system: 'si' }).missing).toEqual([
      'materials.1.role',
      'materials.1.actual',
    ]);
  });
});

describe('entries', () => {
  it('take a whole apart and put it together again, for every worked example', () => {
    const lost = METHODS.filter((m) => {
      const shape = m.fields as Shape;
      const flat = flatten(shape, exampleOf(m));
      const back = assemble(shape, new Map(flat.map((e) => [e.path, e]))).inputs;
      return JSON.stringify(flatten(shape, back)) !== JSON.stringify(flat) || flat.some((e) => !fieldOnPath(shape, e.path));
    });
    expect(lost.map((m) => m.id)).toEqual([]);
  });

  it('keep rows in the order in which they were added, those that came first before all later ones', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 5000 }),
        fc.integer({ min: 1_500_000_000_000, max: 4_000_000_000_000 }),
        fc.nat(10_000),
        (n, ms, later) => {
          const [a, b] = [
            rowIdAt(ms, 'aaaaaaaa-0000-4000-8000-0000000000ff'),
            rowIdAt(ms + later + 1, '00000000-0000-4000-8000-000000000000'),
          ];
          return firstRowId(n) < firstRowId(n + 1) && firstRowId(n) < a && a < b;
        },
      ),
    );
    expect(rowIdAt(1_795_000_000_000.7, 'x')).toMatch(/^[0-9a-z]+$/);
  });

  it('leave out what was struck out, and name a fault’s place by the row on record', () => {
    const shape = methodById('gradation')!.fields as Shape;
    const entry = (text: string | null) => ({ text, unit: 'g' as const });
    const { inputs, rows } = assemble(
      shape,
      new Map<string, EntryInForce>([
        ['dry', entry(null)],
        ['sieves.b.retained', entry('2')],
        ['sieves.a.retained', entry('1')],
        ['sieves.a', { text: null, unit: null }],
        ['sieves.c.retained', entry('3')],
      ]),
    );
    expect(inputs as unknown).toEqual({ sieves: [{ retained: { text: '2', unit: 'g' } }, { retained: { text: '3', unit: 'g' } }] });
    expect([entryPath(rows, 'sieves.1.retained'), entryPath(rows, 'sieves.2.retained'), entryPath(rows, 'dry')]).toEqual([
      'sieves.c.retained',
      null,
      'dry',
    ]);
    const at = (path: string): Field['kind'] | undefined => fieldOnPath(shape, path)?.kind;
    expect(['dry', 'sieves.a', 'sieves.a.retained', 'sieves.A.retained', 'sieves.a.none', 'none', 'dry.a'].map(at)).toEqual([
      'qty',
      'rows',
      'qty',
      undefined,
      undefined,
      undefined,
      undefined,
    ]);
  });
});

describe('what stands of tests that were made because of each other', () => {
  const m = methodById('slump')!;
  const slump = (centre: string, shape = 'true') =>
    evaluate(m, { shape, mold: { text: '300', unit: 'mm' }, centre: { text: centre, unit: 'mm' } } as AnyInputs, {
      variant: 'us',
      system: 'si',
    });
  const test = (id: string, retestOf: string | null, state: OnRecord['state'], evaluation: OnRecord['evaluation']): OnRecord => ({
    id,
    retestOf,
    state,
    evaluation,
  });
  const ids = (...tests: OnRecord[]) => standingOf(m, tests).map((t) => t.id);
  const out = test('a', null, 'out', slump('170'));

  it('is not hidden by what is only opened or void; a check inside stands for a first that was out', () => {
    expect(ids(out, test('b', 'a', 'open', null))).toEqual(['a']);
    expect(ids(out, test('b', 'a', 'void', slump('150', 'shear')))).toEqual(['a']);
    expect(ids(out, test('b', 'a', 'within', slump('190')))).toEqual(['b']);
    expect(ids(out, test('b', 'a', 'void', slump('150', 'shear')), test('c', 'b', 'within', slump('190')))).toEqual(['c']);
  });

  it('is the worse one where two are so far apart that they decide nothing, and each of those that stand by themselves', () => {
    expect(ids(out, test('b', 'a', 'within', slump('210')))).toEqual(['a']);
    expect(ids(out, test('b', null, 'within', slump('190')))).toEqual(['a', 'b']);
    expect(ids(test('a', null, 'void', slump('150', 'shear')))).toEqual(['a']);
    expect(ids(test('a', null, 'open', null))).toEqual([]);
  });

  it('what is optional and was not read leaves a test not open', () => {
    const fine = methodById('fine-gravity')!;
    const e = evaluate(fine, exampleOf(fine), { variant: 'astm', system: 'si' });
    expect(e.results.some((r) => r.state === 'open')).toBeTrue();
    expect(stateOfTest(fine, e, judgeAll(fine, e, []))).not.toBe('open');
    const nothing = evaluate(fine, {}, { variant: 'astm', system: 'si' });
    expect(stateOfTest(fine, nothing, judgeAll(fine, nothing, []))).toBe('open');
  });
});
