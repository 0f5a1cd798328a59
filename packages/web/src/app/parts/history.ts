import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { HistoryPoint } from '@keen-mortar/contract';

const WIDTH = 214;
const HEIGHT = 66;

/** The same thing in the last loads of the mix, against its limits: what is usual here. */
@Component({
  selector: 'km-history',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.viewBox]="'0 0 ' + width + ' ' + height" role="img" [attr.aria-label]="label()">
      @if (zone(); as z) {
        <rect x="0" [attr.y]="z.y" [attr.width]="width" [attr.height]="z.h" fill="var(--zone)" />
      }
      <polyline [attr.points]="line()" fill="none" stroke="var(--soft)" />
      @for (p of dots(); track $index) {
        @if (p.state === 'out') {
          <path [attr.d]="'M' + p.x + ' ' + (p.y - 8) + 'l8 13h-16z'" fill="var(--out)" />
        } @else if (p.state === 'edge') {
          <circle [attr.cx]="p.x" [attr.cy]="p.y" r="4" fill="var(--well)" stroke="var(--edge)" stroke-width="2" />
        } @else {
          <circle [attr.cx]="p.x" [attr.cy]="p.y" r="4" fill="var(--within)" />
        }
      }
    </svg>
    <p class="soft small">{{ label() }}</p>
  `,
  styles: `
    svg {
      width: 100%;
      max-width: 260px;
      display: block;
    }
  `,
})
export class History {
  readonly points = input.required<readonly HistoryPoint[]>();
  readonly lower = input<string | undefined>();
  readonly upper = input<string | undefined>();
  protected readonly width = WIDTH;
  protected readonly height = HEIGHT;
  private readonly range = computed(() => {
    const values = [
      ...this.points().map((p) => Number(p.reported)),
      ...[this.lower(), this.upper()].flatMap((t) => (t === undefined ? [] : [Number(t)])),
    ];
    const [low, high] = [Math.min(...values), Math.max(...values)];
    const room = (high - low || Math.abs(high) * 0.1 || 1) * 0.15;
    return { low: low - room, high: high + room };
  });
  private readonly y = computed(() => {
    const { low, high } = this.range();
    return (value: number): number => HEIGHT - ((value - low) / (high - low)) * HEIGHT;
  });
  protected readonly zone = computed(() => {
    const { low, high } = this.range();
    if (this.lower() === undefined && this.upper() === undefined) return null;
    const top = this.y()(this.upper() === undefined ? high : Number(this.upper()));
    return { y: top, h: this.y()(this.lower() === undefined ? low : Number(this.lower())) - top };
  });
  protected readonly dots = computed(() => {
    const step = (WIDTH - 20) / Math.max(1, this.points().length - 1);
    return this.points().map((p, i) => ({ x: 10 + i * step, y: this.y()(Number(p.reported)), state: p.state }));
  });
  protected readonly line = computed(() =>
    this.dots()
      .map((p) => `${p.x},${p.y}`)
      .join(' '),
  );
  protected readonly label = computed(() =>
    this.points()
      .map((p) => p.reported)
      .join(', '),
  );
}
