import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { toSignal } from '@angular/core/rxjs-interop';
import { NavigationEnd, Router, RouterLink, RouterOutlet } from '@angular/router';
import { Store } from '@ngrx/store';
import { Select } from 'primeng/select';
import { filter, map } from 'rxjs';
import { ScratchOver } from '../places/scratch/scratch-over';
import { hand, HandActions } from '../state/hand';
import { session, SessionActions, THEMES, WITHOUT_PERSON, type Theme } from '../state/session';

/** The frame: the place in use, and the shelf of places along the bottom edge, where thumbs are. */
@Component({
  selector: 'km-root',
  imports: [RouterOutlet, RouterLink, Select, FormsModule, ScratchOver],
  host: { '(document:keydown)': 'key($event)', '(window:beforeprint)': "wear('glare')", '(window:afterprint)': 'wear(theme())' },
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <a class="skip" href="#place">Skip to the place in use</a>
    <main id="place" tabindex="-1">
      @if (problem(); as p) {
        <p class="problem" role="alert">{{ p.detail }}</p>
      }
      @if (loaded() || free()) {
        <router-outlet />
      } @else if (!problem()) {
        <p class="place soft" role="status">Opening …</p>
      }
    </main>
    @if (scratch() && !free()) {
      @defer (on immediate) {
        <km-scratch-over class="over" />
      } @placeholder {
        <p class="over soft" role="status">Opening Scratch …</p>
      }
    }
    <nav class="shelf" aria-label="Places">
      <span class="mark">Keen Mortar</span>
      <a routerLink="/pours" [class.on]="atPours()" [attr.aria-current]="atPours() ? 'page' : null">Pours</a>
      @if (free()) {
        <a routerLink="/scratch" class="on" aria-current="page">Scratch</a>
      } @else {
        <button type="button" data-testid="scratch" [class.on]="scratch()" [attr.aria-expanded]="scratch()" (click)="toggleScratch()">
          Scratch <kbd class="soft small">/</kbd>
        </button>
      }
      <span class="end">
        <label class="unseen" for="theme">Theme</label>
        <select id="theme" class="theme" [ngModel]="theme()" (ngModelChange)="setTheme($event)">
          @for (t of themes; track t) {
            <option [value]="t">{{ t }}</option>
          }
        </select>
        @if (loaded()) {
          <p-select
            ariaLabel="Who is at this device"
            class="who"
            [options]="people()"
            optionLabel="name"
            optionValue="id"
            placeholder="Who is here?"
            [ngModel]="personId()"
            (ngModelChange)="setPerson($event)"
            appendTo="body"
          />
        }
      </span>
    </nav>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-rows: minmax(0, 1fr) auto;
      height: 100dvh;
      position: relative;
    }
    .over {
      position: absolute;
      inset: 0 0 58px auto;
      width: min(100%, 1040px);
      z-index: 4;
    }
    /* The clocks of the place in use stay in sight. */
    @media (min-width: 900px) {
      .over {
        top: 132px;
      }
    }
    main {
      overflow: auto;
      min-width: 0;
    }
    main:focus {
      outline: none;
    }
    .skip {
      position: absolute;
      left: -999px;
      background: var(--well);
      padding: 10px;
    }
    .skip:focus {
      left: 8px;
      top: 8px;
      z-index: 5;
    }
    .shelf {
      display: flex;
      align-items: stretch;
      min-height: 58px;
      padding: 0 14px;
      border-top: 1px solid var(--rule);
      background: var(--page);
      overflow-x: auto;
    }
    .mark {
      font-weight: 750;
      display: flex;
      align-items: center;
      padding: 0 20px 0 8px;
      white-space: nowrap;
    }
    .shelf a,
    .shelf > button {
      background: none;
      cursor: pointer;
      gap: 6px;
      flex: none;
      display: flex;
      align-items: center;
      min-width: 64px;
      padding: 0 16px;
      text-decoration: none;
      border: 1px solid transparent;
      border-width: 0 1px;
    }
    .shelf a.on,
    .shelf button.on {
      background: var(--well);
      margin-top: -1px;
      font-weight: 700;
      border-color: var(--rule);
    }
    .end {
      margin-left: auto;
      display: flex;
      align-items: center;
      gap: 12px;
    }
    .theme {
      border: 0;
      background: none;
      min-height: 44px;
      padding: 0 4px;
      color: var(--soft);
    }
    .who {
      min-width: 190px;
    }
    @media (max-width: 640px) {
      .mark {
        display: none;
      }
      .shelf {
        padding: 0 4px;
      }
      .shelf a,
      .shelf > button {
        padding: 0 12px;
      }
      .theme {
        max-width: 66px;
      }
      .who {
        min-width: 0;
        max-width: 132px;
      }
      .end {
        gap: 4px;
      }
    }
    /* All of it, on as many pages as it takes, not the part that was on the screen; what is over a place, alone. */
    @media print {
      :host {
        display: block;
        height: auto;
      }
      main {
        overflow: visible;
      }
      .shelf,
      main:has(~ .over) {
        display: none;
      }
      .over {
        position: static;
        width: auto;
      }
    }
  `,
})
export class Shell {
  private readonly store = inject(Store);
  private readonly everybody = this.store.selectSignal(session.selectPeople);
  protected readonly people = computed(() => [...this.everybody()]);
  protected readonly personId = this.store.selectSignal(session.selectPersonId);
  protected readonly theme = this.store.selectSignal(session.selectTheme);
  protected readonly loaded = this.store.selectSignal(session.selectLoaded);
  protected readonly problem = this.store.selectSignal(session.selectProblem);
  protected readonly themes = THEMES;

  private readonly url = toSignal(
    inject(Router).events.pipe(
      filter((event) => event instanceof NavigationEnd),
      map((event) => event.urlAfterRedirects),
    ),
    { initialValue: '' },
  );
  /** A sample's sheet belongs to the pours too. */
  protected readonly atPours = computed(() => /^\/(pours|samples)/.test(this.url()));

  protected readonly scratch = this.store.selectSignal(hand.selectScratch);
  /** A place that needs neither a person nor the server. */
  protected readonly free = computed(() => WITHOUT_PERSON.test(this.url() || location.pathname));

  constructor() {
    this.wear(this.theme());
    this.store.dispatch(SessionActions.opened());
  }

  protected toggleScratch(): void {
    this.store.dispatch(this.scratch() ? HandActions.scratchClosed() : HandActions.scratchOpened());
  }

  /** `/` opens Scratch over any place; within a field it is a fraction's slash. */
  protected key(event: KeyboardEvent): void {
    const { target } = event;
    const typing = target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));
    if (event.key !== '/' || event.ctrlKey || event.metaKey || event.altKey || typing || this.free() || this.scratch()) return;
    event.preventDefault();
    this.store.dispatch(HandActions.scratchOpened());
  }

  /** Paper is white whatever the screen is: what is printed wears black on white. */
  protected wear(theme: Theme): void {
    document.documentElement.dataset['theme'] = theme;
  }

  protected setTheme(theme: Theme): void {
    this.store.dispatch(SessionActions.themeChosen({ theme }));
  }

  protected setPerson(personId: string): void {
    this.store.dispatch(SessionActions.personChosen({ personId }));
  }
}
