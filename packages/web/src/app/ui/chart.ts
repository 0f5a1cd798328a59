import type { ElementRef } from '@angular/core';
import { afterRenderEffect, ChangeDetectionStrategy, Component, inject, input, viewChild, type OnDestroy } from '@angular/core';
import { Store } from '@ngrx/store';
import {
  BarController,
  BarElement,
  CategoryScale,
  Chart,
  Decimation,
  Filler,
  LinearScale,
  LineController,
  LineElement,
  LogarithmicScale,
  PointElement,
  ScatterController,
  Tooltip,
  type ChartConfiguration,
} from 'chart.js';
import { session } from '../state/session';

Chart.register(
  BarController,
  BarElement,
  CategoryScale,
  Decimation,
  Filler,
  LinearScale,
  LineController,
  LineElement,
  LogarithmicScale,
  PointElement,
  ScatterController,
  Tooltip,
);

// A point on the edge is a whole point.
Chart.defaults.datasets.scatter.clip = 8;
Chart.defaults.datasets.line.clip = 8;

/** Colours of the theme in use, for what is painted rather than styled. */
export interface Inks {
  readonly ink: string;
  readonly soft: string;
  readonly hair: string;
  readonly deep: string;
  readonly now: string;
  readonly within: string;
  readonly zone: string;
  readonly out: string;
  readonly well: string;
  /** On the dark plate of an instrument. */
  readonly plate: { readonly ink: string; readonly soft: string; readonly line: string; readonly now: string; readonly within: string };
}

export type Drawing = (inks: Inks) => ChartConfiguration;

const inks = (): Inks => {
  const style = getComputedStyle(document.documentElement);
  const ink = (name: string): string => style.getPropertyValue(name).trim();
  return {
    ink: ink('--ink'),
    soft: ink('--soft'),
    hair: ink('--hair'),
    deep: ink('--deep'),
    now: ink('--now'),
    within: ink('--within'),
    zone: ink('--zone'),
    out: ink('--out'),
    well: ink('--well'),
    plate: {
      ink: ink('--plate-ink'),
      soft: ink('--plate-soft'),
      line: ink('--plate-l'),
      now: ink('--plate-now'),
      within: ink('--plate-within'),
    },
  };
};

/** A chart in our own colours; `says` is what it shows, for whoever does not see it. */
@Component({
  selector: 'km-chart',
  host: { '(window:beforeprint)': 'forPaper()', '(window:afterprint)': 'forScreen()' },
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<div class="box" [style.height.px]="height()"><canvas #canvas role="img" [attr.aria-label]="says()"></canvas></div>`,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    .box {
      position: relative;
      background: var(--well);
      border: 1px solid var(--hair);
      padding: 4px;
    }
  `,
})
export class ChartBox implements OnDestroy {
  readonly drawing = input.required<Drawing>();
  readonly says = input.required<string>();
  readonly height = input(300);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly theme = inject(Store).selectSignal(session.selectTheme);
  private chart: Chart | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    afterRenderEffect(() => {
      this.theme();
      const drawing = this.drawing();
      clearTimeout(this.timer);
      // Each in a task of its own, so that neither a key nor another picture waits for it.
      this.timer = setTimeout(() => this.draw(drawing));
    });
  }

  /** On paper in the paper's colours and no wider than its column there. */
  protected forPaper(): void {
    clearTimeout(this.timer);
    this.draw(this.drawing());
    this.chart?.resize(PAPER_WIDTH, this.canvas().nativeElement.clientHeight);
  }

  protected forScreen(): void {
    this.draw(this.drawing());
    this.chart?.resize();
  }

  private draw(drawing: Drawing): void {
    const colours = inks();
    const { type, data, options } = drawing(colours);
    const style = getComputedStyle(document.body);
    Chart.defaults.font = { family: style.fontFamily, size: 13 };
    Chart.defaults.color = colours.soft;
    Chart.defaults.borderColor = colours.hair;
    if (this.chart) {
      this.chart.data = data;
      this.chart.options = { ...options, ...FIXED };
      this.chart.update('none');
    } else {
      this.chart = new Chart(this.canvas().nativeElement, { type, data, options: { ...options, ...FIXED } });
    }
  }

  ngOnDestroy(): void {
    clearTimeout(this.timer);
    this.chart?.destroy();
  }
}

/** What A4 and letter both have between their margins, in CSS pixels. */
const PAPER_WIDTH = 600;

const FIXED = { animation: false, responsive: true, maintainAspectRatio: false } as const;

const PLAIN = new Intl.NumberFormat('en', { useGrouping: false, maximumSignificantDigits: 8 });

/** An axis with its title; its numbers plain, as they are keyed. */
export const axis = (text: string, more: Readonly<Record<string, unknown>> & { ticks?: object } = {}): object => ({
  title: { display: true, text },
  ...more,
  ticks: { callback: (value: number) => PLAIN.format(value), ...more.ticks },
});

/** An axis of classes: its labels are words. */
export const classAxis = (text: string): object => ({ title: { display: true, text } });
