import { exampleOf } from '../src/examples/index.js';
import {
  evaluate,
  giftsOf,
  inputsOf,
  ITEM_KINDS,
  ITEM_KIND_IDS,
  METHODS,
  methodById,
  takenBy,
  takenInputs,
  takersAbove,
  takersBelow,
  testsFor,
  ticketOf,
  ticketSources,
  type AnyInputs,
  type AnyMethod,
  type Field,
  type Gift,
  type ItemKind,
  type Shape,
  type Source,
  type Sources,
} from '../src/index.js';

const of = (id: string): AnyMethod => methodById(id)!;
const ids = (list: readonly AnyMethod[]): string[] => list.map((m) => m.id);
const deep = (fields: Shape): Field[] => Object.values(fields).flatMap((f) => [f, ...(f.kind === 'rows' ? deep(f.of as Shape) : [])]);

describe('what tests give to each other', () => {
  it('is a result or a reading that is there, in a unit of the field that takes it, and somebody takes it', () => {
    const given = METHODS.flatMap((m) => Object.entries((m.gives ?? {}) as Record<string, Gift>).map(([id, gift]) => ({ m, id, gift })));
    expect(given.filter(({ m, id }) => !(id in m.results) && !(id in m.fields)).map(({ m, id }) => `${m.id} ${id}`)).toEqual([]);
    const takes = (source: Source) => METHODS.flatMap((m) => deep(m.fields as Shape).filter((f) => (f.from ?? f.takes) === source));
    expect(given.filter(({ gift }) => takes(gift.as).length === 0).map(({ gift }) => gift.as)).toEqual([]);
    const others = given.filter(({ m, id, gift }) => {
      const unit = m.results[id]?.units.si ?? (m.fields as Record<string, { units?: { si: string } }>)[id]?.units?.si;
      return takes(gift.as).some((f) => f.kind === 'qty' && f.units.si !== unit);
    });
    expect(others.map(({ gift }) => gift.as)).toEqual([]);
    // Every name by which a field takes something is given by a kind of item, a test, equipment or the mix.
    const named = new Set<Source>([
      ...given.map(({ gift }) => gift.as),
      ...ITEM_KIND_IDS.flatMap((kind) => Object.values(ITEM_KINDS[kind].gives ?? {})),
      ...(Object.keys(ticketSources(ticketOf({}))) as Source[]),
    ]);
    const taken = METHODS.flatMap((m) => deep(m.fields as Shape).flatMap((f) => f.takes ?? []));
    expect(taken.filter((source) => !named.has(source) && !source.startsWith('mix.'))).toEqual([]);
  });

  it('is as it is reported, or as it was keyed, and nothing of a test that is void', () => {
    const wash = of('wash');
    const inputs = { before: { text: '512.4', unit: 'g' }, after: { text: '503.1', unit: 'g' } } as unknown as AnyInputs;
    const kept = evaluate(wash, inputs, { variant: 'a', system: 'si' });
    expect(giftsOf(wash, kept, inputs).map(({ as, value }) => `${as} ${value.text} ${value.unit}`)).toEqual([
      'test.before-wash 512.4 g',
      'test.after-wash 503.1 g',
    ]);
    const slump = of('slump');
    const readings = (shape: string) => ({ shape, mold: { text: '300', unit: 'mm' }, centre: { text: '172', unit: 'mm' } }) as AnyInputs;
    const at = (shape: string) => giftsOf(slump, evaluate(slump, readings(shape), { variant: 'us', system: 'si' }), readings(shape));
    expect(at('true').map((g) => g.value)).toEqual([{ text: '130', unit: 'mm' }]);
    expect(at('shear')).toEqual([]);
  });

  it('counts until somebody keys another', () => {
    const gradation = of('gradation');
    const sources: Sources = { 'test.before-wash': { text: '512.4', unit: 'g' }, 'test.after-wash': { text: '503.1', unit: 'g' } };
    const keyed = { washed: { text: '503.0', unit: 'g' } };
    expect(takenInputs(gradation, keyed, sources) as unknown).toEqual({ dry: { text: '512.4', unit: 'g' } });
    const { dry, washed } = inputsOf(gradation, keyed, sources) as Record<string, unknown>;
    expect([dry, washed] as unknown[]).toEqual([{ text: '512.4', unit: 'g' }, keyed.washed]);
  });

  it('makes a strength test of the specimens that were broken at one age, in whatever unit that is keyed', () => {
    const companions = of('companions');
    const specimen = (strength: string | null, age: string) => ({
      ...(strength === null ? {} : { 'test.strength': { text: strength, unit: 'MPa' } }),
      'specimen.age': { text: age, unit: 'd' },
    });
    const sources: Sources = { made: [specimen('24.1', '7'), specimen('38.1', '28'), specimen(null, '28'), specimen('38.7', '28.0')] };
    const rows = (age?: object) => (inputsOf(companions, age ? { age } : {}, sources) as { companions?: unknown[] }).companions;
    const at28 = [{ strength: { text: '38.1', unit: 'MPa' } }, { strength: { text: '38.7', unit: 'MPa' } }];
    expect(rows({ text: '28', unit: 'd' })).toEqual(at28);
    expect(rows({ text: '672', unit: 'h' })).toEqual(at28);
    expect(rows()?.length).toBe(3);
    expect(rows({ text: '56', unit: 'd' }) ?? null).toBeNull();
    // What cannot be read takes nobody along.
    expect(rows({ text: 'soon', unit: 'd' }) ?? null).toBeNull();
  });

  it('moves those that take it, and no others', () => {
    expect(takersBelow(of('wash'))).toEqual(['gradation']);
    expect(takersAbove(of('cylinder')).sort()).toEqual(['companions', 'core-acceptance']);
    expect([takersBelow(of('gradation')), takersAbove(of('density'))]).toEqual([[], []]);
    expect(takenBy(of('pressure-air')).subject).toEqual(['mix.correction']);
    expect(takenBy(of('companions')).made).toEqual(['test.strength']);
  });

  it('works out every example that is only given as it does keyed', () => {
    const gradation = of('gradation');
    const { dry, washed, ...rest } = exampleOf(gradation) as Record<string, unknown>;
    const run = (inputs: AnyInputs) => evaluate(gradation, inputs, { variant: 'c136', system: 'si' }).results.map((r) => r.reported);
    const sources: Sources = { 'test.before-wash': dry, 'test.after-wash': washed };
    expect(run(inputsOf(gradation, rest, sources))).toEqual(run(exampleOf(gradation)));
  });
});

describe('the tests of an item', () => {
  const tests = (kind: ItemKind, sources: Sources = {}, properties: readonly string[] = []) => ids(testsFor(kind, { sources, properties }));

  it('are those that its mix, its source and its shape are for', () => {
    expect(tests('sample', { 'mix.aggregate': 'porous' })).toContain('volumetric-air');
    expect(tests('sample', { 'mix.aggregate': 'porous' })).not.toContain('pressure-air');
    expect(tests('sample', { 'mix.aggregate': 'normal' })).not.toContain('volumetric-air');
    expect(tests('field-sample', { 'source.kind': 'fine' })).toContain('fine-gravity');
    expect(tests('field-sample', { 'source.kind': 'coarse' })).not.toContain('fine-gravity');
    expect(tests('specimen', { 'specimens.shape': 'cube' })).not.toContain('cylinder');
    // Where the record says nothing of it, all of them are.
    expect(tests('specimen')).toEqual(jasmine.arrayContaining(['cube', 'cylinder', 'flexure']));
  });

  it('find out the same in the way that the specification asks for: the spread of a grout, the slump of a deck', () => {
    const ways = (properties: readonly string[]) =>
      tests('sample', {}, properties).filter((id) => ['slump', 'slump-flow', 'compaction-factor'].includes(id));
    expect(ways([])).toEqual(['slump']);
    expect(ways(['slump', 'air'])).toEqual(['slump']);
    expect(ways(['slump-flow'])).toEqual(['slump-flow']);
  });

  it('stand in the order of the work', () => {
    const order = tests('sample').map((id) => of(id).work?.order ?? Infinity);
    expect(order).toEqual([...order].sort((a, b) => a - b));
  });
});
