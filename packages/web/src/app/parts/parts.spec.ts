import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { Fuse, ResultValue, Verdict } from '@keen-mortar/core';
import { fieldAt, methodById } from '@keen-mortar/core';
import { FuseBar } from '../ui/fuse';
import { afterKey } from '../ui/keypad';
import { Faults } from '../test/faults';
import type { TestForm } from '../test/form/test-form';
import { ReadingField } from '../test/reading-field';
import { scaleFor, SpecBand } from '../test/spec-band';
import { VerdictShape } from '../ui/verdict-shape';
import { longDay, today, zonedTime } from './when';

const result: ResultValue = {
  id: 'slump',
  label: 'Slump',
  symbol: 's',
  unit: 'mm',
  state: 'given',
  exact: '96/1',
  unrounded: '96',
  reported: '95',
  increments: { mm: '5' },
};
const verdict: Verdict = {
  state: 'within',
  validity: 'valid',
  result: 'slump',
  limit: 'l',
  unit: 'mm',
  comparison: 'rounded',
  lower: '75',
  upper: '125',
  compared: '95',
  side: 'lower',
  margin: '20',
  sigma: '9',
};

describe('parts', () => {
  beforeEach(() => TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] }));

  it('spec band says value, word and margin, and draws fringe and pin', async () => {
    const f = TestBed.createComponent(SpecBand);
    f.componentRef.setInput('verdict', verdict);
    f.componentRef.setInput('result', result);
    await f.whenStable();
    const host = f.nativeElement as HTMLElement;
    expect(host.textContent).toContain('95 mm');
    expect(host.textContent).toContain('within, 20 mm above the lower limit');
    // Two ends of a line, four ticks at each end, one pin.
    expect(host.querySelectorAll('svg path').length).toBe(2 + 8 + 1);
    expect([...host.querySelectorAll('.limits span')].map((s) => s.textContent)).toEqual(['75', '125', 'mm']);
  });

  it('spec band keeps both limits and the value on the scale', () => {
    const far = scaleFor(75, 125, 160);
    expect(far.from).toBeLessThan(75);
    expect(far.to).toBeGreaterThan(160);
    expect(scaleFor(null, 90, 20).from).toBeLessThan(20);
    expect(scaleFor(75, 125, 900).to).toBe(325);
    expect(scaleFor(2, 2, 2).to).toBeGreaterThan(2);
  });

  it('a verdict has a shape and a word of its own, and a wedge that points to its side', async () => {
    const seen = new Set<string>();
    for (const state of ['within', 'edge', 'out', 'void', 'open', 'unjudged'] as const) {
      const f = TestBed.createComponent(VerdictShape);
      f.componentRef.setInput('state', state);
      await f.whenStable();
      const svg = (f.nativeElement as HTMLElement).querySelector('svg')!;
      seen.add(`${svg.getAttribute('aria-label')} ${svg.innerHTML.replace(/var\([^)]*\)/g, '')}`);
    }
    expect(seen.size).toBe(6);
    const low = TestBed.createComponent(VerdictShape);
    low.componentRef.setInput('state', 'out');
    low.componentRef.setInput('side', 'lower');
    await low.whenStable();
    expect((low.nativeElement as HTMLElement).querySelector('path')?.getAttribute('d')).toContain('L12 22');
  });

  it('a fuse says the time left', async () => {
    const fuse: Fuse = {
      id: 'f',
      label: 'Air to be started in',
      then: 'marked',
      state: 'last',
      left: 108_000,
      share: 0.36,
      startedAt: 0,
      dueAt: 300_000,
    };
    const f = TestBed.createComponent(FuseBar);
    f.componentRef.setInput('fuse', fuse);
    await f.whenStable();
    expect((f.nativeElement as HTMLElement).querySelector('b')?.textContent).toBe('1:48');
  });

  it('a reading field keeps what was keyed; what is wrong is said below with what was meant', async () => {
    const f = TestBed.createComponent(ReadingField);
    const keyed: unknown[] = [];
    const form = { prefix: 'reading', key: (...what: unknown[]) => keyed.push(what) } as unknown as TestForm;
    const shown = { id: 'centre', field: fieldAt(methodById('slump')!, 'centre'), text: '8.5', unit: 'mm', issues: [{}] };
    f.componentRef.setInput('form', form);
    f.componentRef.setInput('shown', shown);
    await f.whenStable();
    const input = (f.nativeElement as HTMLElement).querySelector('input')!;
    input.value = '8.55';
    input.dispatchEvent(new Event('input'));
    expect(keyed).toEqual([['centre', '8.55', 'mm']]);
    input.value = '8.5';
    expect([input.value, input.getAttribute('aria-invalid'), input.getAttribute('aria-describedby')]).toEqual([
      '8.5',
      'true',
      'reading-centre-why',
    ]);
    // A browser lays a box out by itself where it contains its layout and lies in no flex box or grid; else each key lays out the page.
    const [own, around] = [getComputedStyle(input), getComputedStyle(input.parentElement!)];
    expect([own.contain, own.position, /flex|grid/.test(around.display)]).toEqual(['strict', 'absolute', false]);

    const said = TestBed.createComponent(Faults);
    const issue = {
      code: 'implausible-value',
      severity: 'implausible',
      path: 'centre',
      params: { got: '8.5', gotUnit: 'mm', least: '30', most: '308', unit: 'mm' },
      offer: { text: '8.5', unit: 'in' },
    };
    said.componentRef.setInput('faults', [
      { id: 'centre', inputId: 'reading-centre', label: 'Height', issues: [issue], exchangeWords: '' },
    ]);
    const offers: unknown[] = [];
    said.componentInstance.offered.subscribe((offer) => offers.push(offer));
    await said.whenStable();
    const host = said.nativeElement as HTMLElement;
    expect(host.querySelector('#reading-centre-why')?.textContent).toContain('8.5 mm is unlikely. Usual is between 30 and 308 mm.');
    host.querySelector<HTMLButtonElement>('.offer')!.click();
    expect(offers).toEqual([[{ path: 'centre', text: '8.5', unit: 'in' }]]);
  });

  it('keys do what is on them', () => {
    expect([afterKey('20', '4'), afterKey('204', 'erase'), afterKey('3', ' '), afterKey('3 1', '/'), afterKey('3', 'next')]).toEqual([
      '204',
      '20',
      '3 ',
      '3 1/',
      '3',
    ]);
  });

  it('times stand in the zone of the project', () => {
    expect(zonedTime('2026-11-25T23:30:00Z', 'Etc/GMT-2')).toBe('01:30');
    expect(today('Etc/GMT-2', new Date('2026-11-25T23:30:00Z'))).toBe('2026-11-26');
    expect(longDay('2026-11-25')).toContain('25 Nov 2026');
  });
});
