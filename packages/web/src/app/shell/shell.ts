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
  templateUrl: './shell.html',
  styleUrl: './shell.css',
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
  protected readonly atLedger = computed(() => /^\/(ledger|reports|decisions)/.test(this.url()));
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
