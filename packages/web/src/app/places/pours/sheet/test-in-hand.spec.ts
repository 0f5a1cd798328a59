import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { Instrument } from '@keen-mortar/contract';
import { provideState, provideStore, Store } from '@ngrx/store';
import { EMPTY, of } from 'rxjs';
import { Api } from '../../../api/api';
import { hand } from '../../../state/hand';
import { session, SessionActions } from '../../../state/session';
import { choiceOf } from '../../../testing/kit';
import { keptTest, later, OTHER, PERSON, project, sample } from '../../../testing/sample';
import { sheet, SheetActions } from './sheet.state';
import { rowInHand } from './sheet.view';
import { TestInHand } from './test-in-hand';

describe('the test in hand', () => {
  let store: Store;
  let fixture: ComponentFixture<TestInHand>;
  let host: HTMLElement;
  let instruments: Instrument[] = [];

  beforeEach(() => {
    instruments = [];
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideStore({ [session.name]: session.reducer, [hand.name]: hand.reducer }),
        provideState(sheet),
        { provide: Api, useValue: { instruments: () => of({ items: instruments }), write: () => EMPTY } },
      ],
    });
    store = TestBed.inject<Store>(Store);
    store.dispatch(SessionActions.loaded({ people: [PERSON, OTHER], projects: [project], offset: 0 }));
    store.dispatch(SessionActions.personChosen({ personId: PERSON.id }));
    store.dispatch(SheetActions.opened({ sampleId: sample.id }));
  });

  /** Shows the row in hand of the sheet, again after each change of the store. */
  async function show(key: string, of = sample): Promise<void> {
    store.dispatch(SheetActions.loaded({ sample: of, fromDevice: false }));
    store.dispatch(SheetActions.rowChosen({ key }));
    fixture = TestBed.createComponent(TestInHand);
    fixture.componentRef.setInput('sample', of);
    fixture.componentRef.setInput('now', Date.parse(later(430)));
    host = fixture.nativeElement as HTMLElement;
    await settle();
  }

  async function settle(): Promise<void> {
    fixture.componentRef.setInput('row', store.selectSignal(rowInHand)());
    await fixture.whenStable();
  }

  async function type(id: string, text: string): Promise<void> {
    const input = host.querySelector<HTMLInputElement>(`#reading-${id}`)!;
    input.value = text;
    input.dispatchEvent(new Event('input'));
    input.dispatchEvent(new Event('blur'));
    await settle();
  }

  async function click(selector: string): Promise<void> {
    host.querySelector<HTMLElement>(selector)!.click();
    await settle();
  }

  const keepButton = () => host.querySelector<HTMLButtonElement>('[data-testid="keep"]')!;
  const drafts = () => Object.values(store.selectSignal(sheet.selectDrafts)());
  const commands = () => store.selectSignal(sheet.selectCommands)();

  it('a figure is painted before it is worked out; keys that follow meanwhile stay, and whoever leaves the box has told it', async () => {
    await show('new:slump');
    const box = host.querySelector<HTMLInputElement>('#reading-centre')!;
    const key = (text: string) => {
      box.value = text;
      box.dispatchEvent(new Event('input'));
    };
    const told = () => drafts()[0]?.entries['centre']?.text;
    key('2');
    expect(told()).toBeUndefined();
    await new Promise((resolve) => requestAnimationFrame(() => setTimeout(() => setTimeout(resolve))));
    expect(told()).toBe('2');
    // Keyed while the answer to the key before is drawn.
    key('20');
    await settle();
    expect(box.value).toBe('20');
    key('204');
    box.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    expect(told()).toBe('204');
    await settle();
    expect(box.value).toBe('204');
  });

  it('asks for what the variant needs, and has nothing to keep yet', async () => {
    await show('new:slump');
    const labels = [...host.querySelectorAll('km-reading-field label')].map((l) => l.textContent?.trim());
    expect(labels).toEqual([
      'Lift 3 to 7 s, straight up',
      'Whole test mold off within 2 min 30 s',
      'Slump, measured down to the displaced centre',
      'Height of the displaced centre read instead of the slump',
      'Height of the mold',
    ]);
    expect([keepButton().disabled, keepButton().textContent?.trim()]).toEqual([true, 'Nothing to keep yet']);
    // No watch runs before somebody starts it.
    expect([...host.querySelectorAll('.watch')].map((w) => w.textContent?.trim())).toEqual(['time it', 'time it']);
    expect(drafts()).toEqual([]);
  });

  it('makes a draft with the first key, and the answer moves with each', async () => {
    await show('new:slump');
    await click('#reading-shape-true');
    for (const text of ['2', '20', '204']) await type('centre', text);
    expect(drafts().length).toBe(1);
    expect(drafts()[0]?.startedAt).not.toBeNull();
    expect(host.querySelector('[data-result="slump"]')?.textContent).toContain('within, 20 mm above the lower limit');
    expect(keepButton().textContent?.trim()).toBe('Keep 95 mm');
  });

  it('takes what a balance shows once it stands, and says where it came from; keyed over, it is by hand', async () => {
    const balance = (text: string | null, state: 'stable' | 'moving' | 'away'): Instrument => ({
      id: 'balance-1',
      kind: 'balance',
      name: 'Balance 1',
      can: [],
      reading: { text, unit: text === null ? null : 'kg', state, says: null, at: '' },
    });
    const quiet = spyOn(window, 'EventSource').and.returnValue({ close: () => undefined } as EventSource);
    const takeButton = () => host.querySelector<HTMLButtonElement>('[data-testid="take"]')!;
    for (const of of [balance('19.3', 'moving'), balance(null, 'away')]) {
      instruments = [of];
      await show('new:yield');
      host.querySelector<HTMLElement>('#reading-full')!.focus();
      await settle();
      expect(takeButton().disabled).toBeTrue();
      fixture.destroy();
    }
    instruments = [balance('19.312', 'stable')];
    await show('new:yield');
    host.querySelector<HTMLElement>('#reading-full')!.focus();
    await settle();
    takeButton().click();
    await settle();
    expect(drafts()[0]!.entries['full']).toEqual(jasmine.objectContaining({ text: '19.312', unit: 'kg', device: 'balance-1' }));
    await type('full', '19.31');
    expect(drafts()[0]!.entries['full']!.device).toBeUndefined();
    expect(quiet).toHaveBeenCalled();
  });

  it('keeps the test and its readings, usual values included, and locks until the answer', async () => {
    await show('new:slump');
    await click('#reading-shape-true');
    await type('centre', '204');
    await click('[data-testid="keep"]');
    expect(commands().map((c) => [c.kind, c.path])).toEqual([
      ['test', '/samples/sample/tests'],
      ['keep', `/tests/${drafts()[0]!.testId}/readings`],
    ]);
    const body = commands()[1]!.body as unknown as { by: string; readings: { field: string; text: string }[]; shown: object };
    expect(body.readings.map((r) => [r.field, r.text])).toEqual([
      ['shape', 'true'],
      ['centre', '204'],
      ['mold', '300'],
      ['mishap', 'none'],
      ['sieved', 'no'],
    ]);
    expect([body.by, body.shown]).toEqual([PERSON.id, { slump: '95' }]);
    expect([keepButton().disabled, keepButton().textContent?.trim()]).toEqual([true, 'Keeping …']);
  });

  it('refuses to keep what cannot be, and says it at the field', async () => {
    await show('new:slump');
    await click('#reading-shape-true');
    await type('centre', '305');
    expect(host.querySelector('#reading-centre-why')?.textContent).toContain('The concrete cannot stand higher than the mold (300 mm).');
    expect(keepButton().disabled).toBeTrue();
    await type('centre', '2o4');
    expect(host.querySelector('#reading-centre-why')?.textContent).toContain('“2o4” is not a number');
    expect(host.querySelector<HTMLInputElement>('#reading-centre')?.value).toBe('2o4');
  });

  it('wants a reason for what is unlikely, or takes what was meant', async () => {
    await show('new:slump');
    await click('#reading-shape-true');
    await type('centre', '8.5');
    expect(keepButton().textContent).toContain('needs a reason');
    await click('.offer');
    expect(host.querySelector('[data-result="slump"]')?.textContent).toContain('85 mm');
    expect(drafts()[0]?.entries['centre']?.unit).toBe('in');
    expect(keepButton().disabled).toBeFalse();
  });

  it('corrects a kept reading with a reason, and shows what it was', async () => {
    const test = keptTest('slump', { shape: ['true', null], mold: ['300', 'mm'], centre: ['204', 'mm'] });
    await show(test.id, { ...sample, tests: [test] });
    // Of readings that were told alike it stands once who read them and when.
    expect(host.textContent?.match(/Merrin Sallow, 12:07/g)?.length).toBe(1);
    expect(host.querySelector('[data-kept="centre"]')?.textContent).toContain('204 mm');
    expect(host.querySelector('#reading-drop')).toBeNull();
    await click('[aria-label="Correct Height of the displaced centre"]');
    await type('centre', '208');
    expect(keepButton().textContent).toContain('needs a reason');
    const why = host.querySelector<HTMLInputElement>('#reason')!;
    why.value = 'read upside down';
    why.dispatchEvent(new Event('input'));
    await settle();
    expect(host.querySelector('[data-result="slump"]')?.textContent).toContain('90 mm');
    await click('[data-testid="keep"]');
    const body = commands()[0]!.body as unknown as { readings: { field: string; supersedes: string; reason: string }[] };
    expect(body.readings.map(({ field, supersedes, reason }) => [field, supersedes, reason])).toEqual([
      ['centre', 'slump-centre', 'read upside down'],
    ]);
  });

  it('an out result says why, what next and where it is written, and offers the check test', async () => {
    const test = keptTest('slump', { shape: ['true', null], mold: ['300', 'mm'], centre: ['140', 'mm'] });
    await show(test.id, { ...sample, tests: [test] });
    const next = host.querySelector('[data-told="out"]')!;
    expect(next.textContent).toContain('Slump is 35 mm above the upper limit.');
    expect(next.textContent).toContain('project specification 2.4');
    expect(next.querySelector('li')?.textContent).toBe('Reject it.');
    await click('[data-testid="repeat"]');
    expect(drafts().map((d) => [d.method, d.retestOf])).toEqual([['slump', test.id]]);
  });

  it('takes the meter whose calibration holds, and marks the other', async () => {
    await show('new:pressure-air');
    const kit = choiceOf(fixture, 'Air meter');
    expect(kit.options().find((o) => o.id === kit.value())?.label).toContain('Air meter 1');
    await type('gauge', '6.4');
    expect(host.querySelector('[data-result="air"]')?.textContent).toContain('6.0 %');
    store.dispatch(SheetActions.draftSet({ testId: drafts()[0]!.testId, change: { equipmentId: 'old' } }));
    await settle();
    expect(host.querySelector('[data-told="out-of-calibration"]')?.textContent).toContain('Air meter 2');
    expect(host.querySelector('[data-told="out-of-calibration"]')?.textContent).toContain('2026-11-01');
  });

  it('times a lift, and goes on from there', async () => {
    await show('new:slump');
    await click('.watch');
    expect(Object.keys(drafts()[0]!.watches)).toEqual(['lift']);
    await click('.watch');
    expect(drafts()[0]!.watches).toEqual({});
    expect(drafts()[0]!.entries['lift']?.text).toMatch(/^\d+\.\d$/);
  });

  it('once kept, one press goes on to the next test, and the focus with it', async () => {
    const test = keptTest('slump', { shape: ['true', null], mold: ['300', 'mm'], centre: ['204', 'mm'] });
    await show(test.id, { ...sample, tests: [test] });
    document.body.append(host);
    await click('[data-testid="go-on"]');
    expect(store.selectSignal(rowInHand)()?.method.id).toBe('yield');
    expect(document.activeElement?.id).toBe('reading-full');
    host.remove();
  });

  it('a void one keeps its repeat at hand, and Enter on a shape goes to the first reading', async () => {
    const test = keptTest('slump', { shape: ['shear', null], mold: ['300', 'mm'], centre: ['150', 'mm'] });
    await show(test.id, { ...sample, tests: [test] });
    expect(host.querySelector('[data-testid="repeat"]')?.textContent).toContain('Repeat this test');
    await click('[data-testid="repeat"]');
    document.body.append(host);
    host.querySelector('km-shapes')!.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
    expect(document.activeElement?.id).toBe('reading-lift');
    host.remove();
  });

  it('says what comes next, and how the measure is filled at this slump', async () => {
    await show('new:slump');
    expect(host.querySelector('[data-testid="then"]')).toBeNull();
    await click('#reading-shape-true');
    await type('centre', '204');
    const then = () => host.querySelector('[data-testid="then"]')?.textContent;
    expect(then()).toBe(
      'Then density and yield. The slump is 95 mm: rod the measure. If it is the air meter’s own bowl, filling it starts the air test too.',
    );
    await type('centre', '285');
    expect(then()).toContain('vibrate the measure.');
  });

  it('says how the measure is filled beside what is filled into one, and beside nothing else', async () => {
    const tests = [keptTest('slump', { shape: ['true', null], mold: ['300', 'mm'], centre: ['204', 'mm'] })];
    const said = async (key: string) => {
      await show(key, { ...sample, tests });
      return host.textContent.includes('rod the measure');
    };
    expect([await said('new:yield'), await said('new:pressure-air'), await said('new:volumetric-air')]).toEqual([true, true, false]);
  });

  it('discards a draft only when told to', async () => {
    await show('new:temperature');
    await type('temperature', '19.5');
    expect(drafts().length).toBe(1);
    const discard = [...host.querySelectorAll('button')].find((b) => b.textContent?.includes('Discard'))!;
    discard.click();
    await settle();
    expect(drafts()).toEqual([]);
  });

  it('shows a refusal beside the test, and what was keyed stays', async () => {
    await show('new:temperature');
    await type('temperature', '19.5');
    const testId = drafts()[0]!.testId;
    const command = { id: 'k', order: 1, itemId: sample.id, opens: '', kind: 'keep' as const, path: '', body: { id: 'k' }, testId };
    const problem = { type: '', title: '', status: 409, detail: 'Somebody has kept 20 °C here meanwhile.', code: 'already-read' };
    store.dispatch(SheetActions.refused({ command, problem }));
    await settle();
    expect(host.querySelector('[role="alert"]')?.textContent).toContain('Somebody has kept 20 °C here meanwhile.');
    expect(host.querySelector<HTMLInputElement>('#reading-temperature')?.value).toBe('19.5');
  });
});
