import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked, type OnDestroy } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { MixSeries } from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import { CONTROL_GRADES, leftOutWords, movedWords, shiftCauseWords, unitLabel, type SeriesView } from '@keen-mortar/core';
import { ButtonDirective } from 'primeng/button';
import { ProgressBar } from 'primeng/progressbar';
import { Api, problemOf } from '../../../api/api';
import { inBackground, type Running } from '../../../test/long/background';
import type { MixAnswer, MixTask } from '../../../test/long/tasks';
import { shapeOf } from '../../../parts/findings';
import { Notice } from '../../../ui/notice';
import { Pictogram } from '../../../ui/pictogram';
import { VerdictShape } from '../../../ui/verdict-shape';
import { SeriesChart } from './series-chart';
import { acceptanceOf, counted, dayOf, headline, KIND_PICTURES, schoolsOf, seriesOf } from './series.view';

/** The strength series of a mix: what it says, whether and when it moved, what changed then, and what is still to come. */
@Component({
  selector: 'km-series-page',
  imports: [ButtonDirective, Notice, Pictogram, ProgressBar, RouterLink, SeriesChart, VerdictShape],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './series-page.html',
  styleUrl: './series-page.css',
})
export class SeriesPage implements OnDestroy {
  private readonly api = inject(Api);
  readonly mixId = input.required<string>();
  /** In the address, in days: which of the series, where the mix is accepted at several ages. */
  readonly age = input<string>();
  protected readonly series = signal<MixSeries | null>(null);
  protected readonly answer = signal<MixAnswer | null>(null);
  protected readonly problem = signal<Problem | null>(null);
  protected readonly running = signal<{ readonly share: number; readonly doing: string } | null>(null);
  /** Of the whole of a series of which only the newest tests are shown. */
  protected readonly whole = signal<SeriesView | null>(null);
  private work: Running<MixAnswer> | null = null;

  protected readonly view = computed(() => this.answer()?.view ?? null);
  protected readonly unit = computed(() => unitLabel(this.view()?.unit ?? 'MPa'));
  protected readonly headline = computed(() => {
    const [s, v] = [this.series(), this.view()];
    return s && v ? headline(s, v) : '';
  });
  protected readonly schools = computed(() => {
    const [s, v] = [this.series(), this.view()];
    return s && v ? schoolsOf(s, v) : [];
  });
  /** As its newest tests say. */
  protected readonly accepted = computed(() => (this.series() ? acceptanceOf(this.series()!) : null));
  protected readonly shapeOf = shapeOf;
  protected readonly moved = computed(() => (this.view() ? movedWords(this.view()!) : ''));
  /** Between which casts it moved. */
  protected readonly between = computed(() => {
    const [s, shift] = [this.series(), this.view()?.shift];
    if (!s || !shift) return '';
    const tests = counted(s);
    const [from, to] = [tests[shift.from - 1], tests[shift.to]];
    return from && to ? `between ${this.day(from.castAt)} and ${this.day(to.castAt)}` : '';
  });
  protected readonly leftOut = computed(() => (this.series() ? leftOutWords(this.series()!.tests) : ''));
  protected readonly since = computed(() => {
    const [s, v] = [this.series(), this.view()];
    const first = s && counted(s)[0];
    return first && v ? `${v.count === 1 ? 'One strength test' : `${v.count} strength tests`}, cast from ${this.day(first.castAt)}` : '';
  });
  protected readonly grades = CONTROL_GRADES;
  protected readonly pictures = KIND_PICTURES;
  protected readonly shiftCauseWords = shiftCauseWords;
  protected day = (iso: string): string => dayOf(iso, this.series()?.project.timezone ?? 'local');

  constructor() {
    effect(() => {
      const [id, age] = [this.mixId(), this.age()];
      untracked(() => this.ask(id, age === undefined ? undefined : Number(age)));
    });
  }

  private ask(id: string, age?: number): void {
    this.series.set(null);
    this.answer.set(null);
    this.whole.set(null);
    this.problem.set(null);
    this.api.mixSeries(id, age).subscribe({
      next: (series) => {
        this.series.set(series);
        this.run(this.taskOf(series), (answer) => this.answer.set(answer));
      },
      error: (e: unknown) => this.problem.set(problemOf(e)),
    });
  }

  private taskOf(s: MixSeries): MixTask {
    const tests = counted(s);
    return {
      kind: 'mix',
      tests: tests.map(({ strength, companions }) => ({ strength, companions })),
      of: seriesOf(s, s.earlier),
      traced: tests.map((t) => ({ strength: Number(t.strength.text), at: Date.parse(t.castAt), traits: t.traits })),
      traits: s.traits,
      pairs: s.pairs,
      early: s.waiting.map((w) => w.early),
    };
  }

  private run(task: MixTask, then: (answer: MixAnswer) => void): void {
    this.work?.cancel();
    this.running.set({ share: 0, doing: 'Reading the series' });
    this.work = inBackground(task, (share, doing) => this.running.set({ share, doing }));
    this.work.answer.then(
      (answer) => {
        this.running.set(null);
        then(answer);
      },
      (e: unknown) => {
        this.running.set(null);
        this.problem.set(problemOf(e));
      },
    );
  }

  protected cancel(): void {
    this.work?.cancel();
    this.running.set(null);
  }

  /** All tests that count, whatever their number: statistics and acceptance of the whole. */
  protected askWhole(): void {
    const s = this.series();
    if (!s) return;
    this.api.wholeSeries(s.mix.id, s.accepted.ageDays).subscribe({
      next: ({ strength, unit }) => {
        const tests = strength.map((text) => ({ strength: { text, unit: unit as 'MPa' }, companions: [] }));
        const task: MixTask = {
          kind: 'mix',
          tests,
          of: seriesOf(s, 0),
          traced: [],
          traits: [],
          pairs: [],
          early: [],
        };
        this.run(task, ({ view }) => this.whole.set(view));
      },
      error: (e: unknown) => this.problem.set(problemOf(e)),
    });
  }

  /** Share of a bar; nothing but its length. */
  protected bar = (x: number): string => `${Math.round(x * 100)}%`;
  protected print = (): void => window.print();

  /** Where the interval of an expected strength stands on a scale around f’c. */
  protected readonly scale = computed(() => {
    const told = (this.answer()?.foretold ?? []).flatMap((f) => (f ? [Number(f.low), Number(f.high)] : []));
    const fc = Number(this.series()?.accepted.specified?.text ?? NaN);
    const all = [...told, ...(Number.isFinite(fc) ? [fc] : [])];
    const [least, most] = [Math.min(...all), Math.max(...all)];
    const x = (v: number): number => 4 + ((v - least) / (most - least || 1)) * 142;
    return { x, fc: Number.isFinite(fc) ? x(fc) : null };
  });
  protected at = (text: string): number => this.scale().x(Number(text));

  ngOnDestroy(): void {
    this.work?.cancel();
  }
}
