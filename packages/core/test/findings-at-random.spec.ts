import fc from 'fast-check';
import { findingsOf, isTold, stateAt, type Decision, type Line, type LineItem, type LineTest } from '../src/index.js';
import { DAY, lineWith, moment, setOf, slump, tested } from '../testing/line.js';

/** What a history does to a record: each step says anew how something of it is, or takes it back. */
interface Record_ {
  readonly load: Readonly<Record<string, unknown>>;
  readonly sample: Readonly<Record<string, unknown>>;
  readonly set: Readonly<Record<string, unknown>>;
  readonly tests: Readonly<Record<string, LineTest>>;
  readonly breaks: readonly string[];
  readonly decisions: readonly Decision[];
  readonly gone: readonly string[];
}
type Amendment = (record: Record_) => Record_;

const EMPTY: Record_ = { load: {}, sample: {}, set: {}, tests: {}, breaks: ['300', '301', '302'], decisions: [], gone: [] };

const minutes = (from: number, to: number) => fc.integer({ min: from, max: to });
const facts = (of: 'load' | 'sample' | 'set', said: fc.Arbitrary<object>): fc.Arbitrary<Amendment> =>
  said.map((more) => (r) => ({ ...r, [of]: { ...r[of], ...more } }));
const test = (made: fc.Arbitrary<LineTest>): fc.Arbitrary<Amendment> =>
  made.map((t) => (r) => ({ ...r, tests: { ...r.tests, [t.id]: t } }));
const decision = (finding: string, subjectId: string, part: string, words: readonly Decision['decided'][]): fc.Arbitrary<Amendment> =>
  fc.tuple(fc.constantFrom(...words), minutes(0, 40 * DAY), fc.boolean()).map(([decided, at, takenBack]) => (r) => ({
    ...r,
    decisions: [
      ...r.decisions,
      {
        id: `d${r.decisions.length}`,
        ...{ finding, subjectId, part, decided, who: 'C. Pendry-Vale', why: 'seen', paper: null },
        ...{ at: moment(at), takenBack: takenBack ? 'keyed twice' : null },
      },
    ],
  }));

const AMENDMENTS = fc.oneof(
  facts(
    'load',
    minutes(20, 200).map((m) => ({ discharged: moment(m) })),
  ),
  facts(
    'load',
    fc.array(fc.tuple(minutes(1, 200), minutes(12, 120)), { maxLength: 3 }).map((all) => ({
      water: all.map(([mass, at], i) => ({ mass: { text: String(mass), unit: 'kg' }, at: moment(at), row: `w${i}` })),
    })),
  ),
  facts(
    'sample',
    minutes(10, 40).map((m) => ({ portions: [{ at: moment(10) }, { at: moment(m) }], finished: moment(m + 1) })),
  ),
  facts(
    'set',
    fc.tuple(minutes(2, 24), minutes(24, 40)).map(([low, high]) => ({
      low: { text: String(low), unit: 'C' },
      high: { text: String(high), unit: 'C' },
    })),
  ),
  facts(
    'set',
    fc.constantFrom('standard', 'field').map((curing) => ({ curing })),
  ),
  test(fc.tuple(minutes(20, 200), minutes(18, 60)).map(([drop, at]) => slump('a', String(drop), { minutes: at }))),
  test(fc.tuple(minutes(20, 200), minutes(61, 90)).map(([drop, at]) => slump('b', String(drop), { minutes: at, retestOf: 'a' }))),
  test(fc.constantFrom('shear', 'collapse').map((shape) => tested('a', 'slump', { shape, mold: '300 mm' }))),
  test(minutes(1, 10).map((air) => tested('air', 'pressure-air', { gauge: `${air} %`, correction: '0.4 %' }))),
  fc.array(minutes(150, 360), { minLength: 3, maxLength: 3 }).map((loads): Amendment => (r) => ({ ...r, breaks: loads.map(String) })),
  decision('strength-test', 'D-1', 'strength@28', ['counts', 'counts-not']),
  decision('load-stands', 'load', '', ['accepted', 'rejected']),
  fc
    .constantFrom('load', 'sample', 'D-1')
    .map((id): Amendment => (r) => ({ ...r, gone: r.gone.includes(id) ? r.gone.filter((g) => g !== id) : [...r.gone, id] })),
);

/** The line that a record is, its tests and what lies beside each other in any order. */
function lineOf(r: Record_, turned = false): Line {
  const set = setOf('D-1', { 28: r.breaks }, r.set);
  const line = lineWith({ load: r.load, sample: r.sample, items: set.items, tests: [...Object.values(r.tests), ...set.tests] });
  const items = line.items.map((i): LineItem => ({ ...i, answered: [], voided: r.gone.includes(i.id) }));
  const tests = [...line.tests].sort((a, b) => Date.parse(a.startedAt) - Date.parse(b.startedAt) || (a.id < b.id ? -1 : 1));
  const [top, specimens] = [items.filter((i) => i.kind !== 'specimen'), items.filter((i) => i.kind === 'specimen')];
  return {
    ...line,
    items: [...top, ...(turned ? specimens.reverse() : specimens)],
    tests,
    decisions: turned ? [...r.decisions].reverse() : r.decisions,
  };
}

const asRow = (line: Line) =>
  findingsOf(line)
    .map(({ stoodOn, evidence, ...f }) => ({ ...f, evidence: [...evidence].map((e) => e.says).sort(), stoodOn: [...stoodOn].sort() }))
    .sort((a, b) => (`${a.finding} ${a.subjectId} ${a.part}` < `${b.finding} ${b.subjectId} ${b.part}` ? -1 : 1));

describe('what is found, whatever is amended in whatever order', () => {
  it('stands on the record as it is, not on how it came to be so', () => {
    fc.assert(
      fc.property(fc.array(AMENDMENTS, { minLength: 1, maxLength: 12 }), (history) => {
        const record = history.reduce<Record_>((r, amend) => amend(r), EMPTY);
        const rows = asRow(lineOf(record));
        // What lies beside each other has no order, and no row is there twice.
        expect(asRow(lineOf(record, true))).toEqual(rows);
        expect(new Set(rows.map((f) => `${f.finding} ${f.subjectId} ${f.part}`)).size).toBe(rows.length);
        // What was done last and is undone by what stood before leaves nothing behind.
        const detour = [...history, ...history].reduce<Record_>((r, amend) => amend(r), EMPTY);
        const back = { ...detour, ...record };
        expect(asRow(lineOf(back))).toEqual(rows);
        for (const { states, finding } of rows) {
          const from = states.map((s) => (s.from === null ? -Infinity : Date.parse(s.from)));
          expect([from[0], from.every((at, i) => i === 0 || at > from[i - 1]!)])
            .withContext(finding)
            .toEqual([-Infinity, true]);
          for (const { says, next } of states)
            for (const s of [says, ...next]) expect(s).toMatch(/^[^\s](?!.*(undefined|NaN| {2}|\.\.)).*[.:?]$/s);
        }
        const at = (f: (typeof rows)[number]) => stateAt(f, Date.parse(moment(60 * DAY)));
        const sampleIsVoid = rows.some((f) => f.finding === 'composite' && at(f).grade === 'void');
        const strengths = rows.filter((f) => f.finding === 'strength-test');
        if (sampleIsVoid) expect(strengths.filter((f) => f.acceptance === 'counts')).toEqual([]);
        if (record.gone.includes('load')) expect(rows.filter((f) => isTold(at(f)))).toEqual([]);
        if (record.gone.includes('D-1')) expect(strengths).toEqual([]);
      }),
      { numRuns: 500 },
    );
  });
});
