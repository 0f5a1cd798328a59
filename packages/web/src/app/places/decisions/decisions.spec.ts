import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { DecisionEffect, DecisionsPage, DecisionTried } from '@keen-mortar/contract';
import { provideStore, Store } from '@ngrx/store';
import { of } from 'rxjs';
import { Api } from '../../api/api';
import { hand } from '../../state/hand';
import { session, SessionActions } from '../../state/session';
import { PERSON, project } from '../../testing/sample';
import { DecisionsPlace } from './decisions-page';

const waits: DecisionsPage['waiting'][number] = {
  finding: 'strength-test',
  title: 'Strength test',
  subjectId: 'set',
  part: 'strength@28',
  grade: 'asks',
  says: 'At 28 days: 31.6 MPa.',
  next: [],
  evidence: [],
  acceptance: 'waits',
  choices: ['counts', 'counts-not'],
  cannot: [{ decided: 'again', why: 'No specimen of D-1 is left to test.' }],
  decision: null,
  where: 'Landing, D-1',
};
const point = (day: number) => ({ castAt: `2026-05-0${day}T08:00:00Z` });
const effect: DecisionEffect = {
  changes: [],
  papers: [],
  series: {
    title: 'Deck, 28 days, MPa',
    figures: [{ label: 'Strength tests', now: '2', then: '3', asked: null, holds: null }],
    course: {
      unit: 'MPa',
      tests: [1, 2, 3].map((day) => ({ ...point(day), strength: 30 + day, decided: day === 3, counts: true })),
      now: [],
      then: [{ ...point(3), mean: 32 }],
      specified: 32,
      floor: 28.5,
    },
  },
};

describe('the place of decisions', () => {
  it('shows what may be decided, what cannot be and why, and what the choice would do', async () => {
    const asked: DecisionTried[] = [];
    const api = {
      decisions: () => of({ waiting: [waits], unanswered: [], decided: [], total: 0 }),
      decisionEffect: (tried: DecisionTried) => (asked.push(tried), of(effect)),
    };
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideRouter([]),
        { provide: Api, useValue: api },
        provideStore({ [session.name]: session.reducer, [hand.name]: hand.reducer }),
      ],
    });
    const store = TestBed.inject<Store>(Store);
    store.dispatch(SessionActions.loaded({ people: [PERSON], projects: [project], offset: 0 }));
    store.dispatch(SessionActions.personChosen({ personId: PERSON.id }));
    const fixture = TestBed.createComponent(DecisionsPlace);
    await fixture.whenStable();
    const host = fixture.nativeElement as HTMLElement;
    const choices = [...host.querySelectorAll<HTMLElement>('.choice')].map((c) => [
      c.querySelector('b')!.textContent,
      c.querySelector('input')!.disabled,
      c.querySelector('.small')!.textContent,
    ]);
    expect(choices.map(([label, not]) => [label, not])).toEqual([
      ['It counts, as tested', false],
      ['It does not count', false],
      ['Test again', true],
    ]);
    expect(choices[2]![2]).toBe('No specimen of D-1 is left to test.');
    host.querySelector<HTMLInputElement>('#decided-counts')!.click();
    await fixture.whenStable();
    expect(asked.map((a) => [a.subject, a.decided])).toEqual([['set', 'counts']]);
    expect(host.querySelector('[data-testid="effect"] tbody')!.textContent.replace(/\s+/g, ' ')).toContain('Strength tests23');
    expect(host.querySelector('km-effect-chart [role="img"], km-effect-chart canvas')?.getAttribute('aria-label')).toBe(
      'The newest 3 strength tests; the last mean of three is – now and 32.0 MPa then',
    );
  });
});
