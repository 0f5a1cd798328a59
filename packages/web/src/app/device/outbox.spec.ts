import { HttpErrorResponse } from '@angular/common/http';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideStore, Store } from '@ngrx/store';
import { of, throwError, type Observable } from 'rxjs';
import { Api } from '../api/api';
import { session, SessionActions } from '../state/session';
import { emptyDevice } from '../testing/device';
import type { Device } from './device';
import type { Command } from './device-db';
import { Outbox, type Answered } from './outbox';

const command = (id: string, itemId = 's', kind: Command['kind'] = 'event', testId?: string): Command => ({
  id,
  order: 0,
  itemId,
  opens: '',
  kind,
  path: `/${id}`,
  body: { id },
  ...(testId ? { testId } : {}),
});
const status = (code: number) =>
  throwError(() => new HttpErrorResponse({ status: code, error: { type: 't', title: 't', status: code, detail: 'no', code: 'x' } }));

describe('the outbox', () => {
  let sent: string[];
  let bodies: Command['body'][];
  let answer: (path: string) => Observable<unknown>;
  let outbox: Outbox;
  let device: Device;
  let store: Store;
  let heard: Answered[];

  beforeEach(async () => {
    sent = [];
    answer = () => of('done');
    bodies = [];
    const write = (path: string, body: Command['body']) => (sent.push(path), bodies.push(body), answer(path));
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        { provide: Api, useValue: { write } },
        provideStore({ [session.name]: session.reducer }),
      ],
    });
    device = await emptyDevice();
    store = TestBed.inject<Store>(Store);
  });
  const open = (): void => {
    outbox = TestBed.inject(Outbox);
    heard = [];
    outbox.answered.subscribe((a) => heard.push(a));
  };
  const signIn = (): void => {
    store.dispatch(SessionActions.personChosen({ personId: 'somebody' }));
    TestBed.tick();
  };
  async function until(what: () => boolean): Promise<void> {
    for (let i = 0; i < 400; i++) {
      if (what()) return;
      await new Promise((resolve) => setTimeout(resolve, 15));
    }
    throw new Error(`never: ${what.toString()}; sent ${sent.join(' ')}`);
  }

  it('calls what is made without a network by this device’s own letters, once, and sends it so', async () => {
    localStorage.setItem('km.device', JSON.stringify({ id: 'd', begins: { 'specimen-set': 'D-K' }, last: { 'specimen-set': 6 } }));
    open();
    signIn();
    await outbox.put([command('on-line', 's', 'specimens')]);
    await until(() => outbox.commands().length === 0);
    answer = () => status(503);
    await outbox.put([command('first', 's')]);
    await until(() => outbox.away());
    await outbox.put([command('set', 's', 'specimens'), command('event', 's')]);
    await outbox.put([command('set', 's', 'specimens')]);
    await outbox.put([command('next', 's', 'specimens')]);
    expect(['set', 'event', 'next'].map((id) => outbox.codeOf(id))).toEqual(['D-K7', null, 'D-K8']);
    expect(bodies.find((b) => b.id === 'on-line')!['code']).toBeUndefined();
    localStorage.removeItem('km.device');
  });

  it('sends what an earlier page left, in its order, without a sheet, once somebody is signed in', async () => {
    await device.putCommands([
      { ...command('b'), order: 2 },
      { ...command('a'), order: 1 },
    ]);
    open();
    await outbox.start();
    expect([sent, outbox.commands().length]).toEqual([[], 2]);
    signIn();
    await until(() => outbox.commands().length === 0);
    expect(sent).toEqual(['/a', '/b']);
  });

  it('a write that is refused for good is set aside with what falls with it, and holds nothing up', async () => {
    open();
    signIn();
    answer = (path) => (path === '/t' ? status(422) : of('done'));
    await outbox.put([command('t', 's', 'test', 't'), command('k', 's', 'keep', 't'), command('other')]);
    await until(() => heard.length === 2);
    expect([sent, outbox.aside().map((a) => a.id)]).toEqual([
      ['/t', '/other'],
      ['t', 'k'],
    ]);
    expect((await device.aside()).map((a) => a.id).sort()).toEqual(['k', 't']);
    answer = () => of('done');
    await outbox.tryAgain('t');
    await until(() => outbox.commands().length === 0 && outbox.aside().length === 1);
    expect(sent.at(-1)).toBe('/t');
    await outbox.dismiss('k');
    expect([outbox.aside(), await device.aside()]).toEqual([[], []]);
  });

  it('a write that breaks the server makes its own sheet wait and no other', async () => {
    open();
    signIn();
    answer = (path) => (path === '/poison' ? status(500) : of('done'));
    await outbox.put([command('poison'), command('behind'), command('elsewhere', 'another')]);
    await until(() => sent.includes('/elsewhere'));
    expect([outbox.commands().map((c) => c.id), sent.includes('/behind')]).toEqual([['poison', 'behind'], false]);
  });

  it('waits while the server is away, says so, and goes on by itself', async () => {
    open();
    signIn();
    let away = 2;
    answer = () => (away-- > 0 ? status(503) : of('done'));
    await outbox.put([command('a')]);
    await until(() => outbox.away());
    expect(await device.commands()).toHaveSize(1);
    await until(() => outbox.commands().length === 0);
    expect([sent.length, outbox.away()]).toEqual([3, false]);
  });

  it('says at once when the device stores nothing, keeps it in the page, and still sends it', async () => {
    open();
    await outbox.start();
    spyOn(device, 'putCommands').and.rejectWith(new Error('QuotaExceededError'));
    await outbox.put([command('a')]);
    expect(outbox.trouble()).toContain('cannot store');
    expect(outbox.commands().map((c) => c.id)).toEqual(['a']);
    signIn();
    await until(() => sent.includes('/a'));
  });

  it('what is held back waits, and what is taken back never leaves', async () => {
    open();
    signIn();
    await outbox.put([
      { ...command('a'), heldUntil: Date.now() + 60_000 },
      { ...command('b'), heldUntil: Date.now() + 250 },
    ]);
    await outbox.takeBack('a');
    await until(() => outbox.commands().length === 0);
    expect([sent, await device.commands()]).toEqual([['/b'], []]);
  });
});
