import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { FaultMap } from '@keen-mortar/core';

const WIDE = 460;
const HIGH = 250;
const PAD = 46;
/** How far the arrows go, in reaches of what is usual. */
const ARROW = 1.75;

/** Would a fault look like this? Earlier results of a source, where they usually lie, this one, and whither each slip would have led. */
@Component({
  selector: 'km-fault-chart',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.viewBox]="'0 0 ' + wide + ' ' + high" role="img" [attr.aria-label]="says()">
      <defs>
        <marker id="fault-tip" viewBox="0 0 8 8" refX="7" refY="4" markerWidth="8" markerHeight="8" orient="auto">
          <path d="M0 0 8 4 0 8" class="tip" />
        </marker>
      </defs>
      <path [attr.d]="'M8 ' + middle().y + 'H' + (wide - 8) + 'M' + middle().x + ' 22V' + (high - 8)" class="axis" />
      <text x="8" [attr.y]="high - 8">along: dry gravity</text>
      <text [attr.x]="middle().x" y="14" text-anchor="middle">up: absorption</text>
      <ellipse [attr.cx]="middle().x" [attr.cy]="middle().y" [attr.rx]="reach().x" [attr.ry]="reach().y" class="usual" />
      @for (f of faults(); track f.label + f.x) {
        <path
          [attr.d]="'M' + middle().x + ' ' + middle().y + 'L' + f.x + ' ' + f.y"
          class="fault"
          [class.looks]="f.looks"
          marker-end="url(#fault-tip)"
        />
        <text [attr.x]="f.textX" [attr.y]="f.textY" [attr.text-anchor]="f.anchor" class="name" [class.looks]="f.looks">{{ f.label }}</text>
      }
      @for (p of before(); track $index) {
        <circle [attr.cx]="p.x" [attr.cy]="p.y" r="3.5" class="before" />
      }
      <circle [attr.cx]="now().x" [attr.cy]="now().y" r="8" class="ring" />
      <circle [attr.cx]="now().x" [attr.cy]="now().y" r="5" class="now" />
    </svg>
    <p class="soft small">Grey: earlier results; shaded: where they usually lie; ringed: this one. Arrows: whither a slip leads.</p>
  `,
  styles: `
    :host {
      display: block;
      max-width: 520px;
    }
    svg {
      width: 100%;
      height: auto;
      background: var(--well);
      border: 1px solid var(--hair);
    }
    text {
      font-size: 13px;
      fill: var(--soft);
    }
    .axis {
      stroke: var(--grid);
    }
    .usual {
      fill: var(--zone);
      stroke: var(--within);
    }
    .fault {
      stroke: var(--soft);
      stroke-width: 1.5;
      fill: none;
    }
    .tip {
      fill: none;
      stroke: var(--soft);
      stroke-width: 1.3;
    }
    .name {
      fill: var(--ink);
    }
    .looks {
      stroke: var(--now);
    }
    .name.looks {
      stroke: none;
      fill: var(--now);
      font-weight: 720;
    }
    .before {
      fill: var(--soft);
    }
    .ring {
      fill: none;
      stroke: var(--now);
      stroke-width: 2.5;
    }
    .now {
      fill: var(--ink);
    }
  `,
})
export class FaultChart {
  readonly map = input.required<FaultMap>();
  protected readonly wide = WIDE;
  protected readonly high = HIGH;

  /** So many reaches are shown to either side: all arrows, and whatever lies farther. */
  private readonly span = computed(() => {
    const { before, now, usual, reach } = this.map();
    const far = [...before, now].flatMap((p) => [Math.abs(p.x - usual.x) / reach.x, Math.abs(p.y - usual.y) / reach.y]);
    return Math.min(8, Math.max(2.1, 1.1 * Math.max(...far)));
  });
  private at(x: number, y: number): { x: number; y: number } {
    const s = this.span();
    const held = (v: number): number => Math.max(-s, Math.min(s, v));
    return { x: WIDE / 2 + (held(x) / s) * (WIDE / 2 - PAD), y: HIGH / 2 + 8 - (held(y) / s) * (HIGH / 2 - 30) };
  }
  private readonly place = (p: { x: number; y: number }) => {
    const { usual, reach } = this.map();
    return this.at((p.x - usual.x) / reach.x, (p.y - usual.y) / reach.y);
  };
  protected readonly middle = computed(() => this.at(0, 0));
  protected readonly reach = computed(() => ({ x: this.at(1, 0).x - this.middle().x, y: this.middle().y - this.at(0, 1).y }));
  protected readonly before = computed(() => this.map().before.map(this.place));
  protected readonly now = computed(() => this.place(this.map().now));
  protected readonly faults = computed(() => {
    const seen = new Map<string, number>();
    return this.map().faults.map(({ label, towards, looks }) => {
      const way = `${towards.x},${towards.y}`;
      // Slips that lead the same way share their arrow: their names stand under each other.
      const nth = seen.get(way) ?? 0;
      seen.set(way, nth + 1);
      const { x, y } = this.at(towards.x * ARROW, towards.y * ARROW);
      return {
        label,
        looks,
        x,
        y,
        anchor: towards.x < 0 ? 'start' : 'end',
        textX: towards.x < 0 ? x - 34 : x + 34,
        textY: y + (towards.y >= 0 ? -6 - 15 * nth : 16 + 15 * nth),
      };
    });
  });
  protected readonly says = computed(() => {
    const looks = this.map().faults.filter((f) => f.looks);
    const like = looks.length === 0 ? 'no slip looks like this' : `it looks like: ${looks.map((f) => f.label).join(', ')}`;
    return `Dry gravity and absorption against ${this.map().before.length} earlier results of the source; ${like}`;
  });
}
