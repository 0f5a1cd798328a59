import { provideZonelessChangeDetection, type Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { FindingView, Sample } from '@keen-mortar/contract';
import type { ResultValue } from '@keen-mortar/core';
import { provideState, provideStore, Store } from '@ngrx/store';
import { EMPTY } from 'rxjs';
import { Api } from '../../../api/api';
import { Attention } from '../../../device/attention';
import { hand } from '../../../state/hand';
import { session, SessionActions } from '../../../state/session';
import { keptTest, later, OTHER, PERSON, project, sample } from '../../../testing/sample';
import { provideRouter } from '@angular/router';
import { Sheet } from './sheet';
import { sheet, SheetActions } from './sheet.state';
import { findingsOfSheet } from './line';
import { rowInHand, rows } from './sheet.view';
import { TestInHand } from './test-in-hand';
import { TestList } from './test-list';
import { TestSide } from './test-side';
import { WaterGauge } from './water-gauge';

const slump = (centre: string, more = {}) =>
  keptTest('slump', { shape: ['true', null], mold: ['300', 'mm'], centre: [centre, 'mm'] }, more);
const point = (reported: string, state: string, load: number) => ({
  sample: `Q-${load}`,
  load,
  reported,
  unit: 'mm' as const,
  state,
  at: later(0),
});

describe('beside the test in hand', () => {
  let store: Store;
  let fixture: ComponentFixture<unknown>;
  let host: HTMLElement;
  const alerts: string[] = [];

  beforeEach(() => {
    alerts.length = 0;
    const attention = { alert: (kind: string) => alerts.push(kind), stayAwake: () => Promise.resolve() };
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideRouter([]),
        provideStore({ [session.name]: session.reducer, [hand.name]: hand.reducer }),
        provideState(sheet),
        { provide: Attention, useValue: attention },
        { provide: Api, useValue: { instruments: () => EMPTY } },
      ],
    });
    store = TestBed.inject<Store>(Store);
    store.dispatch(SessionActions.loaded({ people: [PERSON, OTHER], projects: [project], offset: 0 }));
    store.dispatch(SessionActions.personChosen({ personId: PERSON.id }));
  });

  function open(of: Sample, key?: string): void {
    store.dispatch(SheetActions.opened({ sampleId: of.id }));
    store.dispatch(SheetActions.loaded({ sample: of, fromDevice: false }));
    if (key !== undefined) store.dispatch(SheetActions.rowChosen({ key }));
  }

  async function show<T>(component: Type<T>, inputs: Record<string, unknown>): Promise<void> {
    fixture = TestBed.createComponent(component);
    for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
    host = fixture.nativeElement as HTMLElement;
    await fixture.whenStable();
  }

  const lines = () =>
    [...host.querySelectorAll('.st')].map((line) =>
      [...line.querySelectorAll('.long, small')]
        .map((part) => part.textContent?.trim())
        .filter(Boolean)
        .join(' '),
    );

  it('the list shows tests in working order, what each says and what is missing', async () => {
    const tests = [slump('204'), keptTest('pressure-air', { gauge: ['6.4', '%'] }, { equipmentId: 'old' })];
    open({ ...sample, tests });
    await show(TestList, {
      rows: store.selectSignal(rows)(),
      inHand: 'test-slump',
      sample: { ...sample, tests },
      keying: { 'new:temperature': 'Merrin Sallow' },
    });
    expect(lines()).toEqual([
      'Temperature Temperature is missing being keyed by Merrin Sallow',
      'Slump 95 mm 75–125',
      'Density and yield Measure full is missing',
      'Air, pressure 6.0 % with a remark',
    ]);
    expect(host.querySelector('[aria-current="step"]')?.getAttribute('data-method')).toBe('slump');
  });

  it('a failed pair and a repeated void say so in the list', async () => {
    const pair = [slump('140'), slump('138', { id: 'again', retestOf: 'test-slump', startedAt: later(600) })];
    open({ ...sample, tests: pair });
    await show(TestList, { rows: store.selectSignal(rows)(), inHand: '', sample });
    expect(lines().slice(1, 3)).toEqual(['Slump 160 mm 75–125', 'Slump, check test 160 mm the load fails']);
    const sheared = keptTest('slump', { shape: ['shear', null], mold: ['300', 'mm'], centre: ['140', 'mm'] });
    open({ ...sample, tests: [sheared, slump('204', { id: 'again', retestOf: 'test-slump', startedAt: later(600) })] });
    await show(TestList, { rows: store.selectSignal(rows)(), inHand: '', sample });
    expect(lines()[1]).toBe('Slump void, repeated');
  });

  it('draws the way of a run: what was made, what is asked for, and what its outcomes would mean', async () => {
    const way = async (tests: Sample['tests'], key: string) => {
      open({ ...sample, tests }, key);
      await show(TestInHand, { row: store.selectSignal(rowInHand)(), sample: { ...sample, tests }, now: Date.parse(later(0)) });
      return [...host.querySelectorAll('km-path li')].map((li) => li.textContent?.replace(/\s+/g, ' ').trim());
    };
    const [made, now, fork] = await way([slump('140')], 'test-slump');
    expect([made, now]).toEqual([jasmine.stringMatching(/^160 mm \d\d:\d\d$/) as never, 'check now another portion, same sample']);
    expect(fork).toContain('both out: the load fails');
    const pair = [slump('140'), slump('138', { id: 'again', retestOf: 'test-slump', startedAt: later(600) })];
    expect((await way(pair, 'again')).at(-1)).toBe('First and check test are both out: the load fails this requirement.');
    // A test that is inside has no way to go.
    expect(await way([slump('204')], 'test-slump')).toEqual([]);
  });

  it('draws the water in a load, what may be added, and where the w/cm ends', async () => {
    const of = (id: string, reported: string | null) => ({ id, label: id, unit: 'L', state: 'given', reported }) as unknown as ResultValue;
    const gauge = async (...results: ResultValue[]) => {
      await show(WaterGauge, { evaluation: { results } });
      const [add] = host.querySelectorAll<HTMLElement>('.add');
      return [host.textContent?.replace(/\s+/g, ' ').trim(), Number.parseFloat(add?.style.width ?? '0')] as const;
    };
    const [text, room] = await gauge(of('stands', '960'), of('ceiling', '1077'), of('amount', '117'));
    expect(text).toBe('960 L in the load + 117 L most 1077 L');
    expect(room).toBeGreaterThan(20);
    expect((await gauge(of('stands', '960'), of('ceiling', '1077')))[1]).toBe(0);
    expect((await gauge(of('stands', null)))[0]).toBe('');
  });

  it('draws what was usual for the mix, only where there is enough to see', async () => {
    const history = { slump: [point('95', 'within', 1), point('160', 'out', 2), point('105', 'edge', 3)] };
    open({ ...sample, history }, 'new:slump');
    const inHand = () => ({ row: store.selectSignal(rowInHand)(), sample: { ...sample, history }, now: Date.parse(later(430)) });
    await show(TestInHand, inHand());
    expect(host.querySelector('km-history')?.textContent).toContain('95, 160, 105');
    expect(host.querySelectorAll('km-history circle').length).toBe(2);
    store.dispatch(SheetActions.rowChosen({ key: 'new:temperature' }));
    await show(TestInHand, inHand());
    expect(host.querySelector('km-history')).toBeNull();
  });

  it('the side shows working, other variants, cautions first, and which edition', async () => {
    const tests = [slump('204')];
    open({ ...sample, tests }, 'test-slump');
    await show(TestSide, {
      row: store.selectSignal(rowInHand)(),
      rows: store.selectSignal(rows)(),
      sample: { ...sample, tests },
      now: Date.parse(later(0)),
    });
    expect(host.querySelector('km-working')?.textContent?.replace(/\s+/g, ' ')).toContain('slump = H − h = 300 − 204 = 96 mm');
    expect(host.querySelector('.figures')?.textContent).toContain('needs slump, measured');
    expect(host.querySelector('ol:last-of-type li')?.className).toContain('caution');
    expect(host.textContent).toContain('ASTM C143/C143M, edition 2020');
    expect(host.textContent).toContain('Supports, never replaces');
  });

  it('two airs that disagree are seen without being asked, with their likely causes', async () => {
    const weighing = keptTest('yield', { full: ['19.31', 'kg'], empty: ['3.21', 'kg'] });
    const air = keptTest('pressure-air', { gauge: ['7.9', '%'] }, { equipmentId: 'old' });
    const { evaluation } = weighing.kept!;
    const results = evaluation.results.map((r) => (r.id === 'air' ? { ...r, state: 'given' as const, exact: '5/1' } : r));
    const tests = [{ ...weighing, kept: { ...weighing.kept!, evaluation: { ...evaluation, results } } }, air];
    open({ ...sample, tests }, air.id);
    const found = findingsOfSheet({ ...sample, tests }, store.selectSignal(rows)());
    expect(found.filter((f) => f.finding === 'cross-check').map((f) => f.part)).toEqual(['airs-disagree']);
    await show(TestSide, {
      row: store.selectSignal(rowInHand)(),
      rows: store.selectSignal(rows)(),
      sample: { ...sample, tests },
      now: Date.parse(later(0)),
    });
    expect(host.querySelector('[data-testid="seen"]')?.textContent).toContain('2.5 points apart');
    // Each likely cause stands with it.
    expect(host.querySelector('[data-testid="seen"]')?.textContent).toMatch(
      /correction factor is missing.*meter may leak.*air-free density/,
    );
    // What hangs on more than the sheet knows is as the record has it.
    const replaced: FindingView = {
      ...{ finding: 'replaced', title: 'Specification replaced', subjectId: sample.load.id, part: '', grade: 'watch' },
      ...{ says: 'Judged by Deck.', next: ['Ask.'], evidence: [], acceptance: null, choices: [], cannot: [], decision: null },
    };
    await show(TestSide, {
      row: store.selectSignal(rowInHand)(),
      rows: store.selectSignal(rows)(),
      sample: { ...sample, tests, findings: [replaced] },
      now: Date.parse(later(0)),
    });
    expect(host.querySelector('[data-testid="load"]')?.textContent).toContain('Judged by Deck.');
  });

  it('the sheet keeps the clocks: they burn before the server answers, and end with the event', async () => {
    const fresh = { ...sample, events: sample.events.slice(0, 1), createdAt: new Date().toISOString() };
    const now = { ...fresh, events: [{ ...fresh.events[0]!, at: new Date().toISOString() }] };
    open(now);
    await show(Sheet, { sampleId: sample.id });
    store.dispatch(SheetActions.loaded({ sample: now, fromDevice: false }));
    await fixture.whenStable();
    const fuse = (id: string) => host.querySelector(`[data-fuse="${id}"]`)?.getAttribute('data-state') ?? null;
    expect([fuse('portions'), fuse('molding')]).toEqual(['burning', null]);
    const press = async (text: string) => {
      [...host.querySelectorAll('button')].find((b) => b.textContent?.includes(text))!.click();
      await fixture.whenStable();
    };
    await press('Another portion');
    await press('Combined and turned');
    expect([fuse('portions'), fuse('molding')]).toEqual(['done', 'burning']);
    const commands = () => store.selectSignal(sheet.selectCommands)();
    expect(commands().map((c) => c.body['kind'])).toEqual(['portion', 'finished']);
    await press('Molding started');
    expect(fuse('molding')).toBe('done');
  });

  it('what was told with one tap is held back: undone, told as earlier, and let go with the next keep', async () => {
    const fresh = { ...sample, events: [{ ...sample.events[0]!, at: new Date().toISOString() }] };
    open(fresh);
    await show(Sheet, { sampleId: sample.id });
    store.dispatch(SheetActions.loaded({ sample: fresh, fromDevice: false }));
    await fixture.whenStable();
    const commands = () => store.selectSignal(sheet.selectCommands)();
    const press = async (text: string, within: ParentNode = host) => {
      [...within.querySelectorAll('button')].find((b) => b.textContent?.includes(text))!.click();
      await fixture.whenStable();
    };
    const held = (says: string) => [...host.querySelectorAll('.one[role="status"]')].find((e) => e.textContent?.includes(says))!;
    await press('Another portion');
    // One portion is not two because a thumb slipped twice.
    const again = [...host.querySelectorAll('button')].find((b) => b.textContent?.includes('Another portion'))!;
    expect(again.disabled).toBeTrue();
    await press('Combined and turned');
    const told = Date.parse(commands()[1]!.body['at'] as string);
    await press('5 min earlier', held('Combined and turned'));
    expect(Date.parse(commands()[1]!.body['at'] as string)).toBe(told - 300_000);
    await press('Undo', held('Combined and turned'));
    expect(commands().map((c) => c.body['kind'])).toEqual(['portion']);
    expect(commands()[0]!.heldUntil).toBeGreaterThan(Date.now());
    expect(host.querySelector('[data-testid="waiting"]')).toBeNull();
    store.dispatch(SheetActions.queued({ commands: [], keeping: 'none' }));
    expect(commands()[0]!.heldUntil).toBeUndefined();
  });

  it('of a void composite nothing is molded, and no clock but the truck’s goes on', async () => {
    const ago = (minutes: number) => new Date(Date.now() - minutes * 60_000).toISOString();
    const taken = (portions: { at: string }[]): Sample => ({
      ...sample,
      load: { ...sample.load, batchedAt: ago(30) },
      events: [
        ...portions.map(({ at }, i) => ({ id: `e${i}`, kind: 'portion' as const, at, part: 'middle' })),
        { id: 'f', kind: 'finished', at: ago(3), part: null },
      ],
      line: sample.line.map((i) => (i.id === 'sample' ? { ...i, facts: { portions, finished: ago(3) } } : i)),
    });
    const shown = async (of: Sample) => {
      open(of);
      await show(Sheet, { sampleId: sample.id });
      store.dispatch(SheetActions.loaded({ sample: of, fromDevice: false }));
      await fixture.whenStable();
      const burning = [...host.querySelectorAll('[data-state="burning"], [data-state="last"]')].map((f) => f.getAttribute('data-fuse'));
      const molds = host.querySelector('[data-testid="mold"]') !== null;
      fixture.destroy();
      return [burning, molds];
    };
    expect(await shown(taken([{ at: ago(9) }, { at: ago(4) }]))).toEqual([jasmine.arrayContaining(['molding', 'truck']), true]);
    expect(await shown(taken([{ at: ago(20) }, { at: ago(4) }]))).toEqual([['truck'], false]);
  });

  it('a fuse near its end is heard once', async () => {
    const ago = (minutes: number) => new Date(Date.now() - minutes * 60_000).toISOString();
    const events = [
      { id: 'e1', kind: 'portion' as const, at: ago(12), part: 'middle', by: PERSON.id },
      { id: 'e2', kind: 'portion' as const, at: ago(4), part: 'middle', by: PERSON.id },
      { id: 'e3', kind: 'finished' as const, at: ago(3), part: null, by: PERSON.id },
    ];
    const burning = { ...sample, events, load: { ...sample.load, batchedAt: ago(20) } };
    open(burning);
    await show(Sheet, { sampleId: sample.id });
    store.dispatch(SheetActions.loaded({ sample: burning, fromDevice: false }));
    await fixture.whenStable();
    await new Promise((resolve) => setTimeout(resolve, 1300));
    await fixture.whenStable();
    // Temperature and the tests are due within a minute: two alerts, not one each tick.
    expect(alerts).toEqual(['soon', 'soon']);
    fixture.destroy();
  });

  it('tells a digit that the server reports otherwise, until it was seen', async () => {
    open(sample);
    await show(Sheet, { sampleId: sample.id });
    store.dispatch(SheetActions.loaded({ sample, fromDevice: false }));
    const test = slump('204');
    const command = {
      id: 'k',
      order: 1,
      itemId: sample.id,
      opens: '',
      kind: 'keep' as const,
      path: '',
      body: { id: 'k' },
      testId: test.id,
    };
    store.dispatch(SheetActions.sent({ command, answer: { test, differs: [{ result: 'slump', shown: '100', kept: '95' }] } }));
    await fixture.whenStable();
    expect(host.querySelector('[role="alert"]')?.textContent).toContain('The page had shown 100 for slump; the record holds 95.');
    host.querySelector<HTMLElement>('[role="alert"] button')!.click();
    await fixture.whenStable();
    expect(host.querySelector('[role="alert"]')).toBeNull();
  });
});
