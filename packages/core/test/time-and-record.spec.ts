import {
  fieldAt,
  fuse,
  inOrder,
  inputsOf,
  keyedFields,
  kitMarks,
  say,
  left,
  methodById,
  SAMPLE_WINDOWS,
  truckWindow,
  usualVariant,
  type Kit,
} from '../src/index.js';

const MINUTE = 60_000;
const portions = SAMPLE_WINDOWS.find((w) => w.id === 'portions')!;
const molding = SAMPLE_WINDOWS.find((w) => w.id === 'molding')!;

describe('fuses', () => {
  it('do not exist before their start, burn, need you at the end, and run out', () => {
    expect(fuse(molding, {}, 0)).toBeNull();
    const events = { 'sample.finished': 0 };
    const state = (minutes: number) => fuse(molding, events, minutes * MINUTE)?.state;
    expect([state(1), state(9), state(15), state(15.01)]).toEqual(['burning', 'last', 'last', 'missed']);
  });

  it('stop where what must happen happened, in time or late', () => {
    const at = (minutes: number) => fuse(molding, { 'sample.finished': 0, 'sample.molding': minutes * MINUTE }, 99 * MINUTE);
    expect([at(15)?.state, at(15.1)?.state]).toEqual(['done', 'missed']);
    expect(at(5)?.label).toBe('Molding started');
  });

  it('the portions’ fuse is met by the last portion, not by the turning', () => {
    const events = { 'sample.first-portion': 0, 'sample.final-portion': 14 * MINUTE, 'sample.finished': 17 * MINUTE };
    expect(fuse(portions, events, 20 * MINUTE)?.state).toBe('done');
  });

  it('stand in the order in which they end, the missed ones after the burning', () => {
    const now = 10 * MINUTE;
    const all = [
      fuse(truckWindow(90), { 'load.batched': -60 * MINUTE }, now)!,
      fuse(molding, { 'sample.finished': -10 * MINUTE }, now)!,
      fuse(portions, { 'sample.first-portion': 2 * MINUTE }, now)!,
    ];
    expect(inOrder(all).map((f) => f.id)).toEqual(['portions', 'truck', 'molding']);
  });

  it('say the time left', () => {
    expect([left(108_000), left(-61_000), left(4_320_000), left(0)]).toEqual(['1:48', '−1:01', '1 h 12', '0:00']);
  });
});

describe('a test’s place in the record', () => {
  const m = methodById('yield')!;

  it('takes from the record only what was not keyed', () => {
    const kg = (text: string) => ({ text, unit: 'kg' as const });
    const sources = { 'measure.volume': { text: '7.043', unit: 'L' }, 'ticket.batch': [{ name: 'All', role: null, mass: kg('1') }] };
    const x = inputsOf(m, { full: kg('19'), volume: { text: '7', unit: 'L' } }, sources) as Record<string, unknown>;
    expect(x['volume']).toEqual({ text: '7', unit: 'L' });
    expect(x['empty']).toBeNull();
    expect(x['batch']).toEqual(sources['ticket.batch']);
    // The rows already hold the cement: the quantity stays empty.
    expect(x['cement']).toBeNull();
  });

  it('asks people only for what the variant wants and the record does not give', () => {
    const ids = (variant: string) => keyedFields(methodById('slump')!, variant).map(([id]) => id);
    expect(ids('us')).toEqual(['shape', 'lift', 'total', 'drop', 'centre', 'mold', 'mishap', 'sieved']);
    expect(ids('en')).toContain('highest');
    expect(keyedFields(m, 'exact').map(([id]) => id)).toEqual(['full', 'empty']);
  });

  it('finds a field by its path', () => {
    expect(fieldAt(m, 'batch.2.mass')?.label).toBe('Actual mass');
    expect(fieldAt(m, 'nothing')).toBeUndefined();
    expect(fieldAt(m, 'full.text')).toBeUndefined();
  });

  it('takes the practice’s variant of each method', () => {
    expect(['us-astm', 'en', 'is'].map((p) => usualVariant(p as 'en', methodById('slump')!))).toEqual(['us', 'en', 'four_layer']);
    expect(usualVariant('en', methodById('temperature')!)).toBe('c1064');
  });

  it('marks equipment from the day after its calibration ran out', () => {
    const kit: Kit = {
      id: 'k',
      kind: 'air-meter',
      name: 'Meter',
      calibratedOn: '2026-08-09',
      until: '2026-11-09',
      wrong: null,
      sources: {},
    };
    expect(kitMarks(kit, '2026-11-09')).toEqual([]);
    expect(kitMarks(kit, '2026-11-10')[0]?.params).toEqual({ name: 'Meter', at: '2026-08-09', until: '2026-11-09' });
    expect(kitMarks(undefined, '2026-11-10')).toEqual([]);
    const leaks = { ...kit, wrong: { on: '2026-10-02', why: 'it leaks', later: false } };
    const [wrong, late] = kitMarks(leaks, '2026-11-10', 'no other on site').map(({ code, params }) => say(code, params));
    expect(wrong).toBe('Meter was found wrong on 2026-10-02: it leaks. Used all the same: no other on site.');
    // What was made before it was found was made in good faith; what is keyed late of a day before is not in question by that.
    expect(kitMarks(leaks, '2026-10-01')).toEqual([]);
    const [before] = kitMarks({ ...leaks, wrong: { ...leaks.wrong, later: true } }, '2026-10-01', 'no other on site');
    expect(say(before!.code, before!.params)).toBe('Meter was found wrong on 2026-10-02: it leaks.');
    expect(late).toContain('good until 2026-11-09. Used all the same');
  });
});
