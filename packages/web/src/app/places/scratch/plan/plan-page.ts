import { CdkDrag, type CdkDragMove, type DragRef, type Point } from '@angular/cdk/drag-drop';
import { Icon } from '../../../ui/icon';
import { Notice } from '../../../ui/notice';
import { ButtonDirective } from 'primeng/button';
import { FormsModule } from '@angular/forms';
import { SelectButton } from 'primeng/selectbutton';
import { TableModule } from 'primeng/table';
import { Choice } from '../../../ui/choice';
import { Moment } from '../../../ui/moment';
import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, inject, signal, viewChild } from '@angular/core';
import { Router } from '@angular/router';
import { JOBS, plan, reachOf, type Interval, type PlannedEvent } from '@keen-mortar/core';
import { DateTime } from 'luxon';
import { momentText } from '../../../parts/when';
import { Clock } from '../../../device/clock';
import { Finder } from '../finder';
import { minutesOf, openings, rememberedHours, rememberHours, type Hours } from './openings';

const MINUTE = 60_000;
const STEP = 15 * MINUTE;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;
const WIDTH = 1000;
const ROW = 46;
const TOP = 26;
/** So many days are named along the drawing. */
const NAMED = matchMedia('(max-width: 700px)').matches ? 4 : 10;
const DAYS = ['Su', 'Mo', 'Tu', 'We', 'Th', 'Fr', 'Sa'];

interface Row {
  readonly id: string;
  readonly label: string;
  readonly planned: PlannedEvent;
  readonly wished: boolean;
  /** It stands in the way: its window is where it would have to fall. */
  readonly fails: boolean;
  readonly why: string;
}

/** One is named, the wished one if it is among them, with its window; of the others how many. */
function closedWords(label: Words, window: Words, events: readonly string[], wished: string): string {
  const named = events.find((id) => id === wished) ?? events[0]!;
  const others = events.length - 1;
  const more = others === 0 ? '' : ` So would ${others} more step${others === 1 ? '' : 's'}.`;
  return `No plan: ${label(named)} would have to be ${window(named)}, when the lab is closed.${more} Move the wished time, or open the lab then.`;
}

type Words = (id: string) => string;

/** A quarter of an hour: nobody plans finer. */
const rounded = (ms: number): number => Math.round(ms / STEP) * STEP;

/** Seven in the morning, when the first cone is usually wished for: the next one with a working day before it to prepare on. */
function nextMorning(now: number): number {
  const day = new Date(now);
  day.setDate(day.getDate() + 1);
  // Tuesday to Friday: on a Monday the lab was closed the day before.
  do day.setDate(day.getDate() + 1);
  while (day.getDay() < 2 || day.getDay() === 6);
  return day.setHours(7, 0, 0, 0);
}

/** Planning backwards: one moment is wished for, and every other one falls where the method and the opening hours leave room. */
@Component({
  selector: 'km-plan-page',
  imports: [CdkDrag, Icon, Notice, Finder, ButtonDirective, Choice, Moment, SelectButton, FormsModule, TableModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './plan-page.html',
  styleUrl: './plan-page.css',
})
export class PlanPage {
  private readonly router = inject(Router);
  private readonly clock = inject(Clock);
  private readonly canvas = viewChild<ElementRef<SVGSVGElement>>('canvas');
  protected readonly jobs = JOBS;
  protected readonly days = [1, 2, 3, 4, 5, 6, 0].map((day) => ({ day, label: DAYS[day]! }));
  protected readonly width = WIDTH;
  protected readonly rowHeight = ROW;
  protected readonly top = TOP;

  protected readonly jobId = signal(JOBS[0]!.id);
  private readonly wishedId = signal<string | null>(null);
  protected readonly at = signal(nextMorning(this.clock.now()));
  protected readonly hours = signal<Hours>(rememberedHours());
  protected readonly says = (ms: number): string => momentText(new Date(ms).toISOString());
  protected readonly wishedAt = computed(() => new Date(this.at()).toISOString());
  /** What scrolls sideways is reached by keys. */
  protected readonly reachable = { tableContainer: { tabindex: '0', 'aria-label': 'The plan', role: 'region' } };
  protected readonly byId = (_at: number, row: Row): string => row.id;

  protected readonly job = computed(() => this.jobs.find((j) => j.id === this.jobId())!);
  protected readonly wished = computed(() => this.wishedId() ?? this.job().wished);
  protected readonly hoursFault = computed(() => {
    const { opens, closes, days } = this.hours();
    if (!(minutesOf(opens) < minutesOf(closes))) return 'The lab closes before it opens.';
    return days.length === 0 ? 'The lab is open on no day.' : null;
  });

  private readonly open = computed(() => {
    const reach = reachOf(this.job());
    return openings(this.hours(), this.at() - reach, this.at() + reach);
  });
  /** To the quarter of an hour: a plan does not move with every second. */
  protected readonly now = signal(Math.ceil(this.clock.now() / STEP) * STEP);
  protected readonly plan = computed(() => {
    const { events, links } = this.job();
    const fixed = events.map((e) => (e.id === this.wished() ? { ...e, notBefore: this.at(), notAfter: this.at() } : e));
    const order = events.findIndex((e) => e.id === this.wished());
    // Before the wished moment as late as may be, after it as early: nobody wants to wait.
    return {
      late: plan(fixed, links, this.open(), 'latest', this.now()),
      early: plan(fixed, links, this.open(), 'earliest', this.now()),
      order,
    };
  });

  protected readonly rows = computed((): Row[] => {
    const { late, early, order } = this.plan();
    const { events, links } = this.job();
    if (late.events.length === 0 || early.events.length === 0) return [];
    return events.map((e, i) => ({
      id: e.id,
      label: e.label,
      planned: (i <= order ? late : early).events[i]!,
      wished: e.id === this.wished(),
      fails: this.failing().includes(e.id),
      why: links
        .filter((l) => l.to === e.id)
        .map((l) => l.why)
        .join('; '),
    }));
  });

  /** The one step that stands in the way, or the two that a delay joins. */
  private readonly failing = computed((): readonly string[] => {
    const { late } = this.plan();
    if (late.ok) return [];
    if (late.fails.kind === 'delay') return [late.fails.from, late.fails.to];
    return late.fails.kind === 'past' ? [late.fails.event] : late.fails.events;
  });

  /** Why there is no plan, in words. */
  protected readonly conflict = computed(() => {
    const { late } = this.plan();
    if (late.ok) return null;
    const { events, links } = this.job();
    const label = (id: string): string => `“${events.find((e) => e.id === id)!.label}”`;
    const window = (id: string): string => {
      const found = late.events.find((e) => e.id === id);
      if (!found) return '';
      const [from, to] = [this.says(found.feasible.from), this.says(found.feasible.to)];
      return from === to ? from : `between ${from} and ${to}`;
    };
    switch (late.fails.kind) {
      case 'closed':
        return closedWords(label, window, late.fails.events, this.wished());
      case 'past': {
        const earliest = late.events.find((e) => e.id === this.wished());
        const instead = earliest ? ` From now, the earliest for ${label(this.wished())} is ${this.says(earliest.feasible.from)}.` : '';
        return `Too late for that: ${label(late.fails.event)} had to be done by ${this.says(late.fails.by)}.${instead}`;
      }
      case 'delay': {
        const { from, to } = late.fails;
        const why = links.find((l) => l.from === from && l.to === to)!.why;
        return `No plan: from ${label(from)} to ${label(to)} (${why}) does not fit between the opening hours. Move the wished time, or open longer.`;
      }
    }
  });

  /** What the drawing spans. */
  protected readonly span = computed((): Interval => {
    const all = this.rows().flatMap(({ planned }) => [planned.feasible.from, planned.feasible.to, planned.best]);
    const [from, to] = [Math.min(this.at(), ...all), Math.max(this.at(), ...all)];
    const room = Math.max((to - from) * 0.06, 3 * HOUR);
    return { from: from - room, to: to + room };
  });
  protected readonly x = computed(() => {
    const { from, to } = this.span();
    return (ms: number): number => ((Math.min(Math.max(ms, from), to) - from) / (to - from)) * WIDTH;
  });
  protected readonly shades = computed(() => {
    const { from, to } = this.span();
    return this.open()
      .filter((o) => o.to > from && o.from < to)
      .map((o) => ({ x: this.x()(o.from), w: this.x()(o.to) - this.x()(o.from) }));
  });
  protected readonly midnights = computed(() => {
    const { from, to } = this.span();
    const day = new Date(from);
    day.setHours(24, 0, 0, 0);
    const found: { x: number; label: string }[] = [];
    const every = Math.max(1, Math.ceil((to - from) / DAY / NAMED));
    for (let i = 0; day.getTime() < to; day.setDate(day.getDate() + 1), i++)
      if (i % every === 0)
        found.push({
          x: this.x()(day.getTime()),
          label: new Intl.DateTimeFormat('en-GB', { weekday: 'short', day: 'numeric', month: 'short' }).format(day),
        });
    return found;
  });
  protected readonly height = computed(() => TOP + this.job().events.length * ROW);

  protected choose(jobId: string): void {
    this.jobId.set(jobId);
    this.wishedId.set(null);
  }

  protected wish(id: string): void {
    const row = this.rows().find((r) => r.id === id);
    if (row) this.at.set(rounded(row.planned.best));
    this.wishedId.set(id);
  }

  protected keyed(at: string | null): void {
    if (at !== null) this.at.set(Date.parse(at));
  }

  /** An hour of the day as the moment of today that the picker shows. */
  protected hourAt(end: 'opens' | 'closes'): string {
    const at = DateTime.fromISO(this.hours()[end]);
    return at.isValid ? (at.toUTC().toISO() ?? '') : '';
  }

  protected setHour(end: 'opens' | 'closes', at: string | null): void {
    if (at !== null) this.set({ [end]: DateTime.fromISO(at).toFormat('HH:mm') });
  }

  protected set(change: Partial<Hours>): void {
    this.hours.update((hours) => ({ ...hours, ...change }));
    if (this.hoursFault() === null) rememberHours(this.hours());
  }

  protected move(event: KeyboardEvent): void {
    const by = { ArrowLeft: -STEP, ArrowDown: -STEP, ArrowRight: STEP, ArrowUp: STEP, PageDown: -DAY, PageUp: DAY }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    this.at.update((at) => at + by);
  }

  /** The scale must not move under the finger: while the bead is dragged it is the one that it was taken by. */
  protected readonly scale = signal<{ from: number; to: number } | null>(null);
  /** The bead stands where its time is: what is dragged moves the time, and the time the bead. */
  protected readonly stays = (_pointer: Point, _bead: DragRef, box: DOMRect): Point => ({ x: box.x, y: box.y });

  protected drag({ event }: CdkDragMove): void {
    const box = this.canvas()?.nativeElement.getBoundingClientRect();
    const [scale, at] = [this.scale(), 'touches' in event ? event.touches[0]?.clientX : event.clientX];
    if (!box || !scale || at === undefined) return;
    this.at.set(rounded(scale.from + ((at - box.left) / box.width) * (scale.to - scale.from)));
  }

  protected async save(): Promise<void> {
    const { saveCalendar } = await import('../../../parts/calendar');
    const job = this.job();
    saveCalendar(
      this.jobId(),
      this.rows().map(({ id, label, planned: { best, feasible } }) => ({
        uid: `${job.id}-${id}-${best}`,
        title: label,
        description: `${job.label}. Between ${this.says(feasible.from)} and ${this.says(feasible.to)}. ${job.source.designation}.`,
        at: best,
      })),
    );
  }

  protected go(id: string): void {
    void this.router.navigate(['/scratch', id]);
  }
}
