import { HttpErrorResponse } from '@angular/common/http';
import { provideZonelessChangeDetection, type Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { provideState, provideStore, Store } from '@ngrx/store';
import { of, throwError, type Observable } from 'rxjs';
import { Api, isAway, problemOf } from '../../api/api';
import { Outbox } from '../../device/outbox';
import { hand } from '../../state/hand';
import { session, SessionActions, project as chosenProject, nameOf } from '../../state/session';
import { emptyDevice } from '../../testing/device';
import { pickMoment } from '../../testing/kit';
import { mix, PERSON, pourDetail, project } from '../../testing/sample';
import { LoadForm } from './load-form';
import { PourForm } from './pour-form';
import { PoursList } from './pours-list';
import { PourPage } from './pour-page';
import { pours, PoursActions } from './pours.state';
import { WaterForm } from './water-form';

const posted: { path: string; body: Record<string, unknown> }[] = [];
let answer = (): Observable<unknown> => of({ id: 'made' });
const api = {
  mixes: () => of({ items: [mix], total: 1 }),
  write: (path: string, body: Record<string, unknown>) => {
    posted.push({ path, body });
    return answer();
  },
};

describe('the forms of a pour', () => {
  let fixture: ComponentFixture<unknown>;
  let host: HTMLElement;
  let store: Store;

  beforeEach(async () => {
    localStorage.removeItem('km.ticket.pour');
    answer = () => of({ id: 'made' });
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideRouter([{ path: '**', children: [] }]),
        { provide: Api, useValue: api },
        provideStore({ [session.name]: session.reducer, [hand.name]: hand.reducer }),
        provideState(pours),
      ],
    });
    await emptyDevice();
    posted.length = 0;
    store = TestBed.inject<Store>(Store);
    store.dispatch(SessionActions.loaded({ people: [PERSON], projects: [project], offset: 0 }));
    store.dispatch(SessionActions.personChosen({ personId: PERSON.id }));
    store.dispatch(PoursActions.pourLoaded({ pour: pourDetail }));
  });

  async function show<T>(component: Type<T>, inputs: Record<string, unknown> = {}): Promise<void> {
    fixture = TestBed.createComponent(component);
    for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
    host = fixture.nativeElement as HTMLElement;
    await fixture.whenStable();
  }
  async function fill(name: string, value: string): Promise<void> {
    const input = host.querySelector<HTMLInputElement>(`input[name="${name}"], input[aria-label="${name}"]`)!;
    input.value = value;
    input.dispatchEvent(new Event('input'));
    await fixture.whenStable();
  }
  /** As the truck came: half an hour ago. */
  const batched = (): Promise<void> => pickMoment(fixture, 'Batched at', new Date(Date.now() - 1_800_000).toISOString());
  async function because(inputId: string, text: string): Promise<void> {
    const input = host.querySelector<HTMLInputElement>(`#${inputId}`)!;
    input.value = text;
    input.dispatchEvent(new Event('input'));
    await fixture.whenStable();
  }
  async function submit(): Promise<void> {
    host.querySelector('form')!.dispatchEvent(new Event('submit'));
    await fixture.whenStable();
  }
  /** A ticket that is whole, pressed once. */
  async function keepTicket(): Promise<void> {
    await show(LoadForm, { pourId: 'pour' });
    for (const [name, value] of [
      ['ticket', 'F-9'],
      ['truck', '3'],
      ['volume', '6.0'],
      ['Weighed Cement', '2037'],
      ['Weighed Water', '959'],
    ] as const)
      await fill(name, value);
    await batched();
    await submit();
  }
  /** Batched as the truck came: there is time for water. */
  const fresh = { ...pourDetail.loadList[0]!, batchedAt: new Date(Date.now() - 1_800_000).toISOString() };
  async function until(what: () => boolean): Promise<void> {
    for (let i = 0; i < 300 && !what(); i++) await new Promise((resolve) => setTimeout(resolve, 10));
    await fixture.whenStable();
  }
  /** Through the outbox: stored on the device, then sent. */
  async function sent(n: number): Promise<void> {
    await until(() => posted.length >= n && TestBed.inject(Outbox).commands().length === 0);
    expect(posted.length).toBe(n);
  }

  it('a load comes with the next number and the mix’s materials, and shows the design masses', async () => {
    await show(LoadForm, { pourId: 'pour' });
    expect(host.querySelector<HTMLInputElement>('[name="number"]')?.value).toBe('7');
    await fill('volume', '6.5');
    expect([...host.querySelectorAll('tbody tr')].map((tr) => tr.querySelectorAll('td')[1]?.textContent?.trim())).toEqual([
      '2210 kg',
      '1040 kg',
    ]);
  });

  it('a load with faults says each at its field, keeps what was keyed and sends nothing', async () => {
    await show(LoadForm, { pourId: 'pour' });
    await fill('number', '0');
    await fill('Weighed Cement', '2o37');
    await submit();
    expect(posted).toEqual([]);
    const faults = [...host.querySelectorAll('small')].map((s) => s.textContent).filter(Boolean);
    expect(faults).toContain('A whole number, 1 or more.');
    expect(faults.filter((f) => f === 'Key what the ticket says.').length).toBe(2);
    expect(host.querySelector<HTMLInputElement>('[aria-label="Weighed Cement"]')?.value).toBe('2o37');
  });

  it('a load is sent as it was keyed, with targets beside the scaled weights', async () => {
    await show(LoadForm, { pourId: 'pour' });
    for (const [name, value] of [
      ['ticket', 'F-9'],
      ['truck', '3'],
      ['volume', '6.0'],
      ['Weighed Cement', '2037.0'],
      ['Weighed Water', '959'],
    ] as const)
      await fill(name, value);
    await batched();
    await submit();
    await sent(1);
    expect(posted.map((p) => p.path)).toEqual(['/pours/pour/loads']);
    expect(posted[0]?.body['materials']).toEqual([
      { name: 'Cement', role: 'cementitious', actual: '2037.0', unit: 'kg', target: '2040' },
      { name: 'Water', role: 'water', actual: '959', unit: 'kg', target: '960' },
    ]);
    expect(posted[0]?.body['design']).toEqual({ text: '6.0', unit: 'm3' });
  });

  it('a ticket that does not look like its mix, or is on a load already, is asked about before it is kept', async () => {
    await show(LoadForm, { pourId: 'pour' });
    for (const [name, value] of [
      ['ticket', pourDetail.loadList[0]!.ticket],
      ['truck', '3'],
      ['volume', '6.0'],
      ['Weighed Cement', '960'],
      ['Weighed Water', '2040'],
    ] as const)
      await fill(name, value);
    await batched();
    await submit();
    expect(posted).toEqual([]);
    const asks = host.querySelector('[data-testid="doubts"]')!.textContent;
    expect(asks).toContain(`Ticket ${pourDetail.loadList[0]!.ticket} is on Load`);
    expect(asks).toContain('Cement and Water look exchanged.');
    expect(document.activeElement?.id).toBe('why');
    await because('why', 'the ticket says so');
    await submit();
    await sent(1);
    expect([posted[0]?.body['reason'], posted[0]?.body['known']]).toEqual(['the ticket says so', pourDetail.readAt]);
  });

  it('a batch time is what the ticket says: none is made up, and none ahead of now', async () => {
    await show(LoadForm, { pourId: 'pour' });
    await submit();
    const faults = () => [...host.querySelectorAll('small')].map((s) => s.textContent).filter(Boolean);
    expect(faults()).toContain('Key the batch time.');
    await pickMoment(fixture, 'Batched at', new Date(Date.now() + 3_600_000).toISOString());
    expect(faults()).toContain('This is ahead of now.');
    host.querySelector<HTMLButtonElement>('.offer')!.click();
    await fixture.whenStable();
    expect(faults()).not.toContain('This is ahead of now.');
  });

  it('half a ticket is still there when the page comes back, and gone once it is kept', async () => {
    await show(LoadForm, { pourId: 'pour' });
    await fill('ticket', 'F-77');
    await fill('Weighed Cement', '2037');
    fixture.destroy();
    await show(LoadForm, { pourId: 'pour' });
    expect(host.querySelector<HTMLInputElement>('[name="ticket"]')!.value).toBe('F-77');
    expect(host.querySelector<HTMLInputElement>('[aria-label="Weighed Cement"]')!.value).toBe('2037');
    for (const [name, value] of [
      ['truck', '3'],
      ['volume', '6.0'],
      ['Weighed Water', '959'],
    ] as const)
      await fill(name, value);
    await batched();
    await submit();
    await sent(1);
    await until(() => localStorage.getItem('km.ticket.pour') === null);
    expect(localStorage.getItem('km.ticket.pour')).toBeNull();
    store.dispatch(PoursActions.pourLoaded({ pour: { ...pourDetail } }));
    await fixture.whenStable();
    expect(localStorage.getItem('km.ticket.pour')).withContext('the pour is read again').toBeNull();
  });

  it('a refused load shows the reason, and the second try is the same write', async () => {
    answer = () =>
      throwError(
        () =>
          new HttpErrorResponse({
            status: 409,
            error: { type: 't', title: 't', status: 409, detail: 'One with this number exists already.', code: 'already-exists' },
          }),
      );
    await keepTicket();
    await until(() => host.querySelector('[role="alert"]') !== null);
    expect(host.querySelector('[role="alert"]')?.textContent).toContain('One with this number exists already.');
    await submit();
    await sent(2);
    expect(posted[1]?.body['id']).toBe(posted[0]?.body['id']);
  });

  it('while the server is away a ticket waits on the device, says so, and is sent once', async () => {
    answer = () => throwError(() => new HttpErrorResponse({ status: 0 }));
    await keepTicket();
    await until(() => host.querySelector('[data-testid="waits"]') !== null);
    expect(host.querySelector('[data-testid="waits"]')?.textContent).toContain('sent by itself');
    expect([localStorage.getItem('km.ticket.pour'), TestBed.inject(Outbox).commands().length]).toEqual([null, 1]);
    // Whoever has gone on is left where they are.
    const led = spyOn(TestBed.inject(Router), 'navigate');
    fixture.destroy();
    const tries = posted.length;
    answer = () => of({ id: 'made' });
    await TestBed.inject(Outbox).start();
    await sent(tries + 1);
    expect(posted.every(({ body }) => JSON.stringify(body) === JSON.stringify(posted[0]!.body))).toBeTrue();
    expect(led).not.toHaveBeenCalled();
  });

  it('a pour needs a name, an element, a mix and a volume', async () => {
    await show(PourForm);
    await submit();
    expect([...host.querySelectorAll('small')].map((s) => s.textContent).filter(Boolean)).toEqual([
      'Say what is placed.',
      'Say where.',
      'Choose the mix.',
      'Key a volume like 36 or 7.5.',
    ]);
    expect(posted).toEqual([]);
  });

  it('water that the judge asks about goes on with a reason; what was probably meant is offered', async () => {
    await show(WaterForm, { load: fresh, pour: { ...pourDetail, loadList: [fresh] }, system: 'si' });
    await fill('mass', '90000');
    const told = () => host.querySelector('[data-testid="doubts"]')?.textContent ?? '';
    expect(told()).toContain('90000 L is unlikely');
    await submit();
    expect(posted).toEqual([]);
    host.querySelector<HTMLButtonElement>('.offer')!.click();
    await fixture.whenStable();
    expect([host.querySelector<HTMLInputElement>('#mass')!.value, told()]).toEqual(['90', '']);
    await fill('mass', '400');
    await because('whyWater', 'the drum was washed out');
    await submit();
    await sent(1);
    expect([posted[0]?.body['mass'], posted[0]?.body['reason']]).toEqual([{ text: '400', unit: 'L' }, 'the drum was washed out']);
  });

  it('what only the server can doubt is asked when it refuses, and goes on with the reason', async () => {
    const message = 'There was room for at most 20 L.';
    const error = {
      type: 't',
      title: 't',
      status: 422,
      detail: 'd',
      code: 'needs-reason',
      errors: [{ code: 'needs-reason', path: 'mass', message }],
    };
    answer = () => throwError(() => new HttpErrorResponse({ status: 422, error }));
    await show(WaterForm, { load: fresh, pour: { ...pourDetail, loadList: [fresh] }, system: 'si' });
    await fill('mass', '30');
    await submit();
    await until(() => host.querySelector('[data-testid="doubts"]') !== null);
    expect(host.querySelector('[data-testid="doubts"]')!.textContent).toContain(message);
    answer = () => of({ id: 'made' });
    await because('whyWater', 'the inspector allowed it');
    await submit();
    await sent(2);
    expect([posted[0]?.body['reason'], posted[1]?.body['reason']]).toEqual([undefined, 'the inspector allowed it']);
  });

  it('water added is above zero and goes to its load', async () => {
    await show(WaterForm, { load: fresh, pour: { ...pourDetail, loadList: [fresh] }, system: 'si' });
    await fill('mass', '0');
    expect(host.textContent).toContain('Water added is above zero.');
    await fill('mass', '45.5');
    await submit();
    await sent(1);
    expect([posted[0]?.path, posted[0]?.body['mass']]).toEqual(['/loads/load/water', { text: '45.5', unit: 'L' }]);
    // Its answer was lost: a second press is the same addition, to the millisecond; another amount is another.
    await new Promise((resolve) => setTimeout(resolve, 5));
    await submit();
    await sent(2);
    expect(posted[1]?.body).toEqual(posted[0]!.body);
    await fill('mass', '46');
    await submit();
    await sent(3);
    expect(posted[2]?.body['id']).not.toBe(posted[0]!.body['id']);
  });

  it('the list teaches when there is nothing, and says which pours have loads out', async () => {
    await show(PoursList);
    store.dispatch(PoursActions.listLoaded({ page: { items: [], total: 0 } }));
    await fixture.whenStable();
    expect(host.textContent).toContain('The first pour');
    const { project: _p, mix: _m, specifications: _s, loadList: _l, sampleList: _q, ...pour } = pourDetail;
    store.dispatch(PoursActions.listLoaded({ page: { items: [{ ...pour, out: 2 }], total: 1 } }));
    await fixture.whenStable();
    expect(host.textContent).toContain('2 loads out');
  });

  it('a pour shows marks in their order and its limits in words', async () => {
    const mark = { method: 'slump', result: 'slump', label: 'Slump', state: 'out', validity: 'valid', reported: '160', unit: 'mm' };
    const unjudged = { ...mark, result: 'cementContent', label: 'Cement content', state: 'unjudged' };
    const sampleList = [{ id: 's', label: 'Q-1', loadId: 'load', createdAt: '', by: PERSON.id, marks: [mark, unjudged], voided: false }];
    store.dispatch(PoursActions.pourLoaded({ pour: { ...pourDetail, sampleList } }));
    await show(PourPage, { pourId: 'pour' });
    expect([...host.querySelectorAll('.mk')].map((m) => m.textContent?.replace(/\s+/g, ' ').trim())).toEqual(['Slump 160 mm']);
    expect(host.querySelector('.spec')?.textContent).toContain('75 to 125 mm');
    expect(host.querySelector('.spec')?.textContent).toContain('at most 90 min');
  });
});

describe('problems and people', () => {
  it('tell a server that is away from a refusal', () => {
    expect(isAway(problemOf(new HttpErrorResponse({ status: 0 })))).toBeTrue();
    expect(isAway(problemOf(new HttpErrorResponse({ status: 502, error: '<html>' })))).toBeTrue();
    const refused = problemOf(
      new HttpErrorResponse({ status: 422, error: { type: 't', title: 't', status: 422, detail: 'd', code: 'invalid-input' } }),
    );
    expect([isAway(refused), refused.code]).toEqual([false, 'invalid-input']);
    expect(problemOf(new Error('x')).code).toBe('unknown');
  });

  it('a person who is not of this database is nobody', () => {
    const state = session.reducer(undefined, SessionActions.personChosen({ personId: 'gone' }));
    expect(session.reducer(state, SessionActions.loaded({ people: [PERSON], projects: [project], offset: 0 })).personId).toBeNull();
    expect(nameOf.projector([PERSON])(PERSON.id)).toBe(PERSON.name);
    expect(nameOf.projector([PERSON])('other')).toBe('somebody');
    expect(chosenProject.projector([project], 'gone')).toBe(project);
    expect(chosenProject.projector([], null)).toBeNull();
  });
});
