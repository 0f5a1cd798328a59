import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { provideEffects } from '@ngrx/effects';
import { provideStore, Store } from '@ngrx/store';
import { HttpErrorResponse } from '@angular/common/http';
import { of, throwError, type Observable } from 'rxjs';
import { providePrimeNG } from 'primeng/config';
import { choose } from '../testing/kit';
import { Api } from '../api/api';
import { hand } from '../state/hand';
import { session, SessionActions, WITHOUT_PERSON } from '../state/session';
import * as effects from '../state/session.effects';
import { OTHER, PERSON, project } from '../testing/sample';
import { preset } from './preset';
import { NotHere } from './not-here';
import { Shell } from './shell';
import { Who } from './who';

/** The server's clock is an hour ahead of this device. */
const AHEAD = 3_600_000;

describe('the shell', () => {
  let projects = (_offset: number): Observable<unknown> => of({ items: [project], total: 1 });
  let people = (): Observable<unknown> => of({ items: [PERSON, OTHER], total: 2 });
  let store: Store;

  beforeEach(() => {
    people = () => of({ items: [PERSON, OTHER], total: 2 });
    projects = () => of({ items: [project], total: 1 });
    localStorage.clear();
    const api = {
      people: () => people(),
      pours: () => of({ items: [], total: 0 }),
      projects: (offset: number) => projects(offset),
      health: () => of({ now: new Date(Date.now() + AHEAD).toISOString() }),
    };
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideRouter([
          { path: 'who', component: Who },
          { path: '**', component: NotHere },
        ]),
        provideStore({ [session.name]: session.reducer, [hand.name]: hand.reducer }),
        provideEffects(effects),
        providePrimeNG({ theme: { preset, options: { darkModeSelector: 'none' } } }),
        { provide: Api, useValue: api },
      ],
    });
    store = TestBed.inject<Store>(Store);
  });
  afterEach(() => {
    localStorage.clear();
    document.documentElement.dataset['theme'] = 'light';
  });

  async function open() {
    const fixture = TestBed.createComponent(Shell);
    await fixture.whenStable();
    await new Promise((resolve) => setTimeout(resolve));
    await fixture.whenStable();
    return { fixture, host: fixture.nativeElement as HTMLElement };
  }

  it('asks who is here, and remembers the answer on the device', async () => {
    const { fixture, host } = await open();
    expect(TestBed.inject(Router).url).toBe('/who');
    const names = [...host.querySelectorAll('km-who button b')].map((b) => b.textContent);
    expect(names).toEqual(['Rosalind Oakhanger', 'Merrin Sallow']);
    host.querySelectorAll<HTMLElement>('km-who button')[1]!.click();
    await fixture.whenStable();
    expect([store.selectSignal(session.selectPersonId)(), localStorage.getItem('km.person')]).toEqual([OTHER.id, OTHER.id]);
    expect(host.textContent).toContain('There is nothing at this address');
  });

  it('somebody who followed a link comes there once the name is said, and nowhere outside', async () => {
    const { fixture } = await open();
    // The route's inputs are bound by the application; here by hand.
    const screen = TestBed.createComponent(Who);
    screen.componentRef.setInput('then', '/samples/7');
    await screen.whenStable();
    (screen.nativeElement as HTMLElement).querySelector<HTMLElement>('button')!.click();
    await fixture.whenStable();
    expect(TestBed.inject(Router).url).toBe('/samples/7');
    screen.componentRef.setInput('then', '//elsewhere.example');
    (screen.nativeElement as HTMLElement).querySelector<HTMLElement>('button')!.click();
    await fixture.whenStable();
    expect(TestBed.inject(Router).url).toBe('/day');
  });

  it('knows every project, however many pages there are, and the one that was chosen last', async () => {
    const more = Array.from({ length: 450 }, (_p, i) => ({ ...project, id: `p${i}` }));
    projects = (offset) => of({ items: more.slice(offset, offset + 200), total: more.length });
    localStorage.setItem('km.project', 'p420');
    await open();
    expect(store.selectSignal(session.selectProjects)().length).toBe(450);
    store.dispatch(SessionActions.projectChosen({ projectId: 'p421' }));
    expect(localStorage.getItem('km.project')).toBe('p421');
  });

  it('learns how far this device’s clock is off', async () => {
    await open();
    expect(Math.abs(store.selectSignal(session.selectOffset)() - AHEAD)).toBeLessThan(500);
  });

  it('shows only the places that there are, and marks the one in use for a sheet too', async () => {
    const { fixture, host } = await open();
    expect([...host.querySelectorAll('.shelf a')].map((a) => a.textContent?.trim())).toEqual([
      'Keen Mortar',
      'Day',
      'Pours',
      'Bench',
      'Breaks',
      'Record',
      'Mixes',
      'Kit',
      'Ledger',
    ]);
    const pours = () => host.querySelector('.shelf a.spot[href="/pours"]')!.getAttribute('aria-current');
    expect(pours()).toBeNull();
    await TestBed.inject(Router).navigateByUrl('/samples/1');
    await fixture.whenStable();
    expect(pours()).toBe('page');
  });

  it('changes the theme at once and keeps it', async () => {
    const { fixture } = await open();
    // The theme's list comes once the place is there.
    await new Promise((resolve) => requestIdleCallback(resolve));
    await fixture.whenStable();
    await choose(fixture, 'Theme', 'glare');
    expect([document.documentElement.dataset['theme'], localStorage.getItem('km.theme')]).toEqual(['glare', 'glare']);
    await choose(fixture, 'Theme', 'dark');
    const worn = ['beforeprint', 'afterprint'].map((moment) => {
      dispatchEvent(new Event(moment));
      return document.documentElement.dataset['theme'];
    });
    expect(worn).toEqual(['glare', 'dark']);
  });

  it('says that the server does not answer, and comes back by itself', async () => {
    people = () => throwError(() => new HttpErrorResponse({ status: 0 }));
    const { fixture, host } = await open();
    expect(host.querySelector('[role="alert"]')?.textContent).toContain('What you keyed is safe on this device.');
    people = () => of({ items: [PERSON], total: 1 });
    await new Promise((resolve) => setTimeout(resolve, 2200));
    await fixture.whenStable();
    expect(host.querySelector('[role="alert"]')).toBeNull();
    expect(store.selectSignal(session.selectLoaded)()).toBeTrue();
  });

  describe('Scratch', () => {
    const slash = (target: EventTarget, more: KeyboardEventInit = {}) =>
      target.dispatchEvent(new KeyboardEvent('keydown', { key: '/', bubbles: true, cancelable: true, ...more }));
    const opened = () => store.selectSignal(hand.selectScratch)();
    const at = async (url: string) => {
      const shown = await open();
      store.dispatch(SessionActions.personChosen({ personId: PERSON.id }));
      await TestBed.inject(Router).navigateByUrl(url);
      await shown.fixture.whenStable();
      return shown;
    };

    it('opens over any place with a slash and from the shelf, and closes from there', async () => {
      const { fixture, host } = await at('/pours');
      slash(document.body);
      expect(opened()).toBeTrue();
      await fixture.whenStable();
      const button = host.querySelector<HTMLButtonElement>('[data-testid="scratch"]')!;
      expect(button.getAttribute('aria-expanded')).toBe('true');
      button.click();
      await fixture.whenStable();
      expect([opened(), button.getAttribute('aria-expanded')]).toEqual([false, 'false']);
    });

    it('a slash within a field, or with another key held, is nothing of it', async () => {
      await at('/pours');
      for (const tag of ['input', 'textarea', 'select']) {
        const field = document.body.appendChild(document.createElement(tag));
        slash(field);
        field.remove();
      }
      for (const held of [{ ctrlKey: true }, { metaKey: true }, { altKey: true }]) slash(document.body, held);
      expect(opened()).toBeFalse();
    });

    it('is a place of its own at its address: nobody is asked who they are, and no server is needed', async () => {
      people = () => throwError(() => new HttpErrorResponse({ status: 0 }));
      const { host } = await at('/scratch');
      slash(document.body);
      expect([opened(), host.querySelector('.shelf .on')?.textContent?.trim()]).toEqual([false, 'Scratch']);
      expect(host.querySelector('router-outlet')).not.toBeNull();
      expect(WITHOUT_PERSON.test('/methods/density')).toBeTrue();
      expect(['/', '/pours', '/scratchpad'].some((path) => WITHOUT_PERSON.test(path))).toBeFalse();
    });
  });

  it('forgets a person who is not of this database', async () => {
    store.dispatch(SessionActions.personChosen({ personId: 'gone' }));
    await open();
    expect([store.selectSignal(session.selectPersonId)(), TestBed.inject(Router).url]).toEqual([null, '/who']);
  });
});
