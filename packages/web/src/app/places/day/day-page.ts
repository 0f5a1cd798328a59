import { Findings } from '../../parts/findings';
import { ChangeDetectionStrategy, Component, computed, DestroyRef, effect, inject, signal, untracked } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { DayView } from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import { withinSentence, type DueGroup } from '@keen-mortar/core/due-groups';
import { Store } from '@ngrx/store';
import { DateTime } from 'luxon';
import { ButtonDirective } from 'primeng/button';
import { Api, problemOf } from '../../api/api';
import { Attention } from '../../device/attention';
import { Clock } from '../../device/clock';
import { initialed, nameOf, project, session } from '../../state/session';
import { Choice } from '../../ui/choice';
import { Icon } from '../../ui/icon';
import { Notice } from '../../ui/notice';
import { Pictogram } from '../../ui/pictogram';
import { cannotBeMet, firstFor, groupsOf, lanesOf, rowOf, type DayRow } from './day.view';
import { Movable } from './movable';
import { PlanIt } from './plan-it';
import { leftWords, ribbonOf } from '../../parts/ribbon';
import { RibbonScale } from '../../parts/ribbon-scale';

const TICK = 1000;
/** Others plan and test too: the day is asked for again so often, ms. */
const AGAIN = 30_000;
/** Minutes and seconds are shown in the last ten minutes, ms; with some to spare. */
const COUNTED = 12 * 60_000;
const STEP = 15 * 60_000;
const DAY = 86_400_000;

/** All that is due, on one ribbon of time: what ends first at the top, by where the work is done. */
@Component({
  selector: 'km-day-page',
  imports: [RouterLink, ButtonDirective, Choice, Icon, Movable, Notice, Pictogram, PlanIt, RibbonScale, Findings],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './day-page.html',
  styleUrls: ['../../parts/ribbon.css', './day-page.css'],
})
export class DayPage {
  private readonly api = inject(Api);
  private readonly clock = inject(Clock);
  private readonly attention = inject(Attention);
  private readonly store = inject(Store);
  private readonly project = this.store.selectSignal(project);
  private readonly people = this.store.selectSignal(session.selectPeople);
  protected readonly person = this.store.selectSignal(session.selectPersonId);
  private readonly nameOf = this.store.selectSignal(nameOf);
  protected readonly view = signal<DayView | null>(null);
  protected readonly problem = signal<Problem | null>(null);
  protected readonly now = this.clock.ticking(TICK);
  /** To the minute: what is drawn does not move with every second. */
  protected readonly minute = computed(() => Math.floor(this.now() / 60_000) * 60_000);

  protected readonly whose = signal<'all' | 'mine'>('all');
  protected readonly whoseOptions = computed(() => [
    { id: 'all', label: 'Everyone’s things' },
    { id: 'mine', label: initialed(this.nameOf()(this.person() ?? '')) },
  ]);
  protected readonly unfolded = signal<ReadonlySet<DueGroup>>(new Set());
  protected readonly chosenKey = signal<string | null>(null);

  /** Whether anything ends soon: its last minutes are counted by the second, all else by the minute. */
  private readonly closing = computed(() => {
    const minute = this.minute();
    return (this.view()?.things ?? []).some((t) => t.endsAt !== null && Math.abs(Date.parse(t.endsAt) - minute) < COUNTED);
  });
  private readonly paced = computed(() => (this.closing() ? this.now() : this.minute()));
  private readonly everything = computed(() => {
    const v = this.view();
    return v ? v.things.map((t) => rowOf(t, this.paced(), v.timezone)) : [];
  });
  private readonly rows = computed(() => {
    const who = this.person();
    return this.whose() === 'all' ? this.everything() : this.everything().filter((r) => r.thing.who === who);
  });
  protected readonly first = computed(() => firstFor(this.rows(), this.person()));
  protected readonly groups = computed(() => {
    const v = this.view();
    return v ? groupsOf(this.rows(), v, this.paced(), this.unfolded()) : [];
  });
  protected readonly ribbon = computed(() => {
    const v = this.view();
    return v ? ribbonOf(this.minute(), v.timezone, v.openings) : null;
  });
  protected readonly cannot = computed(() => cannotBeMet(this.rows()));
  protected readonly lanes = computed(() => {
    const v = this.view();
    const ids = this.people().map((p) => p.id);
    return v ? lanesOf(this.everything(), ids, this.paced(), v.timezone) : [];
  });
  protected readonly chosen = computed(() => this.everything().find((r) => r.key === this.chosenKey()) ?? null);
  protected readonly count = computed(() => this.rows().length);
  protected readonly missed = computed(() => this.rows().filter((r) => r.state === 'missed').length);
  protected readonly planned = computed(() => this.rows().filter((r) => r.thing.plannedAt !== null));

  protected readonly heading = computed(() =>
    DateTime.fromMillis(this.minute(), { zone: this.view()?.timezone ?? 'local' }).toFormat('cccc d LLLL'),
  );
  protected readonly hoursToday = computed(() => {
    const v = this.view();
    if (!v) return '';
    const day = DateTime.fromMillis(this.minute(), { zone: v.timezone });
    const o = v.openings.find((one) => one.from < day.endOf('day').toMillis() && one.to > day.startOf('day').toMillis());
    const clock = (ms: number): string => DateTime.fromMillis(ms, { zone: v.timezone }).toFormat('HH:mm');
    return o ? `open ${clock(o.from)} to ${clock(o.to)}` : 'closed today';
  });
  protected readonly clockNow = computed(() => this.when(this.minute(), 'HH:mm'));
  protected readonly announced = signal('');
  private readonly told = new Set<string>();

  constructor() {
    effect((gone) => {
      const p = this.project();
      if (!p) return;
      const ask = (): void => untracked(() => this.ask(p.id));
      ask();
      const timer = setInterval(ask, AGAIN);
      gone(() => clearInterval(timer));
    });
    effect(() => this.tell(this.everything()));
    inject(DestroyRef).onDestroy(() => void this.attention.stayAwake(false));
  }

  private ask(projectId: string): void {
    this.api.day(projectId).subscribe({
      next: (view) => {
        this.view.set(view);
        this.problem.set(null);
      },
      error: (e: unknown) => this.problem.set(problemOf(e)),
    });
  }

  /** Heard and felt once for each: when it is about to end, and when it is over. The screen stays awake while one of a pour burns. */
  private tell(rows: readonly DayRow[]): void {
    void this.attention.stayAwake(rows.some((r) => r.thing.group === 'pour' && r.state === 'open'));
    for (const r of rows) {
      const over = r.state === 'missed' && this.told.has(`${r.key} soon`);
      const key = `${r.key} ${r.soon ? 'soon' : r.state}`;
      if ((!r.soon && !over) || this.told.has(key)) continue;
      this.told.add(key);
      this.announced.set(over ? `${r.thing.label}, ${r.thing.what}: ${r.thing.then}` : `${r.thing.label}, ${r.thing.what}: ${r.says} left`);
      this.attention.alert(over ? 'over' : 'soon');
    }
  }

  protected name(id: string | null): string {
    return id === null ? '' : initialed(this.nameOf()(id));
  }

  protected when(ms: number, format = 'ccc d LLL, HH:mm'): string {
    return DateTime.fromMillis(ms, { zone: this.view()?.timezone ?? 'local' }).toFormat(format);
  }

  protected share(r: DayRow): number {
    return Math.min(1, Math.max(0, (r.ends - this.now()) / Math.max(1, r.ends - r.opens)));
  }

  protected left = (r: DayRow): string => leftWords(r.ends - this.now());

  protected fold(id: DueGroup): void {
    this.unfolded.update((open) => new Set(open.has(id) ? [...open].filter((one) => one !== id) : [...open, id]));
  }

  protected unfoldedHas = (id: DueGroup): boolean => this.unfolded().has(id);
  protected readonly lower = withinSentence;
  protected readonly max = Math.max;
  protected ms = (iso: string): number => Date.parse(iso);

  protected came(view: DayView): void {
    this.view.set(view);
    this.moving.set(null);
  }

  /** A bead that is dragged, or moved by keys, and not planned yet. */
  protected readonly moving = signal<{ readonly key: string; readonly at: number } | null>(null);
  protected beadAt = (r: DayRow): number | null => (this.moving()?.key === r.key ? this.moving()!.at : r.bead);

  protected take(r: DayRow): void {
    this.chosenKey.set(r.key);
  }

  protected drag(r: DayRow, share: number): void {
    const ribbon = this.ribbon();
    if (ribbon) this.move(r, ribbon.at(share));
  }

  protected keyed(r: DayRow, event: KeyboardEvent): void {
    const by = { ArrowLeft: -STEP, ArrowDown: -STEP, ArrowRight: STEP, ArrowUp: STEP, PageDown: -DAY, PageUp: DAY }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    this.move(r, (this.beadAt(r) ?? this.now()) + by);
  }

  private move(r: DayRow, at: number): void {
    this.chosenKey.set(r.key);
    this.moving.set({ key: r.key, at: Math.round(at / STEP) * STEP });
  }

  protected movable = (r: DayRow): boolean => r.thing.attended && r.state !== 'missed';

  protected async calendar(): Promise<void> {
    const { saveCalendar } = await import('../../parts/calendar');
    saveCalendar(
      'day',
      this.rows()
        .filter((r) => r.state !== 'missed' && r.thing.group !== 'pour')
        .map((r) => ({
          uid: `${r.thing.due}-${r.thing.openId}-${r.opens}`,
          title: `${r.thing.label}: ${r.thing.what}`,
          description: `${[r.thing.window, r.thing.where].filter(Boolean).join(', ')}. Between ${this.when(r.opens)} and ${this.when(r.ends)}; ${r.then}.`,
          at: r.at ?? r.ends,
        })),
    );
  }
}
