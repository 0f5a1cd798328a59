import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';

/** Room for the drawing, and for the dimensions beside and below it. */
const ROOM = { width: 230, height: 150, left: 110, top: 16 };

/** A specimen to its own scale between its platens, with its dimensions on it. */
@Component({
  selector: 'km-specimen',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg viewBox="0 0 450 196" aria-hidden="true">
      @if (box(); as b) {
        @switch (shape()) {
          @case ('cylinder') {
            <path [attr.d]="'M' + b.x + ' ' + b.y + 'h' + b.w + 'v' + b.h + 'h-' + b.w + 'Z'" class="con" />
            <ellipse [attr.cx]="b.x + b.w / 2" [attr.cy]="b.y + b.h / 2" [attr.rx]="b.w / 2" [attr.ry]="b.w * 0.13" class="cut" />
          }
          @case ('lying') {
            <path [attr.d]="'M' + b.x + ' ' + b.y + 'h' + b.w + 'v' + b.h + 'h-' + b.w + 'Z'" class="con" />
            <path [attr.d]="'M' + b.x + ' ' + (b.y + b.h / 2) + 'h' + b.w" class="mark" />
          }
          @default {
            <path [attr.d]="'M' + b.x + ' ' + b.y + 'h' + b.w + 'v' + b.h + 'h-' + b.w + 'Z'" class="con" />
          }
        }
        @for (s of stones(); track $index) {
          <path [attr.d]="s" class="bit" />
        }
        @if (shape() === 'beam') {
          <path [attr.d]="'M' + b.x + ' ' + (b.y + b.h) + 'l-7 14h14ZM' + (b.x + b.w) + ' ' + (b.y + b.h) + 'l-7 14h14Z'" class="steel" />
          <path [attr.d]="'M' + (b.x + b.w / 3) + ' ' + b.y + 'v-13M' + (b.x + (2 * b.w) / 3) + ' ' + b.y + 'v-13'" class="press" />
        } @else {
          <path [attr.d]="'M' + (b.x - 14) + ' ' + (b.y - 8) + 'h' + (b.w + 28) + 'v8h-' + (b.w + 28) + 'Z'" class="steel" />
          <path [attr.d]="'M' + (b.x - 14) + ' ' + (b.y + b.h) + 'h' + (b.w + 28) + 'v8h-' + (b.w + 28) + 'Z'" class="steel" />
        }
        @if (height()) {
          <path [attr.d]="'M' + (b.x - 26) + ' ' + b.y + 'v' + b.h + 'm-5 0h10m-10 -' + b.h + 'h10'" class="dim" />
          <text [attr.x]="b.x - 36" [attr.y]="b.y + b.h / 2 + 5" text-anchor="end">{{ height() }}</text>
        }
        @if (shape() === 'cylinder') {
          <path [attr.d]="'M' + b.x + ' ' + (b.y + b.h / 2) + 'h' + (b.w + 26)" class="dim" />
          <text [attr.x]="b.x + b.w + 32" [attr.y]="b.y + b.h / 2 + 5">{{ width() }}</text>
          @if (across()) {
            <path
              [attr.d]="
                'M' +
                (b.x + b.w * 0.3) +
                ' ' +
                (b.y + b.h / 2 + b.w * 0.11) +
                'L' +
                (b.x + b.w * 0.7) +
                ' ' +
                (b.y + b.h / 2 - b.w * 0.11) +
                'L' +
                (b.x + b.w + 26) +
                ' ' +
                (b.y + b.h / 2 - 26)
              "
              class="dim"
            />
            <text [attr.x]="b.x + b.w + 32" [attr.y]="b.y + b.h / 2 - 22">{{ across() }}</text>
          }
        } @else {
          <path [attr.d]="'M' + b.x + ' ' + (b.y + b.h + 20) + 'h' + b.w + 'm0 -5v10m-' + b.w + ' -10v10'" class="dim" />
          <text [attr.x]="b.x + b.w + 10" [attr.y]="b.y + b.h + 26">{{ width() }}{{ across() ? ' × ' + across() : '' }}</text>
        }
      }
    </svg>
  `,
  styles: `
    svg {
      display: block;
      width: 100%;
      max-width: 470px;
    }
    path,
    ellipse {
      fill: none;
      stroke: var(--ink);
      stroke-width: 1.6;
      stroke-linejoin: round;
    }
    .con {
      fill: var(--con);
    }
    .cut {
      fill: var(--con-l);
      stroke-dasharray: 4 3;
      stroke-width: 1.2;
    }
    .bit {
      fill: var(--con-l);
      stroke: none;
      opacity: 0.75;
    }
    .steel {
      fill: var(--steel-l);
    }
    .dim {
      stroke: var(--soft);
      stroke-width: 1;
    }
    .mark,
    .press {
      stroke: var(--now);
      stroke-width: 2.5;
    }
    text {
      font: 500 15px var(--fig);
      fill: var(--ink);
    }
  `,
})
export class SpecimenDrawing {
  readonly shape = input.required<'cylinder' | 'lying' | 'cube' | 'beam'>();
  /** As they are written on it; '' where one is not known. */
  readonly width = input('');
  readonly across = input('');
  readonly height = input('');
  /** Width over height, drawn true; null while one of the two is not known. */
  readonly ratio = input<number | null>(null);

  protected readonly box = computed(() => {
    const usual = { cylinder: 0.5, lying: 2, cube: 1, beam: 3.4 }[this.shape()];
    // What nothing is made like is not drawn as keyed: the fault says so beside the reading.
    const ratio = Math.min(4.5, Math.max(0.3, this.ratio() ?? usual));
    const most = this.shape() === 'cylinder' ? ROOM.height : ROOM.height - 22;
    const h = Math.min(most, ROOM.width / ratio);
    const w = h * ratio;
    return { x: ROOM.left + (ROOM.width - w) / 2, y: ROOM.top + (ROOM.height - h) / 2, w, h };
  });

  /** The same stones in every specimen, where there is room for them. */
  protected readonly stones = computed(() => {
    const b = this.box();
    const places = [
      [0.16, 0.1, 6],
      [0.55, 0.16, 8],
      [0.84, 0.12, 5],
      [0.3, 0.28, 7],
      [0.72, 0.32, 6],
      [0.14, 0.7, 7],
      [0.44, 0.76, 6],
      [0.78, 0.7, 8],
      [0.28, 0.9, 5],
      [0.62, 0.91, 6],
      [0.88, 0.9, 5],
    ] as const;
    return places.map(([fx, fy, r]) => {
      const [x, y] = [b.x + Math.min(b.w - r - 3, Math.max(r + 2, fx * b.w)), b.y + Math.min(b.h - r - 2, Math.max(r + 2, fy * b.h))];
      return `M${x - r} ${y}l${r * 0.7} ${-r * 0.8}h${r * 0.7}l${r * 0.5} ${r * 0.7}l${-r * 0.4} ${r * 0.8}h${-r}Z`;
    });
  });
}
