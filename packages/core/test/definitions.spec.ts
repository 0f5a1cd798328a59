import { exampleOf } from '../src/examples/index.js';
import {
  asks,
  dimensionOf,
  evaluate,
  exact,
  isUnit,
  KIT_KINDS,
  kitOfMethod,
  KIT_VALUES,
  METHODS,
  PRACTICE_IDS,
  PRECISION,
  PROPERTIES,
  FAMILIES,
  stepsFor,
  convert,
  type AnyMethod,
  type Evaluation,
  type Field,
  type Parameters,
  type QtyField,
  type ResultField,
  type RowsField,
  type Shape,
  type UnitId,
  type Variant,
} from '../src/index.js';
import { shownOn } from '../src/methods/scene.js';
import { PARAMETER_WORDS } from '../src/pages/parameter-words.js';

const fieldsOf = (m: AnyMethod) => Object.entries(m.fields as Shape);
const resultsOf = (m: AnyMethod) => Object.entries(m.results as Readonly<Record<string, ResultField>>);
const variantsOf = (m: AnyMethod) => Object.entries(m.variants as Readonly<Record<string, Variant<Parameters>>>);
const deep = (fields: Shape): [string, Field][] =>
  Object.entries(fields).flatMap(([id, f]): [string, Field][] => [[id, f], ...(f.kind === 'rows' ? deep((f as RowsField).of) : [])]);
const quantities = (m: AnyMethod) => deep(m.fields as Shape).filter((entry): entry is [string, QtyField] => entry[1].kind === 'qty');
const repeated = (list: readonly string[]) => list.filter((x, i) => list.indexOf(x) !== i);
const under = (m: AnyMethod, variant: string): Evaluation => evaluate(m, exampleOf(m), { variant, system: 'si' });

/** What stands in a definition has to be there: each line of this holds for every method, and names those for which it does not. */
describe('definitions hold together', () => {
  const failing = <T>(of: (m: AnyMethod) => readonly T[]): string[] =>
    METHODS.flatMap((m) => of(m).map((what) => `${m.id}: ${String(what)}`));

  it('ids, titles and places are one of a kind', () => {
    expect(repeated(METHODS.map((m) => m.id))).toEqual([]);
    expect(repeated(METHODS.map((m) => m.title))).toEqual([]);
    expect(repeated(METHODS.flatMap((m) => (m.work ? [`${m.work.on} ${m.work.order} ${JSON.stringify(m.suits ?? {})}`] : [])))).toEqual([]);
  });

  it('units are of their dimension, what is usual is possible, and what is typical is usual', () => {
    const inside = (text: string, unit: UnitId, range: QtyField['possible']): boolean => {
      if (!range) return true;
      const value = convert(exact(text), unit, range.unit);
      const at = (bound: string | undefined) => (bound === undefined ? null : value.compare(exact(bound)));
      const [least, above, most] = [at(range.least), at(range.above), at(range.most)];
      return (range.zero === true && value.compare(exact('0')) === 0) || ((least ?? 0) >= 0 && (above ?? 1) > 0 && (most ?? 0) <= 0);
    };
    const wrong = failing((m) =>
      quantities(m).flatMap(([id, f]) => {
        const units = [f.units.si, f.units.us, f.possible?.unit, f.plausible?.unit, f.typical?.unit].filter((u) => u !== undefined);
        if (units.some((u) => dimensionOf(u) !== f.dimension)) return [`unit of ${id}`];
        const ends = [f.plausible?.least, f.plausible?.most].filter((end) => end !== undefined);
        const bad = [
          ...ends.filter((end) => !inside(end, f.plausible!.unit, f.possible)),
          ...(['si', 'us'] as const).filter((s) => f.usual && !inside(f.usual[s], f.units[s], f.plausible ?? f.possible)),
          ...(f.typical && !inside(f.typical.text, f.typical.unit, f.plausible ?? f.possible) ? ['typical'] : []),
        ];
        return bad.map((what) => `${id} ${what}`);
      }),
    );
    expect(wrong).toEqual([]);
    expect(
      failing((m) => deep(m.fields as Shape).flatMap(([id, f]) => (f.kind === 'pick' && f.usual && !(f.usual in f.options) ? [id] : []))),
    ).toEqual([]);
  });

  it('a scene draws readings and results of its method, each the one quantity of its kind', () => {
    const missing = failing((m) => (m.scene ? shownOn(m.scene).filter((id) => !(id in m.fields) && !(id in m.results)) : []));
    expect(missing).toEqual([]);
  });

  it('results name rows, precisions and units that there are', () => {
    const wrong = failing((m) =>
      resultsOf(m).flatMap(([id, r]) => [
        ...(dimensionOf(r.units.si) === dimensionOf(r.units.us) ? [] : [`units of ${id}`]),
        ...(r.along === undefined || (m.fields as Shape)[r.along]?.kind === 'rows' ? [] : [`rows of ${id}`]),
        ...(r.precision === undefined || r.precision in PRECISION ? [] : [`precision of ${id}`]),
      ]),
    );
    expect(wrong).toEqual([]);
  });

  it('a variant leaves out fields that others ask for, and is complete with those that it asks for', () => {
    const wrong = failing((m) =>
      variantsOf(m).flatMap(([id, v]) => {
        const unknown = (v.without ?? []).filter((field) => !(field in (m.fields as Shape)));
        const nobody = fieldsOf(m)
          .filter(([field]) => !variantsOf(m).some(([other]) => asks(m, other, field)))
          .map(([field]) => field);
        const e = under(m, id);
        const blank = evaluate(m, {}, { variant: id, system: 'si' });
        const asked = [...e.missing, ...blank.missing].filter((path) => !asks(m, id, path.split('.')[0]!));
        const open = v.needs === undefined ? e.missing : [];
        const refused = e.issues.filter((i) => i.severity === 'impossible').map((i) => i.code);
        return [...unknown, ...nobody, ...asked, ...open, ...refused].map((what) => `${id} ${what}`);
      }),
    );
    expect(wrong).toEqual([]);
  });

  it('a practice has one variant of a method, and every practice is there', () => {
    const named = (m: AnyMethod) => variantsOf(m).flatMap(([, v]) => v.practices ?? []);
    expect(failing((m) => repeated(named(m)))).toEqual([]);
    expect(failing((m) => named(m).filter((p) => !PRACTICE_IDS.includes(p)))).toEqual([]);
  });

  it('every variant of a method has the same parameters, and each has its words', () => {
    const keys = (value: unknown): string[] =>
      Array.isArray(value)
        ? value.flatMap(keys)
        : typeof value === 'object' && value !== null
          ? Object.entries(value).flatMap(([key, inner]) => [key, ...keys(inner)])
          : [];
    const spoken = (key: string) => key in PARAMETER_WORDS || isUnit(key) || ['si', 'us'].includes(key) || /^[cd]?\d+$/.test(key);
    expect([...new Set(METHODS.flatMap((m) => variantsOf(m).flatMap(([, v]) => keys(v.params))))].filter((key) => !spoken(key))).toEqual(
      [],
    );
  });

  it('what a specification may limit is reported in its units by every method that has it', () => {
    const wrong = failing((m) =>
      resultsOf(m).flatMap(([id, r]) => {
        if (r.property === undefined) return [];
        if (!PROPERTIES.some((p) => p.id === r.property)) return [`${id} no property`];
        const given = variantsOf(m).flatMap(([v]) => under(m, v).results.filter((found) => found.id === id && found.state === 'given'));
        if (given.length === 0) return [`${id} in no example`];
        // A metric standard quotes no inches; somebody who works in inches takes another variant.
        return [r.units.si, r.units.us]
          .filter((unit) => !given.some(({ increments }) => increments[unit] !== undefined))
          .map((unit) => `${id} ${unit}`);
      }),
    );
    expect(wrong).toEqual([]);
  });

  it('what a specification can limit has a name of its own', () => {
    const labels = PROPERTIES.map((p) => p.label);
    expect(labels.filter((label, i) => labels.indexOf(label) !== i)).toEqual([]);
  });

  it('equipment that a reading comes from is asked for', () => {
    const wrong = failing((m) =>
      fieldsOf(m).flatMap(([id, f]) => {
        const kind = KIT_KINDS.find((k) => [...KIT_VALUES[k].own, ...KIT_VALUES[k].calibrated].includes(f.from as never));
        return kind === undefined || m.on === undefined || kitOfMethod(m).includes(kind) ? [] : [id];
      }),
    );
    expect(wrong).toEqual([]);
  });

  it('every method stands in one family, and a family names only methods', () => {
    const named = FAMILIES.flatMap(({ members }) => Object.keys(members));
    expect([...named].sort()).toEqual(METHODS.map((m) => m.id).sort());
  });

  it('every variant has steps to read, or the method has none', () => {
    const silent = failing((m) =>
      variantsOf(m).flatMap(([id, v]) => (m.steps.length > 0 && stepsFor(m, v.params).length === 0 ? [id] : [])),
    );
    expect(silent).toEqual([]);
  });
});
