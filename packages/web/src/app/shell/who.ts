import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import type { Pour } from '@keen-mortar/contract';
import { DEMONSTRATION } from '@keen-mortar/contract/demonstration';
import { unitLabel } from '@keen-mortar/core/units';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { Api } from '../api/api';
import { longDay, today } from '../parts/when';
import { project, session, SessionActions, THEMES, type Theme } from '../state/session';
import { Pictogram } from '../ui/pictogram';
import { Begin } from './begin';
import { Boardwalk } from './boardwalk';
import { Helping } from './helping';

/** So many of the project's newest pours are asked for what is on today. */
const NEWEST = 20;

/** The first screen: what this is, who is at the device, and what is on today. */
@Component({
  selector: 'km-who',
  imports: [RouterLink, ButtonDirective, Pictogram, Begin, Boardwalk],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './who.html',
  styleUrl: './who.css',
})
export class Who {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly api = inject(Api);
  /** Where somebody was going before the name was asked for. */
  readonly then = input<string>();
  protected readonly people = this.store.selectSignal(session.selectPeople);
  protected readonly personId = this.store.selectSignal(session.selectPersonId);
  protected readonly project = this.store.selectSignal(project);
  private readonly pours = signal<readonly Pour[] | null>(null);
  protected readonly day = computed(() => today(this.project()?.timezone));
  protected readonly dayWords = computed(() => longDay(this.day()));
  protected readonly onToday = computed(() => this.pours()?.filter((p) => p.on === this.day()) ?? null);
  protected readonly next = computed(
    () =>
      this.pours()
        ?.filter((p) => p.on > this.day())
        .at(-1) ?? null,
  );
  protected readonly adding = signal<'person' | 'project' | null>(null);
  protected readonly unit = unitLabel;
  protected readonly longDay = longDay;

  constructor() {
    effect(() => {
      const p = this.project();
      if (p)
        untracked(() =>
          this.api.pours(p.id, 0, NEWEST).subscribe({ next: (page) => this.pours.set(page.items), error: () => this.pours.set([]) }),
        );
    });
  }

  /** A first pour is led through where nothing can be spoiled. */
  protected readonly isDemonstration = computed(() => this.project()?.code === DEMONSTRATION);
  protected readonly guided = this.store.selectSignal(session.selectGuide);
  protected readonly things = [
    { name: 'truck', label: 'ticket' },
    { name: 'cone', label: 'slump' },
    { name: 'bowl', label: 'density' },
    { name: 'meter', label: 'air' },
  ] as const;

  /** On a phone the shelf has no room for these. */
  protected readonly helping = inject(Helping);
  protected readonly themes = THEMES;
  protected readonly theme = this.store.selectSignal(session.selectTheme);

  protected wear(theme: Theme): void {
    this.store.dispatch(SessionActions.themeChosen({ theme }));
  }

  protected guide(): void {
    this.store.dispatch(SessionActions.guideBegun());
  }

  protected choose(personId: string): void {
    this.store.dispatch(SessionActions.personChosen({ personId }));
    // Only a place of our own: an address that somebody else made leads nowhere else.
    const then = this.then();
    void this.router.navigateByUrl(then !== undefined && /^\/(?!\/)/.test(then) ? then : this.guided() ? '/pours' : '/day');
  }
}
