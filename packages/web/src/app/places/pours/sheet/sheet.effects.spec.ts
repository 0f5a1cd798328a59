import { HttpErrorResponse } from '@angular/common/http';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideEffects } from '@ngrx/effects';
import { provideState, provideStore, Store } from '@ngrx/store';
import { of, throwError, type Observable } from 'rxjs';
import { Api } from '../../../api/api';
import { Device } from '../../../device/device';
import type { Command } from '../../../device/device-db';
import { hand } from '../../../state/hand';
import { session, SessionActions } from '../../../state/session';
import { keptTest, sample } from '../../../testing/sample';
import * as effects from './sheet.effects';
import { sheet, SheetActions } from './sheet.state';
import { blankDraft } from './sheet.view';
import { methodById } from '@keen-mortar/core';

const away = () => throwError(() => new HttpErrorResponse({ status: 0 }));
const refused = (status: number, code: string) =>
  throwError(() => new HttpErrorResponse({ status, error: { type: 't', title: 't', status, detail: 'no', code } }));

/** A server that answers as it is told: one answer after the other, the last one for ever. */
class FakeApi {
  readonly sent: string[] = [];
  answers: (() => Observable<unknown>)[] = [() => of(sample)];
  read: () => Observable<unknown> = () => of(sample);
  sample = () => this.read();
  write = (path: string) => {
    this.sent.push(path);
    return (this.answers.length > 1 ? this.answers.shift()! : this.answers[0]!)();
  };
  keying = () => of(null);
}

const command = (id: string, kind: Command['kind'] = 'event', testId?: string): Command => ({
  id,
  order: Date.now(),
  itemId: sample.id,
  opens: '',
  kind,
  path: `/${id}`,
  body: { id },
  ...(testId ? { testId } : {}),
});

describe('the queue of a sheet', () => {
  let api: FakeApi;
  let store: Store;
  let device: Device;

  beforeEach(async () => {
    api = new FakeApi();
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        { provide: Api, useValue: api },
        provideStore({ [session.name]: session.reducer, [hand.name]: hand.reducer }),
        provideState(sheet),
        // The live line needs a server: everything else is here.
        provideEffects({ ...effects, live: undefined as never }),
      ],
    });
    store = TestBed.inject<Store>(Store);
    device = TestBed.inject(Device);
    for (const c of await device.commands()) await device.dropCommand(c.id);
    for (const a of await device.aside()) await device.dropAside(a.id);
    store.dispatch(SessionActions.personChosen({ personId: 'somebody' }));
    for (const d of await device.draftsOf(sample.id)) await device.dropDraft(d.testId);
  });

  const state = () => store.selectSignal(sheet.selectCommands)();
  async function until(what: () => boolean | Promise<boolean>): Promise<void> {
    for (let i = 0; i < 300; i++) {
      if (await what()) return;
      await new Promise((resolve) => setTimeout(resolve, 15));
    }
    throw new Error(`never: ${what.toString()}`);
  }
  async function open(): Promise<void> {
    store.dispatch(SheetActions.opened({ sampleId: sample.id }));
    await until(() => store.selectSignal(sheet.selectSample)() !== null);
  }

  it('sends writes in order, one at a time, and forgets them when they are answered', async () => {
    await open();
    store.dispatch(SheetActions.queued({ commands: [command('a'), command('b')] }));
    store.dispatch(SheetActions.queued({ commands: [command('c')] }));
    await until(() => state().length === 0);
    expect(api.sent).toEqual(['/a', '/b', '/c']);
    expect(await device.commands()).toEqual([]);
  });

  it('keeps them on the device while the server is away, and tries again', async () => {
    await open();
    // What stands while it is away is over soon: it is noted when it is tried the second time, not looked for.
    let meanwhile = null as Promise<{ left: number; isAway: boolean }> | null;
    const noted = async (isAway: boolean) => ({ left: (await device.commands()).length, isAway });
    api.answers = [away, () => ((meanwhile = noted(store.selectSignal(sheet.selectAway)())), away()), () => of(sample)];
    store.dispatch(SheetActions.queued({ commands: [command('a')] }));
    await until(() => meanwhile !== null && state().length === 0);
    expect(await meanwhile).toEqual({ left: 1, isAway: true });
    expect(api.sent).toEqual(['/a', '/a', '/a']);
    expect(store.selectSignal(sheet.selectAway)()).toBeFalse();
  });

  it('takes up what an earlier page left on the device', async () => {
    await device.putCommands([command('left')]);
    await open();
    await until(() => api.sent.length === 1 && state().length === 0);
    expect(api.sent).toEqual(['/left']);
  });

  it('gives a refused keep back to its draft, and looks at the sample again', async () => {
    await open();
    const draft = { ...blankDraft(sample, methodById('slump')!, () => crypto.randomUUID(), new Date().toISOString()), testId: 't' };
    store.dispatch(SheetActions.draftBegun({ draft }));
    let asked = 0;
    api.read = () => (asked++, of(sample));
    api.answers = [() => refused(409, 'already-read')];
    store.dispatch(SheetActions.queued({ commands: [command('k', 'keep', 't')], keeping: 't' }));
    await until(() => store.selectSignal(sheet.selectDrafts)()['t']?.problem?.code === 'already-read');
    await until(() => asked > 0);
    expect(store.selectSignal(sheet.selectDrafts)()['t']?.state).toBe('open');
    expect(await device.commands()).toEqual([]);
  });

  it('a refused test takes its readings with it: one reason, not two', async () => {
    await open();
    const draft = { ...blankDraft(sample, methodById('slump')!, () => crypto.randomUUID(), new Date().toISOString()), testId: 't' };
    store.dispatch(SheetActions.draftBegun({ draft }));
    api.answers = [() => refused(409, 'already-exists')];
    store.dispatch(SheetActions.queued({ commands: [command('t', 'test', 't'), command('k', 'keep', 't')], keeping: 't' }));
    await until(() => store.selectSignal(sheet.selectDrafts)()['t']?.state === 'open');
    expect(store.selectSignal(sheet.selectDrafts)()['t']?.problem?.code).toBe('already-exists');
    expect([api.sent, await device.commands()]).toEqual([['/t'], []]);
  });

  it('what another sheet’s write answers stays off this one, and a draft whose write is gone is open again', async () => {
    const draft = {
      ...blankDraft(sample, methodById('slump')!, () => crypto.randomUUID(), new Date().toISOString()),
      testId: 'stuck',
      state: 'keeping' as const,
    };
    await device.putDraft(draft);
    const test = keptTest('slump', { shape: ['true', null], mold: ['300', 'mm'], centre: ['204', 'mm'] });
    api.answers = [() => of({ test, differs: [] })];
    await device.putCommands([{ ...command('k', 'keep', 'test-slump'), itemId: 'another' }]);
    await open();
    await until(() => state().length === 0);
    expect(store.selectSignal(sheet.selectSample)()?.tests).toEqual([]);
    expect(store.selectSignal(sheet.selectDrafts)()['stuck']?.state).toBe('open');
  });

  it('drops the draft from the device when its test is kept', async () => {
    await open();
    const draft = {
      ...blankDraft(sample, methodById('slump')!, () => crypto.randomUUID(), new Date().toISOString()),
      testId: 'test-slump',
    };
    store.dispatch(SheetActions.draftBegun({ draft }));
    await until(async () => (await device.draftsOf(sample.id)).length === 1);
    const test = keptTest('slump', { shape: ['true', null], mold: ['300', 'mm'], centre: ['204', 'mm'] });
    api.answers = [() => of({ test, differs: [] })];
    store.dispatch(SheetActions.queued({ commands: [command('k', 'keep', 'test-slump')], keeping: 'test-slump' }));
    await until(async () => (await device.draftsOf(sample.id)).length === 0);
    expect(
      store
        .selectSignal(sheet.selectSample)()
        ?.tests.map((t) => t.id),
    ).toEqual(['test-slump']);
  });

  it('restores a draft after the page was closed in the middle of a test', async () => {
    const draft = { ...blankDraft(sample, methodById('slump')!, () => crypto.randomUUID(), new Date().toISOString()), testId: 'crashed' };
    await device.putDraft(draft);
    await open();
    expect(store.selectSignal(sheet.selectDrafts)()['crashed']).toEqual(draft);
  });

  it('shows this device’s copy when the server does not answer', async () => {
    await device.remember({ ...sample, label: 'Q-seen' });
    api.read = away;
    store.dispatch(SheetActions.opened({ sampleId: sample.id }));
    await until(() => store.selectSignal(sheet.selectFromDevice)());
    expect(store.selectSignal(sheet.selectSample)()?.label).toBe('Q-seen');
    api.read = () => of(sample);
    await until(() => !store.selectSignal(sheet.selectFromDevice)());
    expect(store.selectSignal(sheet.selectSample)()?.label).toBe('Q-106');
  });
});
