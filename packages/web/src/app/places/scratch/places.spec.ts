import { Clipboard } from '@angular/cdk/clipboard';
import { Location } from '@angular/common';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { RouterTestingHarness } from '@angular/router/testing';
import { By } from '@angular/platform-browser';
import { DateTime } from 'luxon';
import type { AnyInputs } from '@keen-mortar/core';
import { provideStore, Store } from '@ngrx/store';
import { hand, HandActions, type InHand } from '../../state/hand';
import { Clock } from '../../device/clock';
import { session } from '../../state/session';
import { choose, pickMoment } from '../../testing/kit';
import { find } from './find';
import { Finder } from './finder';
import { MethodPage } from './method-page';
import { calendarOf } from '../../parts/calendar';
import { PlanPage } from './plan/plan-page';
import { ScratchOver } from './scratch-over';
import { ScratchPage } from './scratch-page';

const kg = (text: string) => ({ text, unit: 'kg' as const });
const density = { full: kg('19.31'), empty: kg('3.21'), volume: { text: '7.043', unit: 'L' } } as unknown as AnyInputs;
const inHand: InHand = {
  method: 'density',
  variant: 'en',
  system: 'si',
  inputs: density,
  where: 'load 6, sample Q-106',
  keeps: ['density'],
};

describe('the places of Scratch', () => {
  let copied: string[];

  beforeEach(() => {
    copied = [];
    localStorage.setItem('km.scratch.system', 'si');
    localStorage.removeItem('km.hours');
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideRouter([
          { path: 'scratch', component: ScratchPage },
          { path: 'scratch/plan', component: PlanPage },
          { path: 'scratch/:method', component: ScratchPage },
        ]),
        provideStore({ [session.name]: session.reducer, [hand.name]: hand.reducer }),
        { provide: Clipboard, useValue: { copy: (text: string) => copied.push(text) > 0 } },
      ],
    });
  });
  const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
  const main = (host: HTMLElement) => host.querySelector('[data-result="density"] b')?.textContent;

  describe('as a page', () => {
    const at = async (url: string): Promise<{ host: HTMLElement; harness: RouterTestingHarness; page: ComponentFixture<unknown> }> => {
      const harness = await RouterTestingHarness.create(url);
      // The inputs of the route are bound by the application's router; here by hand.
      harness.fixture.detectChanges();
      return { host: harness.routeNativeElement!, harness, page: harness.fixture };
    };

    it('without a computation lists them all', async () => {
      const { host } = await at('/scratch');
      expect(host.querySelectorAll('km-families li').length).toBeGreaterThan(60);
      expect(host.querySelector('h1')).toBeNull();
    });

    it('reads its readings from the address, writes them there when the fingers rest, and copies', async () => {
      const fixture = TestBed.createComponent(ScratchPage);
      const host = fixture.nativeElement as HTMLElement;
      fixture.componentRef.setInput('method', 'density');
      await fixture.whenStable();
      expect(host.querySelector('[data-testid="empty"]')).not.toBeNull();
      host.querySelector<HTMLButtonElement>('[data-testid="example"]')!.click();
      await fixture.whenStable();
      expect([main(host), host.querySelector('[data-testid="empty"]')]).toEqual(['2286', null]);
      await wait(450);
      await fixture.whenStable();
      expect(decodeURIComponent(TestBed.inject(Location).path(true))).toContain('"full":"19.31+kg"');
      expect(host.querySelector('km-working')!.textContent).toContain('(19.31 − 3.21) / 0.007043');
      for (const kind of ['text', 'json', 'csv', 'link']) host.querySelector<HTMLButtonElement>(`[data-testid="copy-${kind}"]`)!.click();
      expect(copied.map((text) => text.includes('19.31'))).toEqual([true, true, true, true]);
      expect(copied[3]).toContain('/scratch/density#variant=astm&system=si&readings=');
      host.querySelector<HTMLButtonElement>('[data-testid="undo"]')!.click();
      await fixture.whenStable();
      expect(host.querySelector('[data-testid="empty"]')).not.toBeNull();
    });

    it('takes back a paste by its keys, but never while somebody types', async () => {
      const fixture = TestBed.createComponent(ScratchPage);
      const host = fixture.nativeElement as HTMLElement;
      fixture.componentRef.setInput('method', 'density');
      await fixture.whenStable();
      host.querySelector<HTMLButtonElement>('[data-testid="example"]')!.click();
      await fixture.whenStable();
      const z = (target: Element) =>
        target.dispatchEvent(new KeyboardEvent('keydown', { key: 'z', ctrlKey: true, bubbles: true, cancelable: true }));
      z(host.querySelector('#scratch-full')!);
      await fixture.whenStable();
      expect(main(host)).toBe('2286');
      z(host.querySelector('h1')!);
      await fixture.whenStable();
      expect(main(host)).toBeUndefined();
    });

    it('says when there is no such computation', async () => {
      const fixture = TestBed.createComponent(ScratchPage);
      fixture.componentRef.setInput('method', 'nothing');
      await fixture.whenStable();
      expect((fixture.nativeElement as HTMLElement).querySelector('[role="alert"]')!.textContent).toContain(
        'There is no computation “nothing”',
      );
    });
  });

  describe('over a place', () => {
    const over = async (): Promise<{ host: HTMLElement; fixture: ComponentFixture<ScratchOver>; store: Store }> => {
      const store = TestBed.inject<Store>(Store);
      store.dispatch(HandActions.shown({ hand: inHand }));
      store.dispatch(HandActions.scratchOpened());
      const fixture = TestBed.createComponent(ScratchOver);
      document.body.append(fixture.nativeElement as HTMLElement);
      await fixture.whenStable();
      return { host: fixture.nativeElement as HTMLElement, fixture, store };
    };

    it('is filled with what is in hand, and hands it back to where there is a record for it', async () => {
      const { host, fixture, store } = await over();
      expect([main(host), (document.activeElement as HTMLInputElement).id]).toEqual(['2290', 'scratch-full']);
      await wait(250);
      await fixture.whenStable();
      expect(host.querySelector('[data-testid="as-page"]')!.getAttribute('href')).toContain(
        '/scratch/density#variant=en&system=si&readings=',
      );
      const take = host.querySelector<HTMLButtonElement>('[data-testid="take"]')!;
      expect(take.textContent?.trim()).toBe('Put into load 6, sample Q-106');
      take.click();
      expect(store.selectSignal(hand.selectScratch)()).toBeFalse();
      store.dispatch(HandActions.shown({ hand: { ...inHand, keeps: [] } }));
      await fixture.whenStable();
      expect(host.querySelector('[data-testid="take"]')).toBeNull();
      fixture.destroy();
    });

    it('closes with Escape, and gives the focus back', async () => {
      const before = document.createElement('button');
      document.body.append(before);
      before.focus();
      const { host, fixture, store } = await over();
      host.querySelector('#scratch-full')!.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }));
      expect(store.selectSignal(hand.selectScratch)()).toBeFalse();
      fixture.destroy();
      expect(document.activeElement).toBe(before);
      before.remove();
    });

    it('another computation begins blank; the one in hand is filled again; a plan has a page of its own', async () => {
      const { host, fixture, store } = await over();
      const pick = async (words: string): Promise<void> => {
        const finder = fixture.debugElement.query(By.directive(Finder)).componentInstance as Finder;
        finder.chosen.emit(find(words)[0]!.id);
        await fixture.whenStable();
      };
      await pick('compaction factor');
      expect([host.querySelector('h1')!.textContent, host.querySelector<HTMLInputElement>('#scratch-empty')!.value]).toEqual([
        'Compaction factor',
        '',
      ]);
      await pick('density');
      expect(main(host)).toBe('2290');
      const navigated = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
      await pick('plan backwards');
      expect(navigated).toHaveBeenCalledWith(['/scratch', 'plan']);
      expect(store.selectSignal(hand.selectScratch)()).toBeFalse();
      fixture.destroy();
    });
  });

  describe('a method’s page', () => {
    it('is made from its definition; another address says so', async () => {
      const fixture = TestBed.createComponent(MethodPage);
      const host = fixture.nativeElement as HTMLElement;
      fixture.componentRef.setInput('method', 'density');
      await fixture.whenStable();
      expect([host.querySelector('.page h1')!.textContent, host.querySelectorAll('table').length > 2]).toEqual(['Density', true]);
      expect(host.textContent).toContain('D = (Mc − Mm) / Vm');
      fixture.componentRef.setInput('method', 'nothing');
      await fixture.whenStable();
      expect(host.querySelector('h1')!.textContent).toBe('There is no method “nothing”');
    });
  });

  describe('planning backwards', () => {
    let fixture: ComponentFixture<PlanPage>;
    let host: HTMLElement;
    const set = async (label: string, value: string): Promise<void> => {
      if (label === 'Work' || label === 'Wished for') await choose(fixture, label, value);
      else await pickMoment(fixture, label, DateTime.fromISO(value).toUTC().toISO());
    };
    const row = (id: string) => [...host.querySelectorAll(`[data-event="${id}"] td`)].map((td) => td.textContent?.trim() ?? '');

    beforeEach(async () => {
      // A plan hangs on the hour: this one is made on a Friday.
      TestBed.overrideProvider(Clock, { useValue: { now: () => new Date('2026-11-27T09:40').getTime() } });
      fixture = TestBed.createComponent(PlanPage);
      host = fixture.nativeElement as HTMLElement;
      await fixture.whenStable();
      await set('at', '2026-12-02T07:00');
    });

    it('puts every moment where method and opening hours leave room', async () => {
      expect(row('soak').slice(0, 3)).toEqual(['Tue, 1 Dec 2026, 15:30', 'Tue, 1 Dec 2026, 12:00', 'Tue, 1 Dec 2026, 16:00']);
      expect(row('cone')).toEqual(['Wed, 2 Dec 2026, 07:00', '', '', 'wished']);
      await set('Work', 'breaks');
      await set('at', '2026-12-01T16:00');
      expect(row('d3').slice(1, 3)).toEqual(['Fri, 4 Dec 2026, 14:00', 'Fri, 4 Dec 2026, 17:30']);
    });

    it('another wish starts from where that moment fell', async () => {
      await set('Wished for', 'soak');
      expect(host.querySelector<HTMLInputElement>('#wished-at')!.value).toBe('1 Dec 2026 15:30');
      expect(row('soak')[3]).toBe('wished');
    });

    it('says between which moments there is no plan, and what is wrong with the hours', async () => {
      await set('at', '2026-12-02T22:00');
      expect(host.querySelector('[data-testid="conflict"]')!.textContent).toContain(
        '“Drain, first cone trial” would have to be Wed, 2 Dec 2026, 22:00',
      );
      await set('The lab opens', '18:00');
      expect(host.querySelector('[role="alert"]')!.textContent).toBe('The lab closes before it opens.');
      // Hours that cannot be are not remembered.
      expect(localStorage.getItem('km.hours')).toBeNull();
      await set('The lab opens', '06:00');
      expect(JSON.parse(localStorage.getItem('km.hours')!)).toEqual({ opens: '06:00', closes: '17:30', days: [1, 2, 3, 4, 5] });
    });

    it('a day that opens is one more to plan on', async () => {
      await set('at', '2026-12-07T07:00');
      // Sunday is closed: nothing can soak for fifteen hours before Monday at seven.
      expect(host.querySelector('[data-testid="conflict"]')).not.toBeNull();
      [...host.querySelectorAll<HTMLElement>('p-selectbutton p-togglebutton')].at(-1)!.click();
      await fixture.whenStable();
      expect(row('soak')[0]).toBe('Sun, 6 Dec 2026, 15:30');
    });

    it('the bead is moved by keys and by dragging, a quarter of an hour at a time', async () => {
      const bead = host.querySelector<HTMLElement>('[data-testid="bead"]')!;
      bead.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowUp' }));
      bead.dispatchEvent(new KeyboardEvent('keydown', { key: 'PageUp' }));
      bead.dispatchEvent(new KeyboardEvent('keydown', { key: 'x' }));
      await fixture.whenStable();
      expect(bead.getAttribute('aria-valuetext')).toBe('Thu, 3 Dec 2026, 07:15');
      document.body.append(host);
      const box = host.querySelector('.drawn svg')!.getBoundingClientRect();
      const mouse = (kind: string, share: number) =>
        new MouseEvent(kind, { clientX: box.left + box.width * share, buttons: 1, detail: 1, bubbles: true, cancelable: true });
      bead.dispatchEvent(mouse('mousedown', 0));
      for (const share of [0.1, 0.3, 0.6]) document.dispatchEvent(mouse('mousemove', share));
      expect(bead.style.transform).toMatch(/^$|translate3d\(0px, 0px, 0px\)/);
      document.dispatchEvent(mouse('mouseup', 0.6));
      document.dispatchEvent(mouse('mousemove', 0));
      await fixture.whenStable();
      const moved = Number(bead.getAttribute('aria-valuenow'));
      expect([moved % 900_000, moved > new Date('2026-12-02T07:15').getTime()]).toEqual([0, true]);
      host.remove();
    });

    it('as a calendar names every moment in universal time, with the room that it has', () => {
      const at = Date.UTC(2026, 11, 1, 16, 0);
      const text = calendarOf([
        { uid: 'soak', title: 'Into the water', description: 'Between 15:00 and 16:00, because it soaks for 15 to 19 h.', at },
      ]);
      expect(text).toContain('DTSTART:20261201T160000Z');
      expect(text.replace(/\r\n\s/g, '')).toContain('Between 15:00 and 16:00');
    });
  });
});
