import { ChangeDetectionStrategy, Component } from '@angular/core';

interface Row {
  /** From batching to the end of its time, and where its sample was taken; in the drawing’s own units. */
  readonly road: number;
  readonly box: number;
  readonly pin?: number;
  readonly over?: number;
  readonly says?: readonly [string, string];
}

const ROWS: readonly Row[] = [
  { road: 40, box: 92 },
  { road: 70, box: 122, says: ['Loads on one axis of time', 'the time in the truck burns as a fuse'] },
  { road: 100, box: 152, pin: 162, says: ['A sample', 'one press takes you to its tests'] },
  { road: 130, box: 182 },
  { road: 160, box: 212, over: 290, says: ['What is late or out', 'says so in words, with what to do'] },
];
const STEP = 58;

/** How a pour will look once there is one: faint, with what each part says. */
@Component({
  selector: 'km-pour-faint',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg viewBox="0 0 660 350" role="img" aria-label="How a pour looks: its loads on one axis of time, their samples, and what is late">
      <path d="M30 8V342M120 8V342M210 8V342M300 8V342" class="grid" />
      @for (r of rows; track r.road) {
        <g [attr.transform]="'translate(0 ' + (16 + $index * step) + ')'">
          @if (r.over) {
            <path d="M0 0H340V50H0Z" class="over" />
          }
          <path d="M0 52H340" class="grid" />
          <text x="6" y="32" class="n">{{ $index + 1 }}</text>
          <path [attr.d]="'M' + r.road + ' 18v14M' + r.road + ' 25H' + r.box" class="road" />
          <path [attr.d]="'M' + r.box + ' 14h34v22h-34Z'" class="load" />
          @if (r.over) {
            <path [attr.d]="'M' + (r.box + 34) + ' 25H' + r.over" class="late" />
          } @else {
            <path [attr.d]="'M' + (r.box + 34) + ' 25h52'" class="fuse" />
            <circle [attr.cx]="r.box + 86" cy="25" r="4.5" class="bead" />
          }
          @if (r.pin) {
            <path [attr.d]="'M' + r.pin + ' 40V8'" class="pin" />
            <circle [attr.cx]="r.pin" cy="6" r="4.5" class="pinhead" />
          }
          @if (r.says; as s) {
            <path [attr.d]="'M' + (r.over ?? r.pin ?? r.box + 90) + ' 25H372'" class="lead" />
            <circle [attr.cx]="r.over ?? r.pin ?? r.box + 90" cy="25" r="3.5" class="dot" />
            <text x="382" y="23" class="b">{{ s[0] }}</text>
            <text x="382" y="41" class="s">{{ s[1] }}</text>
          }
        </g>
      }
      <path d="M272 8V342" class="now" />
    </svg>
  `,
  styles: `
    svg {
      display: block;
      width: 100%;
      max-width: 760px;
    }
    path {
      fill: none;
      stroke-width: 1.4;
    }
    .grid {
      stroke: var(--hair);
    }
    .road {
      stroke: var(--rule);
      stroke-dasharray: 2 4;
    }
    .load {
      fill: var(--con-l);
      stroke: var(--rule);
    }
    .fuse {
      stroke: var(--rule);
      stroke-width: 5;
    }
    .bead {
      fill: var(--rule);
    }
    .over {
      fill: var(--out-wash);
    }
    .late {
      stroke: var(--out);
      stroke-width: 6;
      opacity: 0.6;
    }
    .now {
      stroke: var(--now);
    }
    .pin {
      stroke: var(--soft);
      stroke-width: 2;
    }
    .pinhead {
      fill: var(--soft);
    }
    .lead {
      stroke: var(--deep);
    }
    .dot {
      fill: var(--deep);
    }
    text {
      font: 400 14px var(--text);
      fill: var(--soft);
    }
    .n {
      font: 500 19px var(--fig);
    }
    .b {
      font-weight: 700;
      font-size: 15px;
      fill: var(--ink);
    }
    /* Drawn half as large, its words would be too small to read. */
    @media (max-width: 640px) {
      .s {
        display: none;
      }
      .b {
        font-size: 21px;
      }
      .n {
        font-size: 26px;
      }
    }
  `,
})
export class PourFaint {
  protected readonly rows = ROWS;
  protected readonly step = STEP;
}
