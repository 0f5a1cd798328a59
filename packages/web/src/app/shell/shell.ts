import { Notice } from '../ui/notice';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { NavigationEnd, Router, RouterLink, RouterOutlet } from '@angular/router';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { filter, fromEvent, map } from 'rxjs';
import { ScratchOver } from '../places/scratch/scratch-over';
import { hand, HandActions } from '../state/hand';
import { Choice } from '../ui/choice';
import { Guide } from './guide';
import { Help } from './help';
import { Helping } from './helping';
import { Waiting } from './waiting';
import { Pictogram } from '../ui/pictogram';
import { setPictograms } from '../ui/pictograms';
import { Known } from '../device/known';
import { OUTBOX_BEGUN, WAITS } from '../device/waits';
import { momentText } from '../parts/when';
import { initialed, session, SessionActions, THEMES, WITHOUT_PERSON, type Theme } from '../state/session';

/** The frame: the place in use, and the shelf of places along the bottom edge, where thumbs are. */
@Component({
  selector: 'km-root',
  imports: [Notice, RouterOutlet, RouterLink, ScratchOver, ButtonDirective, Choice, Pictogram, Guide, Help, Waiting],
  host: { '(window:beforeprint)': "wear('glare')", '(window:afterprint)': 'wear(theme())' },
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <a class="skip" href="#place">Skip to the place in use</a>
    <main id="place" tabindex="-1" [attr.inert]="scratch() && covered() ? '' : null">
      @if (problem(); as p) {
        <km-notice>{{ p.detail }}</km-notice>
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
    <div class="under">
      @if (since(); as at) {
        <p class="asof" role="status" data-testid="as-of">No connection: what is shown is as it was at {{ at }}.</p>
      }
      <!-- Every write goes on from here, whatever place is open: it comes once the first one is there. -->
      @if (personId() !== null) {
        @defer (when waits(); on timer(20s)) {
          <km-waiting />
        }
      }
      @if (guided()) {
        @defer (on immediate) {
          <km-guide [url]="url()" />
        }
      }
    </div>
    @if (helping.asked()) {
      @defer (on immediate) {
        <km-help [url]="url()" [(open)]="helping.open" />
      }
    }
    <nav class="shelf" aria-label="Places">
      <a class="mark" routerLink="/who" aria-label="Keen Mortar" [attr.aria-current]="atFirst() ? 'page' : null"
        ><km-pic name="trowel" [size]="28" /><span>Keen Mortar</span><small aria-hidden="true">{{ initials() }}</small></a
      >
      <a routerLink="/day" class="spot" [class.on]="atDay() && !scratch()" [attr.aria-current]="atDay() ? 'page' : null"
        ><km-pic name="day" [size]="24" />Day</a
      >
      <a routerLink="/pours" class="spot" [class.on]="atPours() && !scratch()" [attr.aria-current]="atPours() ? 'page' : null"
        ><km-pic name="truck" [size]="24" />Pours</a
      >
      <a routerLink="/bench" class="spot" [class.on]="atBench() && !scratch()" [attr.aria-current]="atBench() ? 'page' : null"
        ><km-pic name="flask" [size]="24" />Bench</a
      >
      <a routerLink="/breaks" class="spot" [class.on]="atBreaks() && !scratch()" [attr.aria-current]="atBreaks() ? 'page' : null"
        ><km-pic name="press" [size]="24" />Breaks</a
      >
      <a routerLink="/record" class="spot" [class.on]="atRecord() && !scratch()" [attr.aria-current]="atRecord() ? 'page' : null"
        ><km-pic name="tray" [size]="24" />Record</a
      >
      <a routerLink="/mixes" class="spot" [class.on]="atMixes() && !scratch()" [attr.aria-current]="atMixes() ? 'page' : null"
        ><km-pic name="mix" [size]="24" />Mixes</a
      >
      <a routerLink="/kit" class="spot" [class.on]="atKit() && !scratch()" [attr.aria-current]="atKit() ? 'page' : null"
        ><km-pic name="kit" [size]="24" />Kit</a
      >
      <a routerLink="/ledger" class="spot" [class.on]="atLedger() && !scratch()" [attr.aria-current]="atLedger() ? 'page' : null"
        ><km-pic name="ledger" [size]="24" />Ledger</a
      >
      @if (free()) {
        <a routerLink="/scratch" class="spot on" aria-current="page"><km-pic name="pencil" [size]="24" />Scratch</a>
      } @else {
        <button
          pButton
          [text]="true"
          type="button"
          class="spot"
          data-testid="scratch"
          [class.on]="scratch()"
          [attr.aria-expanded]="scratch()"
          (click)="toggleScratch()"
        >
          <km-pic name="pencil" [size]="24" />Scratch <kbd>/</kbd>
        </button>
      }
      <button pButton [text]="true" type="button" class="spot help" aria-label="Help and keys" (click)="helping.show()">
        <kbd>?</kbd>
      </button>
      <span class="end">
        <!-- Not needed to begin with: it comes once the place is there. -->
        @defer (on idle) {
          <km-choice label="Theme" class="theme" [quiet]="true" [options]="themes" [value]="theme()" (chosen)="setTheme($event)" />
          @if (loaded()) {
            <km-choice
              label="Who is at this device"
              class="who"
              [quiet]="true"
              [options]="people()"
              placeholder="Who is here?"
              [value]="personId()"
              (chosen)="setPerson($event)"
            />
          }
        }
      </span>
    </nav>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-rows: minmax(0, 1fr) auto auto;
      grid-template-columns: minmax(0, 1fr);
      height: 100dvh;
      position: relative;
    }
    .over {
      position: absolute;
      inset: 0 0 62px auto;
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
      min-height: 44px;
    }
    .skip:focus {
      left: 8px;
      top: 8px;
      z-index: 5;
    }
    /* The shelf: a cast ledge along the bottom edge; the place in use is cut out of it. */
    .shelf {
      display: flex;
      align-items: stretch;
      min-height: 62px;
      padding: 6px 12px 0;
      background: var(--page);
      position: relative;
    }
    .shelf::before {
      content: '';
      position: absolute;
      inset: 0 0 auto;
      height: 6px;
      border: 1px solid var(--rule);
      border-width: 1px 0;
      background: var(--ledge);
    }
    .mark {
      font-weight: 780;
      font-size: 16.5px;
      display: flex;
      align-items: center;
      gap: 9px;
      padding: 0 16px 0 6px;
      white-space: nowrap;
      text-decoration: none;
      letter-spacing: -0.01em;
    }
    .asof {
      padding: 4px 16px;
      background: var(--edge-wash);
      border-top: 1px solid var(--rule);
    }
    .mark small {
      display: none;
    }
    .shelf .spot {
      flex: none;
      display: flex;
      align-items: center;
      gap: 8px;
      min-width: 64px;
      padding: 0 16px;
      text-decoration: none;
      border: 1px solid transparent;
      border-width: 0 1px;
      border-radius: 0;
      background: none;
      color: inherit;
      font-size: 15px;
      position: relative;
    }
    .shelf .spot.on {
      background: var(--well);
      margin-top: -6px;
      padding-top: 6px;
      font-weight: 720;
      border-color: var(--rule);
    }
    @media (max-width: 1340px) {
      .shelf .spot {
        padding-inline: 9px;
        gap: 6px;
      }
    }
    /* Pictures over their words, as on a phone. */
    @media (max-width: 1180px) {
      .shelf .spot {
        flex-direction: column;
        justify-content: center;
        gap: 0;
        min-width: 44px;
        padding-inline: 5px;
        font-size: 13.5px;
      }
      .mark span,
      .spot:not(.help) kbd {
        display: none;
      }
    }
    .shelf .help {
      min-width: 44px;
      padding: 0 8px;
    }
    kbd {
      font: 600 12.5px var(--fig);
      border: 1px solid var(--rule);
      padding: 1px 6px;
      background: var(--well);
      color: var(--soft);
    }
    .end {
      margin-left: auto;
      display: flex;
      align-items: center;
      gap: 4px;
      min-width: 0;
    }
    .who {
      min-width: 0;
      max-width: 160px;
    }
    @media (max-width: 640px) {
      .shelf .mark {
        min-width: 38px;
        flex-direction: column;
        justify-content: center;
        gap: 0;
        padding: 0;
      }
      /* Who is here is chosen on the first screen, which the mark leads to. */
      .mark small {
        display: block;
        font-size: 13px;
      }
      .shelf {
        padding-inline: 2px;
        overflow-x: auto;
        overflow-y: hidden;
      }
      .shelf .spot {
        flex: 1 0 auto;
        min-width: 38px;
        padding: 0 1px;
        font-size: 12.5px;
        letter-spacing: -0.015em;
      }
      .shelf .spot.on {
        margin-top: 0;
        padding-top: 0;
      }
      @media (max-width: 400px) {
        .shelf .spot {
          font-size: 12px;
          letter-spacing: -0.03em;
        }
        .shelf .mark,
        .shelf .spot {
          min-width: 36px;
        }
      }
      /* Help, and how it looks, stand on the first screen there. */
      .shelf .help {
        display: none;
      }
      .end {
        display: none;
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
      .under,
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
  protected readonly initials = computed(() => {
    const name = this.everybody().find((p) => p.id === this.personId())?.name ?? '';
    return name
      .split(/\s+/)
      .map((part) => part.slice(0, 1))
      .join('')
      .slice(0, 3);
  });
  protected readonly people = computed(() => this.everybody().map(({ id, name }) => ({ id, label: initialed(name) })));
  protected readonly personId = this.store.selectSignal(session.selectPersonId);
  protected readonly theme = this.store.selectSignal(session.selectTheme);
  protected readonly loaded = this.store.selectSignal(session.selectLoaded);
  protected readonly problem = this.store.selectSignal(session.selectProblem);
  protected readonly themes = THEMES.map((id) => ({ id, label: id }));

  /** Whether something waits to be sent, or a place has begun to send: not before is the outbox needed here. */
  protected readonly waits = signal(localStorage.getItem(WAITS) !== null);
  private readonly known = inject(Known);
  protected readonly since = computed(() => {
    const at = this.known.since();
    return at === null ? null : momentText(new Date(at).toISOString());
  });
  protected readonly guided = this.store.selectSignal(session.selectGuide);
  /** Made when it is asked for first. */
  protected readonly helping = inject(Helping);

  protected readonly url = toSignal(
    inject(Router).events.pipe(
      filter((event) => event instanceof NavigationEnd),
      map((event) => event.urlAfterRedirects),
    ),
    { initialValue: '' },
  );
  protected readonly atDay = computed(() => this.url().startsWith('/day'));
  /** A sample's sheet belongs to the pours too. */
  protected readonly atPours = computed(() => /^\/(pours|samples)/.test(this.url()));
  protected readonly atBench = computed(() => this.url().startsWith('/bench'));
  protected readonly atBreaks = computed(() => this.url().startsWith('/breaks'));
  protected readonly atRecord = computed(() => this.url().startsWith('/record'));
  protected readonly atMixes = computed(() => /^\/(mixes|sources)/.test(this.url()));
  protected readonly atLedger = computed(() => /^\/(ledger|reports)/.test(this.url()));
  protected readonly atKit = computed(() => this.url().startsWith('/kit'));
  protected readonly atFirst = computed(() => this.url().startsWith('/who'));

  protected readonly scratch = this.store.selectSignal(hand.selectScratch);
  /** Where Scratch lies over all of the place, nothing beneath it is reached by keys. */
  protected readonly covered = (): boolean => matchMedia('(max-width: 760px)').matches;
  /** A place that needs neither a person nor the server. */
  protected readonly free = computed(() => WITHOUT_PERSON.test(this.url() || location.pathname));

  constructor() {
    setPictograms(document);
    // Beside the framework: a listener of its own draws the page again with each key.
    fromEvent<KeyboardEvent>(document, 'keydown')
      .pipe(takeUntilDestroyed())
      .subscribe((event) => this.key(event));
    fromEvent(document, OUTBOX_BEGUN)
      .pipe(takeUntilDestroyed())
      .subscribe(() => this.waits.set(true));
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
    if (event.key === '?' && !typing) {
      event.preventDefault();
      return this.helping.show();
    }
    if (event.key !== '/' || event.ctrlKey || event.metaKey || event.altKey || typing || this.scratch()) return;
    event.preventDefault();
    // On its own page it goes to the finder.
    if (this.free()) document.getElementById('finder')?.focus();
    else this.store.dispatch(HandActions.scratchOpened());
  }

  /** Paper is white whatever the screen is: what is printed wears black on white. */
  protected wear(theme: Theme): void {
    document.documentElement.dataset['theme'] = theme;
  }

  protected setTheme(theme: string): void {
    this.store.dispatch(SessionActions.themeChosen({ theme: theme as Theme }));
  }

  protected setPerson(personId: string): void {
    this.store.dispatch(SessionActions.personChosen({ personId }));
  }
}
