import {
  findingsOf,
  FINDINGS,
  isTold,
  judgeAll,
  methodById,
  speaksOf,
  stateAt,
  type Decision,
  type Evaluation,
  type Finding,
  type Line,
} from '../src/index.js';
import { DAY, item, LIMITS, lineWith, moment, setOf, slump, TICKET, tested } from '../testing/line.js';

const at = (minutes: number): number => Date.parse(moment(minutes));
const of = (line: Line, finding: string, part?: string): Finding | undefined =>
  findingsOf(line).find((f) => f.finding === finding && (part === undefined || f.part === part));
const now = (line: Line, finding: string, minutes = 40, part?: string) => {
  const f = of(line, finding, part);
  return f && stateAt(f, at(minutes));
};
const decision = (more: Partial<Decision>): Decision => ({
  id: 'd',
  finding: 'strength-test',
  subjectId: 'D-1',
  part: 'strength@28',
  decided: 'counts',
  who: 'C. Pendry-Vale, engineer',
  why: 'companions agree',
  paper: 'HC-77',
  at: moment(DAY * 29),
  takenBack: null,
  ...more,
});

describe('the load', () => {
  it('a void composite says so once, and nothing of its tests is to be repeated', () => {
    const apart = { portions: [{ at: moment(10) }, { at: moment(26) }], finished: moment(27) };
    const line = lineWith({ sample: apart, tests: [tested('a', 'slump', { shape: 'shear', mold: '300 mm' })] });
    const f = of(line, 'composite')!;
    expect([f.states[0].grade, f.acceptance]).toEqual(['void', 'excluded']);
    expect(f.states[0].says).toBe(
      'The sample is void, and so is every test and specimen of it: First to last portion took 16 min; at most 15 min.',
    );
    expect(of(line, 'pair')).toBeUndefined();
    expect(of(lineWith({ sample: { finished: undefined } }), 'composite')).toBeUndefined();
  });

  it('time in the truck is open until somebody says when it was empty: it grows late for nobody', () => {
    const line = lineWith();
    expect([now(line, 'time-in-truck', 60)?.says, now(line, 'time-in-truck', 2 * DAY)?.grade]).toEqual([
      'To be empty by 09:30, 1 h 30 min from batching.',
      'open',
    ]);
    expect(now(line, 'time-in-truck', 2 * DAY)?.next[0]).toContain('Say when it was empty');
    // While it runs its clock says it; afterwards it is told wherever its load is.
    expect([60, 2 * DAY].map((at) => isTold(now(line, 'time-in-truck', at)!))).toEqual([false, true]);
    const empty = (minutes: number) => now(lineWith({ load: { discharged: moment(minutes) } }), 'time-in-truck', 2 * DAY);
    expect([empty(90)?.grade, empty(94)?.grade]).toEqual(['fine', 'out']);
    expect(empty(94)?.says).toBe('Empty 1 h 34 min after batching; at most 1 h 30 min.');
    expect(empty(94)?.next.join()).toContain('whoever may reject');
  });

  it('w/cm is that of what is in the truck: as batched, and with the water that was added', () => {
    expect(now(lineWith(), 'load-wcm')?.says).toBe('w/cm 0.42 as batched; at most 0.45 is asked.');
    const water = [{ mass: { text: '120', unit: 'kg' }, at: moment(30) }];
    const watered = now(lineWith({ load: { water } }), 'load-wcm');
    expect([watered?.grade, watered?.says]).toEqual(['out', 'w/cm 0.47 with 120 kg added on site; at most 0.45 is asked.']);
    const dry = TICKET.materials.map(({ moisture: _m, ...m }) => m);
    expect(now(lineWith({ load: { materials: dry } }), 'load-wcm')).toBeUndefined();
  });

  it('water may be added once, so much and until then; afterwards it is 30 revolutions and a new slump', () => {
    const low = slump('a', '40');
    // Free water: w/cm 0.415 of 2040 kg leaves 70.9 kg.
    expect(now(lineWith({ tests: [low] }), 'water-on-site', 40)?.says).toBe('Water may be added once: at most 70 L, until 09:30.');
    expect(now(lineWith({ tests: [low] }), 'water-on-site', 95)?.says).toContain('has passed');
    expect(of(lineWith({ tests: [slump('a', '95')] }), 'water-on-site')).toBeUndefined();
    const water = [{ mass: { text: '40', unit: 'L' }, at: moment(30) }];
    const added = now(lineWith({ load: { water }, tests: [low] }), 'water-on-site');
    expect([added?.grade, added?.next[0]]).toEqual(['open', jasmine.stringContaining('30 revolutions')]);
    const after = now(lineWith({ load: { water }, tests: [low, slump('b', '95', { minutes: 35, retestOf: 'a' })] }), 'water-on-site');
    expect([after?.grade, after?.says]).toEqual(['fine', '40 L of water was added on site; the slump since is 95 mm.']);
    const twice = now(lineWith({ load: { water: [...water, { mass: { text: '20', unit: 'L' }, at: moment(32) }] } }), 'water-on-site');
    expect(twice?.says).toContain('40 L and 20 L of water were added');
    expect(twice?.says).toContain('once');
  });

  it('what fails is asked of whoever may reject the load, and their word stands with it', () => {
    const tests = [slump('a', '40'), slump('b', '45', { minutes: 25, retestOf: 'a' })];
    const line = lineWith({ tests, load: { discharged: moment(95) } });
    const asks = of(line, 'load-stands')!;
    expect([asks.states[0].grade, asks.choices, asks.evidence.length]).toEqual(['asks', ['rejected', 'accepted'], 2]);
    const word = decision({ finding: 'load-stands', subjectId: 'load', part: '', decided: 'accepted', why: 'not loaded before 28 days.' });
    const decided = of({ ...line, decisions: [word] }, 'load-stands')!;
    expect(decided.states[0]).toEqual({
      from: null,
      grade: 'watch',
      says: 'The load does not meet what is asked of it: whoever may reject it decides. Accepted as it is, says C. Pendry-Vale, engineer (HC-77): not loaded before 28 days.',
      next: [],
    });
    expect(of({ ...line, decisions: [{ ...word, takenBack: 'another load' }] }, 'load-stands')!.states[0].grade).toBe('asks');
    expect(of(lineWith({ tests: [slump('a', '95')] }), 'load-stands')).toBeUndefined();
  });

  it('delivered beyond what was planned is said of the pour', () => {
    const loads = [1, 2, 3].map((n) => item('load', `l${n}`, 'pour', TICKET));
    const pour = lineWith({ line: { above: [], items: [item('pour', 'pour', null, { planned: { text: '12', unit: 'm3' } }), ...loads] } });
    expect(findingsOf(pour).map((f) => [f.finding, f.states[0].says])).toEqual([
      ['delivered-volume', '18 of 12 m³ delivered: more than planned.'],
    ]);
  });
});

describe('test and check test', () => {
  const pair = (...tests: ReturnType<typeof tested>[]) => of(lineWith({ tests }), 'pair')?.states[0];

  it('sheared twice ends it: no third slump, and nothing to put right', () => {
    const sheared = (id: string, more: object = {}) => tested(id, 'slump', { shape: 'shear', mold: '300 mm', ...more });
    const one = pair(sheared('a'));
    expect([one?.grade, one?.next]).toEqual(['open', ['Test again on another portion of the same sample.']]);
    const two = pair(sheared('a'), { ...sheared('b', { previous: 'shear' }), retestOf: 'a' });
    expect(two?.next).toEqual(['Make no third slump. Report that it lacks cohesion, without a number, and tell the engineer.']);
    expect(two?.says).not.toContain('once more');
  });

  it('each property has its own steps: slump fails the load, a yield does not', () => {
    const low = pair(slump('a', '40'));
    expect([low?.grade, low?.next[0]]).toEqual(['open', 'Make a check test at once.']);
    const fails = pair(slump('a', '40'), slump('b', '45', { retestOf: 'a', minutes: 25 }));
    expect([fails?.grade, fails?.next]).toEqual(['out', ['Tell whoever may reject the load.']]);
    expect(fails?.says).not.toContain('Make a check test');
    const yields = (id: string, more: object = {}) =>
      tested(id, 'yield', { full: '18.70 kg', empty: '3.21 kg', volume: '7.043 L', design: '6 m3', batch: BATCH }, more);
    const both = pair(yields('a'), yields('b', { retestOf: 'a', minutes: 25 }));
    expect([both?.grade, both?.next.join()]).toEqual(['watch', jasmine.stringContaining('mean of three loads')]);
    expect(both?.says).not.toContain('load fails');
    expect(of(lineWith({ tests: [yields('a'), yields('b', { retestOf: 'a' })] }), 'load-stands')).toBeUndefined();
  });

  it('inside passes; too far apart a third decides; a repeat stands for a void one', () => {
    expect(pair(slump('a', '60'), slump('b', '80', { retestOf: 'a' }))?.grade).toBe('fine');
    expect(pair(slump('a', '40'), slump('b', '95', { retestOf: 'a' }))?.says).toContain('apart');
    const repeated = pair(tested('a', 'slump', { shape: 'shear', mold: '300 mm' }), slump('b', '95', { retestOf: 'a' }));
    expect([repeated?.grade, repeated?.says]).toEqual(['fine', 'Slump: The repeat stands in place of the void test.']);
    expect(pair(slump('a', '95'))).toBeUndefined();
    // A check that is only begun changes nothing.
    expect(pair(slump('a', '40'), tested('b', 'slump', null, { retestOf: 'a' }))?.next[0]).toBe('Make a check test at once.');
    // What two slumps say together stands beside no other test of the sample.
    const ofSlumps = of(lineWith({ tests: [slump('a', '40'), slump('b', '45', { retestOf: 'a', minutes: 25 })] }), 'pair')!;
    expect(['slump', 'relative-yield'].map((method) => speaksOf(ofSlumps, method))).toEqual([true, false]);
  });
});

const BATCH = [
  { name: 'Cement', role: 'cement', mass: '2040 kg', sg: '3.15' },
  { name: 'Water', role: 'water', mass: '700 kg' },
  { name: 'Sand', role: 'fine', mass: '4400 kg', sg: '2.64', moisture: '4.7 %', absorption: '1.2 %' },
  { name: 'Stone', role: 'coarse', mass: '6500 kg', sg: '2.68', moisture: '0.9 %', absorption: '0.9 %' },
];

describe('what does not fit together', () => {
  const weighed = (full: string, more: object = {}) =>
    tested('y', 'yield', { full: `${full} kg`, empty: '3.21 kg', volume: '7.043 L', design: '6 m3', batch: BATCH }, more);
  const air = (gauge: string) => tested('p', 'pressure-air', { gauge: `${gauge} %`, correction: '0.4 %' });

  it('two airs of one concrete, with the causes in their order; water on the ticket is one of them', () => {
    const line = lineWith({
      tests: [air('5.0'), weighed('18.60')],
      load: { water: [{ mass: { text: '120', unit: 'kg' }, at: moment(12) }] },
    });
    const airs = of(line, 'cross-check', 'airs-disagree')!;
    expect(airs.states[0].says).toContain('points apart');
    const calibrated = lineWith({
      tests: [{ ...air('5.0'), kit: [{ id: 'm', kind: 'air-meter', name: 'Meter 1', calibratedOn: '2026-01-02' }] }, weighed('18.60')],
    });
    expect(
      of(calibrated, 'cross-check', 'airs-disagree')!
        .evidence.map((e) => e.says)
        .join(' '),
    ).toContain('130 days');
    expect(airs.evidence.length).toBeGreaterThan(2);
  });

  it('a likely cause asks for what is not on record, and appears with the cross-check, not before', () => {
    const wet = lineWith({
      tests: [slump('a', '170'), weighed('18.60')],
      load: { water: [{ mass: { text: '190', unit: 'kg' }, at: moment(12) }] },
    });
    const cause = of(wet, 'likely-cause', 'extra-water')!;
    expect([cause.states[0].grade, cause.states[0].next]).toEqual(['watch', []]);
    const dry = TICKET.materials.map(({ moisture: _m, absorption: _a, ...m }) => m);
    const asked = of(lineWith({ tests: [slump('a', '170'), weighed('18.60')], load: { materials: dry } }), 'likely-cause', 'extra-water')!;
    expect(asked.states[0].next).toEqual(['Ask for: moisture test, driver’s additions.']);
    // 1.5 % off: neither is worth a word.
    const near = lineWith({ tests: [weighed('19.10')] });
    expect([of(near, 'cross-check', 'yield-off-ticket') === undefined, of(near, 'likely-cause') === undefined]).toEqual([true, true]);
  });
});

describe('specimens', () => {
  const set = (breaks: Readonly<Record<number, readonly string[]>>, facts: object = {}, how: object = {}, line: Partial<Line> = {}) =>
    lineWith({ ...setOf('D-1', breaks, facts, how), line });
  const strength = (line: Line, part = 'strength@28') => of(line, 'strength-test', part)!;

  it('what strayed in curing is said of the set on the day; with the structure it is meant to be', () => {
    const cold = set({ 28: ['', '', ''] }, { low: { text: '11', unit: 'C' }, high: { text: '22', unit: 'C' } });
    expect(of(cold, 'curing')?.states[0]).toEqual(jasmine.objectContaining({ grade: 'watch', says: jasmine.stringContaining('11 °C') }));
    expect(of(set({ 28: [''] }, { curing: 'field', low: { text: '2', unit: 'C' } }), 'curing')).toBeUndefined();
  });

  it('another size or shape than the set was molded in is a mix-up; a core has the size that it has', () => {
    const other = of(set({ 28: ['300'] }, { width: { text: '150', unit: 'mm' } }), 'other-specimen')!;
    expect([other.subjectId, other.acceptance, other.states[0].says]).toEqual([
      'D-1-28-0',
      'waits',
      'D-1-28-0: It measures 101.5 mm; its set is of 150 mm.',
    ]);
    expect(of(set({ 28: ['300'] }, { shape: 'cube' }), 'other-specimen')?.states[0].says).toContain('cubes');
    expect(of(set({ 28: ['300'] }), 'other-specimen')).toBeUndefined();
    expect(of(set({ 28: ['300'] }, { shape: 'core', width: { text: '50', unit: 'mm' } }), 'other-specimen')).toBeUndefined();
  });

  it('a strength test is its mean; companions too far apart wait for a decision, and count once there is one', () => {
    expect(strength(set({ 28: ['294', '300', '303'] })).states[0].says).toBe('At 28 days: 36.9 MPa, the mean of 3 of 3 companions.');
    expect(strength(set({ 28: ['294', '', ''] })).states[0].grade).toBe('open');
    const apart = set({ 28: ['294', '300', '250'] });
    const asks = strength(apart);
    expect([asks.states[0].grade, asks.acceptance, asks.choices]).toEqual(['asks', 'waits', ['counts', 'counts-not', 'cores']]);
    // Nothing is left of it to test again; of another set one is.
    expect(asks.cannot).toEqual([{ decided: 'again', why: 'No specimen of D-1 is left to test.' }]);
    const left = strength(set({ 28: ['294', '300', '250'], 56: [''] }));
    expect([left.choices.at(-1), left.cannot]).toEqual(['again', []]);
    expect(asks.states[0].says).toContain('17.8 % apart');
    const counts = strength({ ...apart, decisions: [decision({})] });
    expect([counts.acceptance, counts.states[0].grade]).toEqual(['counts', 'fine']);
    expect(counts.states[0].says).toContain('says C. Pendry-Vale, engineer (HC-77)');
    const not = strength({ ...apart, decisions: [decision({}), decision({ id: 'e', decided: 'counts-not', at: moment(DAY * 30) })] });
    expect([not.acceptance, not.states[0].says]).toEqual(['excluded', jasmine.stringContaining('Does not count')]);
  });

  it('a mark that asks keeps it out until somebody decided; one at another age is neither low nor told', () => {
    const marked = set({ 28: ['294', '300', '303'] }, {}, { marks: [{ code: 'pads-worn', params: { uses: '101', most: '100' } }] });
    expect([strength(marked).acceptance, strength(marked).states[0].says]).toEqual(['waits', jasmine.stringContaining('worn pads')]);
    const early = set({ 7: ['150', '152'] });
    expect([strength(early, 'strength@7').states[0].grade, strength(early, 'strength@7').choices]).toEqual(['fine', []]);
  });

  it('low is low by its school; what speaks against the test, what of the concrete, and what nobody read are three lists', () => {
    const low = set(
      { 28: ['200', '204', '203'] },
      { low: { text: '11', unit: 'C' }, high: { text: '22', unit: 'C' }, tank: 'Tank 1' },
      { marks: [{ code: 'found-wrong', params: { name: 'Press 1', at: '2026-06-01', why: 'reads 4 % low' } }] },
    );
    const lowOf = (line: Line, part = 'strength@28') => of(line, 'low-strength', part);
    const f = lowOf({ ...low, decisions: [decision({})] })!;
    expect(f.states[0].says).toBe('At 28 days: 25.0 MPa, below the least that a single test may be, 28.5 MPa.');
    expect([f.states[0].grade, f.states[0].next[0]]).toEqual([
      'out',
      'Tell the engineer, the concrete plant and whoever placed the concrete.',
    ]);
    const said = (about: string, of_ = f) => of_.evidence.filter((e) => e.about === about).map((e) => e.says);
    expect(said('test').join(' ')).toMatch(/Press 1 was found wrong.*11 °C/);
    expect(said('unknown')).toEqual(['With which machine it was broken.', 'At which rate it was loaded.', 'How it broke.']);
    const untold = lowOf(set({ 28: ['200', '204', '203'] }))!;
    expect([said('unknown', untold).length, said('test', untold)]).toEqual([5, []]);
    // One of the three that is to come: nothing is low yet. At another age, too few, or field-cured it never is.
    expect(lowOf(set({ 28: ['200', '204', ''] }))).toBeUndefined();
    expect(lowOf(set({ 28: ['200', '204', '203'] }, { curing: 'field' }))).toBeUndefined();
    expect(lowOf(set({ 7: ['60', '61'] }), 'strength@7')).toBeUndefined();
    // 33 and 32.5 before it leave no room for 30.4.
    const run = set({ 28: ['245', '246', '247'] }, {}, {}, { series: { 'D-1 strength@28': { before: mpa('33', '32.5'), earlier: 0 } } });
    expect(lowOf(run)?.states[0].says).toBe('At 28 days: 30.4 MPa: the mean of three falls below f’c, with 32.0 MPa specified.');
    expect(lowOf(set({ 28: ['294', '300', '303'] }))).toBeUndefined();
  });

  it('each age that is asked for is accepted by itself, an earlier one lets a step of the work go on', () => {
    const limit = (id: string, lower: string, atDays: number) => ({
      id,
      property: 'strength',
      unit: 'MPa' as const,
      lower,
      atDays,
      source: '2.1',
    });
    const limits = [{ ...LIMITS[0]!, limits: [limit('a', '28', 28), limit('b', '32', 56), limit('c', '18', 7)] }];
    const line = lineWith({ ...setOf('D-1', { 7: ['130', '132'], 28: ['240', '241', '243'], 56: ['220', '222', '221'] }), limits });
    const says = (part: string) => strength(line, part).states[0].says;
    expect(of(line, 'low-strength', 'strength@28')).toBeUndefined();
    expect(of(line, 'low-strength', 'strength@56')?.states[0].says).toContain('below the least that a single test may be, 28.5 MPa');
    expect(says('strength@7')).toContain('It must be at least 18 MPa at 7 d.');
    expect(strength(line, 'strength@7').acceptance).not.toBe('counts');
  });

  it('three cubes of which one is beyond 15 % of their mean give no strength by IS', () => {
    const limits = [
      {
        ...LIMITS[0]!,
        school: 'is' as const,
        limits: [{ id: 'a', property: 'cube-strength', unit: 'MPa' as const, lower: '30', source: '1' }],
      },
    ];
    const cubes = (loads: readonly string[], school: 'is' | 'en' = 'is') => {
      const base = setOf('D-1', { 28: loads.map(() => '') }, { shape: 'cube', width: { text: '150', unit: 'mm' } });
      const tests = loads.map((load, i) =>
        tested(`t${i}`, 'cube', { a: '150 mm', b: '150 mm', load: `${load} kN` }, { itemId: `D-1-28-${i}`, minutes: 30 + 28 * DAY }),
      );
      return strength(lineWith({ items: base.items, tests, limits: [{ ...limits[0]!, school }] }), 'cube-strength@28');
    };
    expect([cubes(['720', '730', '740']).acceptance, cubes(['720', '730', '500']).acceptance]).toEqual(['counts', 'excluded']);
    expect(cubes(['720', '730', '500']).states[0]).toEqual(
      jasmine.objectContaining({ grade: 'void', says: jasmine.stringContaining('gives no strength') }),
    );
    expect(cubes(['720', '730', '500'], 'en').acceptance).toBe('counts');
  });

  it('no gain from 7 to 28 days, and the share that was cured with the structure', () => {
    expect(of(set({ 7: ['300', '302'], 28: ['294', '300', '303'] }), 'no-gain')?.states[0].says).toBe(
      'No strength gained from 7 to 28 days: 37.2 and 36.9 MPa.',
    );
    expect(of(set({ 7: ['210', '212'], 28: ['294', '300', '303'] }), 'no-gain')).toBeUndefined();
    const [standard, field] = [setOf('D-1', { 28: ['294', '300', '303'] }), setOf('D-2', { 28: ['240', '241'] }, { curing: 'field' })];
    const both = (loads: readonly string[]) => {
      const other = setOf('D-2', { 28: loads }, { curing: 'field' });
      return of(lineWith({ items: [...standard.items, ...other.items], tests: [...standard.tests, ...other.tests] }), 'field-share')
        ?.states[0];
    };
    expect(field.items.length).toBe(3);
    expect([both(['240', '241'])?.grade, both(['255', '256'])?.grade]).toEqual(['watch', 'fine']);
    expect(both(['240', '241'])?.says).toContain('80.6 % of its standard-cured companions; 85 % is asked');
  });

  it('the tank that a set lay in is said of it, for as long as it lay there', () => {
    const storage = {
      'Tank 1': [{ at: moment(3 * DAY), day: '15 May 2026', says: 'It is 29 °C where the specimens lie; 21 to 25 is asked.' }],
    };
    const lay = (tank: string) => of(set({ 28: ['294', '300', '303'] }, { tank, cured: moment(DAY) }, {}, { storage }), 'tank');
    expect(lay('Tank 1')?.states[0].says).toBe(
      'Tank 1 was not as asked on 15 May 2026. It is 29 °C where the specimens lie; 21 to 25 is asked.',
    );
    expect([lay('Tank 2'), of(set({ 1: ['100'] }, { tank: 'Tank 1', cured: moment(60) }, {}, { storage }), 'tank')]).toEqual([
      undefined,
      undefined,
    ]);
  });
});

const mpa = (...texts: string[]) => texts.map((text) => ({ text, unit: 'MPa' as const }));

describe('every finding', () => {
  it('comes after what it reads, once for a subject and part, and says a whole sentence', () => {
    const tests = [slump('a', '40'), slump('b', '45', { minutes: 25, retestOf: 'a' })];
    const cold = setOf('D-1', { 7: ['300', '301'], 28: ['200', '204', '203'] }, { low: { text: '11', unit: 'C' } });
    const line = lineWith({ items: cold.items, tests: [...tests, ...cold.tests], load: { discharged: moment(95) } });
    const all = findingsOf(line);
    expect(new Set(all.map((f) => `${f.finding} ${f.subjectId} ${f.part}`)).size).toBe(all.length);
    const order = FINDINGS.map((f) => f.id);
    expect(all.map((f) => order.indexOf(f.finding))).toEqual([...all.map((f) => order.indexOf(f.finding))].sort((a, b) => a - b));
    for (const f of all)
      for (const { says, next } of f.states)
        for (const sentence of [says, ...next]) {
          expect(sentence).toMatch(/^[A-Zw0-9].*\.$/s);
          expect(sentence).not.toMatch(/undefined|null|NaN|\bI\b| {2}/);
        }
  });

  it('of what was taken back there is none', () => {
    const gone = lineWith({ ...setOf('D-1', { 28: ['200', '204', '203'] }) });
    expect(findingsOf({ ...gone, items: gone.items.map((i) => (i.kind === 'load' ? { ...i, voided: true } : i)) })).toEqual([]);
  });
});

describe('what hangs on more than the concrete', () => {
  const wrong = { name: 'Meter 2', at: '2026-05-14', why: 'it leaked' };
  const withMeter = (t: ReturnType<typeof tested>, inQuestion: boolean) => ({
    ...t,
    kit: [{ id: 'k2', kind: 'air-meter' as const, name: 'Meter 2', calibratedOn: '2026-04-01' }],
    outcome: {
      ...t.outcome!,
      validity: inQuestion ? { state: 'marked' as const, reasons: [{ code: 'found-wrong' as const, params: wrong }] } : t.outcome!.validity,
    },
  });
  const air = (id: string, minutes: number) => tested(id, 'pressure-air', { gauge: '6.0 %' }, { minutes });

  it('an instrument found wrong puts its tests in question until they are made again with another, or somebody says they count', () => {
    const line = lineWith({ tests: [withMeter(air('a', 20), true)] });
    const f = of(line, 'instrument')!;
    expect([f.subjectId, f.part, f.states[0].grade, f.acceptance, f.choices]).toEqual([
      'sample',
      'k2',
      'asks',
      'waits',
      ['counts', 'counts-not', 'again'],
    ]);
    expect(f.states[0].says).toBe('In question: Air, pressure. Meter 2 was found wrong on 2026-05-14: it leaked.');
    const again = of(lineWith({ tests: [withMeter(air('a', 20), true), air('b', 30)] }), 'instrument')!;
    expect([again.states[0].grade, again.acceptance]).toEqual(['fine', null]);
    const word = decision({ finding: 'instrument', subjectId: 'sample', part: 'k2' });
    expect(of({ ...line, decisions: [word] }, 'instrument')!.acceptance).toBe('counts');
    expect(of(lineWith({ tests: [withMeter(air('a', 20), false)] }), 'instrument')).toBeUndefined();
    // Of a specimen the strength test of its set asks, not each of three.
    const set = setOf('D-1', { 28: ['300'] });
    const broken = { ...withMeter(set.tests[0]!, true), kit: [] };
    expect(of(lineWith({ items: set.items, tests: [broken] }), 'instrument')!.choices).toEqual([]);
  });

  it('what was judged by what another took the place of says so, and asks whom to ask', () => {
    const replaced = { was: 'Deck', now: 'Deck, revised', day: '11 May 2026', why: 'air was too narrow.' };
    expect(now(lineWith({ line: { replaced } }), 'replaced')?.says).toBe(
      'Judged by Deck. From 11 May 2026 on, before this was made, Deck, revised holds: air was too narrow.',
    );
    expect(now(lineWith(), 'replaced')).toBeUndefined();
  });

  it('a correction factor from before its gravities is told with the air that it corrected', () => {
    const revision = (correctionOn: string | undefined, found: string) => ({
      revision: {
        correction: '0.4',
        correctionOn,
        ingredients: [{ ...lineWith().revision!.ingredients[2]!, sgTest: { at: `${found}T08:00:00Z` } }],
      },
    });
    const says = (on: string | undefined, found: string, tests = [air('a', 20)]) =>
      now(lineWith({ tests, line: revision(on, found) }), 'correction')?.says;
    expect(says('2026-03-03', '2026-05-02')).toBe(
      'The correction factor of 0.4 % is of 3 Mar 2026; a gravity of its aggregates was found on 2 May 2026.',
    );
    // Both on the days of the project: late in the evening of the west it is the day after in Greenwich.
    const west: Line = {
      ...lineWith({ tests: [air('a', 20)], line: revision('2026-05-01', '2026-05-02') }),
      project: { ...lineWith().project, timezone: 'Pacific/Honolulu' },
    };
    expect(now(west, 'correction')).toBeUndefined();
    expect([says('2026-05-02', '2026-05-02'), says(undefined, '2026-05-02'), says('2026-03-03', '2026-05-02', [])]).toEqual([
      undefined,
      undefined,
      undefined,
    ]);
  });

  const gravity = (text: string): ReturnType<typeof tested> =>
    tested('g', 'coarse-gravity', { dry: `${text} g`, ssd: '3044 g', inWater: '1905 g' }, { itemId: 'fs' });
  it('a gravity that strays from its source waits for a look, and somebody’s word lets it count or not', () => {
    const t = gravity('2999');
    const given = (id: string) => Number(t.outcome!.results.find((r) => r.id === id)!.reported);
    const history = (shift: number): NonNullable<Line['history']>[string] =>
      Object.fromEntries(
        [
          ['sg-od', given('od') + shift],
          ['sg-apparent', given('apparent') + shift],
          ['absorption', given('absorption')],
        ].map(([property, mean]): [string, { sample: string; reported: string }[]] => [
          String(property),
          [1, 2, 3, 4, 5, 6].map((n) => ({ sample: `S-${n}`, reported: String(Number(mean) + (n % 2 ? 0.002 : -0.002)) })),
        ]),
      );
    const line = (shift: number, more: Partial<Line> = {}): Line =>
      lineWith({
        line: {
          above: [item('source', 'src', null, {})],
          items: [item('field-sample', 'fs', 'src', {})],
          tests: [t],
          history: { g: history(shift) },
          ...more,
        },
      });
    expect(of(line(0), 'source-strays')).toBeUndefined();
    const f = of(line(0.06), 'source-strays')!;
    expect([f.states[0].grade, f.acceptance, f.stoodOn]).toEqual(['asks', 'waits', ['g']]);
    expect(f.states[0].says).toMatch(
      /^Not what its source has given: specific gravity \(dry\) \S+, where \S+ is usual; apparent .* It waits for a look/,
    );
    const word = (decided: Decision['decided']) => decision({ finding: 'source-strays', subjectId: 'fs', part: 'coarse-gravity', decided });
    expect(
      (['counts', 'counts-not', 'again'] as const).map((d) => of(line(0.06, { decisions: [word(d)] }), 'source-strays')!.acceptance),
    ).toEqual(['counts', 'excluded', 'waits']);
    // Tested twice it is one finding, of the newest; the one before it waits as well.
    const twice = line(0.06, { tests: [t, { ...t, id: 'h' }], history: { g: history(0.06), h: history(0.06) } });
    expect(
      findingsOf(twice)
        .filter((f) => f.finding === 'source-strays')
        .map((f) => f.stoodOn),
    ).toEqual([['g', 'h']]);
    expect(of(line(0.06, { takenOver: { g: 'own' } }), 'source-strays')!.states[0].grade).toBe('watch');
  });

  it('a mix is accepted at each age by its newest tests, by the school that decides', () => {
    const mpa = (...texts: string[]) => texts.map((text) => ({ text, unit: 'MPa' as const }));
    const at = (tests: readonly { text: string; unit: 'MPa' }[], more: object = {}) => {
      const series = [{ property: 'strength', ageDays: 28, tests, earlier: 0, waiting: 0, specifications: LIMITS, ...more }];
      const line: Line = { ...lineWith(), above: [], items: [], tests: [], revision: null, mix: { id: 'mix', series } };
      const all = findingsOf(line);
      expect(all.every((f) => f.finding === 'mix-acceptance' && f.subjectId === 'mix')).toBeTrue();
      return all[0]?.states[0];
    };
    expect(at(mpa('36.1', '38.0'), { waiting: 1 })?.says).toBe(
      'At 28 days: 2 of the 3 strength tests that ACI 318 needs. One more waits for a decision.',
    );
    expect(at(mpa('36.1', '38.0', '37.2'))?.says).toBe(
      'At 28 days, accepted by ACI 318 by its newest tests: lowest mean of three 37.1 MPa (at least 32.0), lowest single test 36.1 MPa (at least 28.5).',
    );
    expect(at(mpa('30.0', '31.0', '31.0'))?.grade).toBe('out');
    const is = LIMITS.map((s) => ({ ...s, school: 'is' as const }));
    expect(at(mpa('36.1', '38.0', '37.2'), { specifications: is })?.grade).toBe('open');
    expect(at(mpa('36.1', '38.0', '37.2'), { ageDays: 56 })).toBeUndefined();
  });
});

describe('a set of prisms', () => {
  const HOUR = 60;
  const bars = { gauge: '250 mm', initialBar: '1.200 mm', bar: '1.200 mm' };
  const read = (id: string, minutes: number, now: string) =>
    tested(
      id,
      'length-change',
      { ...bars, prisms: ['3.412', '3.055'].map((initial) => ({ initial: `${initial} mm`, now: `${Number(initial) - Number(now)} mm` })) },
      { itemId: 'L-1', minutes },
    );
  const prisms = (facts: object, tests: Line['tests'], limits = LIMITS) =>
    lineWith({ items: [item('prism-set', 'L-1', 'sample', { castAt: moment(0), ...facts })], tests, limits });

  it('is void when it was first read off its hour, by what it says or by its first test', () => {
    const first = (hours: number) => now(prisms({}, [read('a', hours * HOUR, '0')]), 'initial-reading', 99 * DAY);
    expect([first(23.5)?.grade, first(24.5)?.says]).toEqual(['fine', 'Read for the first time after 24 h 30 min.']);
    expect([first(25)?.grade, first(25)?.says]).toEqual([
      'void',
      'The prisms were read for the first time after 25 h; it belongs at 24 h ± 30 min. The set is void.',
    ]);
    expect(of(prisms({ initialAt: moment(25 * HOUR) }, [read('a', 24 * HOUR, '0')]), 'initial-reading')?.acceptance).toBe('excluded');
    // A reading after weeks is no initial reading: nobody knows when that was.
    expect(first(20 * 24)).toBeUndefined();
    const late = now(prisms({ demolded: moment(24.5 * HOUR) }, []), 'initial-reading');
    expect([late?.grade, late?.says]).toEqual(['watch', 'The prisms were demolded after 24 h 30 min; it belongs at 23.5 h ± 30 min.']);
  });

  it('meets a limit at the age at which it holds, and no other reading is judged by it', () => {
    const limit = { id: 'p', property: 'length-change', unit: '%', lower: '-0.040', atDays: 28, source: '2.8' } as const;
    const limits: Line['specifications'] = [{ id: 's', name: 'Deck', comparison: 'reported', limits: [limit] }];
    const at = (days: number, shrunk: string, asked = limits) =>
      now(prisms({}, [read('a', days * DAY, shrunk)], asked), 'length-limit', 40 * DAY);
    expect([at(28.9, '0.10')?.grade, at(28.9, '0.10')?.says]).toEqual(['fine', 'At 28 days: -0.040 %; at least -0.040 % at 28 d.']);
    expect([at(28, '0.12')?.grade, at(28, '0.12')?.says]).toEqual([
      'out',
      'At 28 days: -0.048 %; at least -0.040 % at 28 d: 0.008 points below the lower limit.',
    ]);
    expect(at(56, '0.12')?.next).toEqual(['Read it now, and ask whoever wrote the limit.']);
    const young = now(prisms({}, [], limits), 'length-limit', 5 * DAY);
    expect([young?.grade, isTold(young!)]).toEqual(['open', false]);
    const drying = [{ ...limits[0]!, limits: [{ ...limit, property: 'length-change-from-drying' }] }];
    expect(of(prisms({}, [], drying), 'length-limit')).toBeUndefined();
    expect(of(prisms({ drying: moment(28 * DAY) }, [], drying), 'length-limit')).toBeDefined();
    const m = methodById('length-change')!;
    const states = (asked: Line['specifications']) =>
      judgeAll(m, read('a', 7 * DAY, '0.12').outcome as Evaluation, asked)[0]!.verdicts.map((v) => v.state);
    expect(states(limits)).not.toContain('out');
    expect(states([{ ...limits[0]!, limits: [{ ...limit, atDays: undefined }] }])).toContain('out');
  });
});
