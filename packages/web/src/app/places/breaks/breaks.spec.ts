import { Component, provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { BreakBeside, BreakDue, BreaksView, FindingView, MixSeries } from '@keen-mortar/contract';
import { leftOutWords, seriesView, shiftCauseWords, type Evaluation } from '@keen-mortar/core';
import { headline, schoolsOf, seriesOf } from '../mixes/series/series.view';
import { brokenHow, inOrder, namedBy, nextOf, nextPads, notNow, voidWords } from './breaks.view';
import { hearScanner } from './scanner';

const HOUR = 3_600_000;
const NOW = Date.parse('2026-11-12T09:52:00Z');
const at = (hours: number): string => new Date(NOW + hours * HOUR).toISOString();
const due = (code: string, opens: number, ends: number, ids: string[]): BreakDue => ({
  setId: code,
  setCode: code,
  where: '',
  mix: null,
  ageDays: 28,
  window: '28 d ± 20 h',
  opensAt: at(opens),
  endsAt: at(ends),
  cured: 'standard',
  shape: 'cylinder',
  of: ids.length,
  specimens: ids.map((id) => ({ id, code: `${code}-${id.slice(-1).toUpperCase()}` })),
  plannedAt: null,
  who: null,
  fit: null,
});
const view = (...queue: BreakDue[]): BreaksView => ({ now: at(0), timezone: 'UTC', queue, today: [], places: [], more: false });

describe('the break station', () => {
  const queue = view(due('D-1', -30, -1, ['1a']), due('D-2', -3, 2, ['2a', '2b']), due('D-3', -9, 6, ['3a']), due('D-4', 5, 9, ['4a']));
  const lines = (...gone: string[]) => inOrder(queue, NOW, new Set(gone));

  it('what may be broken now comes first by its end, then what is past, then what is to come', () => {
    expect(lines().map((w) => [w.due.setCode, w.left, w.until])).toEqual([
      ['D-2', '2 h 00', 'ends 11:52'],
      ['D-3', '6 h 00', 'ends 15:52'],
      ['D-1', 'past', 'ends 08:52'],
      ['D-4', 'in 5 h 00', 'from 14:52'],
    ]);
    expect([nextOf(lines('2a'), '2a'), nextOf(lines('2a', '2b'), '2b'), nextOf(lines(), null), nextOf([], null)]).toEqual([
      '2b',
      '3a',
      '2a',
      null,
    ]);
  });

  it('a specimen that is not due is told of before it is broken, with those of its set that are', () => {
    const companion = (id: string, ageDays: number | null, became: string | null = null) => ({
      id,
      code: `D-2-${id.slice(-1).toUpperCase()}`,
      ageDays,
      became,
      broken: null,
    });
    const beside = {
      set: { id: 'D-2', code: 'D-2' },
      companions: [companion('2a', 28), companion('2b', 28), companion('2c', null), companion('2d', 56), companion('2e', 28, 'lost')],
    } as unknown as BreakBeside;
    const told = (id: string) => notNow(lines(), beside, id);
    expect([told('2a'), told('2c').slice(0, 17), told('2d').slice(0, 34), told('2e').slice(0, 18)]).toEqual([
      '',
      'D-2-C is a spare:',
      'D-2-D is not due: it is for 56 day',
      'D-2-E was noted as',
    ]);
    expect(told('2c')).toContain('Of this set are due now: D-2-A, D-2-B.');
    const of = (id: string, set: string) =>
      notNow(lines(), { set: { id: set, code: set }, companions: [companion(id, 28)] } as unknown as BreakBeside, id);
    expect([of('1a', 'D-1').slice(0, 9), of('4a', 'D-4').slice(0, 10)]).toEqual(['Too late:', 'Too early:']);
  });

  it('goes on as the companions of its age were broken, those of this device first', () => {
    const companion = (id: string, ageDays: number, method: string | null, when = 0) => ({
      id,
      ageDays,
      broken: method && { method, at: at(when) },
    });
    const beside = {
      companions: [
        companion('a', 28, 'cylinder', -3),
        companion('b', 28, 'splitting', -2),
        companion('c', 28, null),
        companion('d', 56, null),
      ],
    } as unknown as BreakBeside;
    expect([
      brokenHow(beside, 'c', null),
      brokenHow(beside, 'c', { id: 'a', method: 'cylinder' }),
      brokenHow(beside, 'c', { id: 'of another set', method: 'cube' }),
      brokenHow(beside, 'd', null),
    ]).toEqual(['splitting', 'cylinder', 'splitting', null]);
  });

  it('a void one is not to be loaded; once it has broken that is said no more', () => {
    const e = {
      validity: { state: 'void', reasons: [{ code: 'broke-outside', params: { by: '6', most: '5' } }] },
    } as unknown as Evaluation;
    expect([voidWords(e, false).slice(0, 15), voidWords(e, true).slice(0, 11)]).toEqual(['Do not load it.', 'It is void.']);
    expect(voidWords({ validity: { state: 'marked', reasons: [] } }, true)).toBe('');
  });

  it('labels name a specimen by its code or its id, and nothing else does', () => {
    const id = '8d2f7c1e-0000-4000-8000-00000000abcd';
    expect(['d-12-b', 'D 12 B', 'D-K7-AA', `http://lab/record/${id.toUpperCase()}`, '101.5', 'D-12', ''].map(namedBy)).toEqual([
      { code: 'D-12-B' },
      { code: 'D-12-B' },
      { code: 'D-K7-AA' },
      { id },
      null,
      null,
      null,
    ]);
    expect([nextPads(['Pads 1, hardness 60', 'Pads 9', 'Old pads']), nextPads([])]).toEqual(['Pads 10', 'Pads 1']);
  });

  it('a scanner is heard over a reading and what it typed is taken out; a hand is not', () => {
    const heard: string[] = [];
    @Component({ template: '<input />' })
    class Host {
      constructor() {
        hearScanner((text) => heard.push(text));
      }
    }
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    const fixture = TestBed.createComponent(Host);
    const box = (fixture.nativeElement as HTMLElement).querySelector('input')!;
    document.body.append(fixture.nativeElement as Node);
    let clock = 1000;
    const key = (name: string, after: number): void => {
      const event = new KeyboardEvent('keydown', { key: name, bubbles: true, cancelable: true });
      Object.defineProperty(event, 'timeStamp', { value: (clock += after) });
      if (box.dispatchEvent(event) && name.length === 1) box.value += name;
    };
    for (const letter of '101.5') key(letter, 120);
    key('Enter', 150);
    for (const [i, letter] of [...'D-12-B'].entries()) key(letter, i === 0 ? 300 : 4);
    key('Enter', 4);
    for (const letter of 'D-12-C') key(letter, 90);
    key('Enter', 90);
    expect([heard, box.value]).toEqual([['D-12-B'], '101.5D-12-C']);
    (fixture.nativeElement as HTMLElement).remove();
  });
});

describe('a series in words', () => {
  const texts = '38.1 39.2 37.0 38.5 39.9 36.8 37.9 38.8 40.1 37.2 35.4 34.3 34.9 35.8 34.6'.split(' ');
  const tests = texts.map((text, i) => ({
    setId: String(i),
    code: `D-${i}`,
    castAt: new Date(Date.UTC(2026, 8, 1 + 3 * i)).toISOString(),
    strength: { text, unit: 'MPa' as const },
    companions: [],
    range: null,
    apart: false,
    notFor: null,
    traits: [],
  }));
  const found = (grade: FindingView['grade']): FindingView => ({
    ...{ finding: 'mix-acceptance', title: 'Acceptance of the mix', subjectId: 'm', part: 'strength@28', grade, says: '' },
    ...{ next: [], evidence: [], acceptance: null, choices: [], cannot: [], decision: null },
  });
  const series = (more: Partial<MixSeries> = {}): MixSeries => ({
    mix: { id: 'm', code: 'D-32A', name: 'Deck mix' },
    project: { timezone: 'UTC', system: 'si', practice: 'us-astm' },
    accepted: { specified: { text: '32', unit: 'MPa' }, ageDays: 28, school: 'aci' },
    tests,
    total: tests.length,
    ages: [28],
    earlier: 0,
    findings: [found('fine')],
    traits: [],
    waiting: [],
    pairs: [],
    field: [],
    ...more,
  });
  const of = (s: MixSeries) => seriesView(s.tests, seriesOf(s, s.earlier));

  it('says whether it passes and since when it is another, by the school of the contract', () => {
    expect(headline(series(), of(series()))).toBe('Deck mix passes, but it is 3.4 MPa lower since 1 Oct');
    const steady = series({ tests: tests.slice(0, 8) });
    expect(headline(steady, of(steady))).toBe('Deck mix passes');
    const low = series({ tests: steady.tests, findings: [found('out')] });
    expect(headline(low, of(low))).toBe('Deck mix does not pass');
    const open = series({ accepted: { specified: null, ageDays: 28, school: 'aci' } });
    expect(headline(open, of(open))).toContain('no specified strength to judge them by');
    const none = series({ tests: [] });
    expect(headline(none, of(none))).toBe('Deck mix has no strength test yet');
    const en = series({ accepted: { ...series().accepted, school: 'en' } });
    expect(schoolsOf(en, of(en)).map((s) => [s.id, s.decides])).toEqual([
      ['en', true],
      ['aci', false],
      ['is', false],
    ]);
    const odd = series({ tests: [...tests, { ...tests[0]!, notFor: 'off-age' }] });
    expect([leftOutWords(series().tests), leftOutWords(odd.tests)]).toEqual([
      '',
      '1 test is not in it: broken outside its window, and nobody has decided that it counts.',
    ]);
    const cause = {
      trait: { id: 's', kind: 'source', label: 'Sand' },
      when: 1,
      size: 1,
      which: 1,
      after: 5,
      ofAfter: 5,
      before: 0,
      ofBefore: 10,
      explains: -3.4,
    } as const;
    expect(shiftCauseWords(cause, of(series()))).toBe('In 5 of 5 tests after, in none of 10 before. About 3.4 MPa of it.');
  });
});
