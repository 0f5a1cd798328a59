import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Molding } from '@keen-mortar/core';

interface Shown {
  readonly name: string;
  readonly age: string;
  /** Layers from the bottom: done, in hand, or to come. */
  readonly layers: readonly ('done' | 'now' | 'later')[];
}

const W = 92;
const H = 128;

/** The molds of a set side by side: what is filled and consolidated, and the layer in hand. */
@Component({
  selector: 'km-molds',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul>
      @for (m of shown(); track m.name) {
        <li [class.now]="m.layers.includes('now')">
          <svg [attr.viewBox]="'0 0 ' + w + ' ' + h" width="78" height="108" aria-hidden="true">
            @for (l of m.layers; track $index; let i = $index; let n = $count) {
              @if (l !== 'later') {
                <rect
                  [attr.x]="left"
                  [attr.width]="w - 2 * left"
                  [attr.y]="top + ((n - 1 - i) * (h - top - foot)) / n"
                  [attr.height]="(h - top - foot) / n"
                  [attr.fill]="l === 'done' ? 'var(--con)' : 'var(--con-l)'"
                />
              }
              <path
                [attr.d]="'M' + left + ' ' + (top + ((n - 1 - i) * (h - top - foot)) / n) + 'H' + (w - left)"
                stroke="var(--con-d)"
                stroke-dasharray="3 3"
              />
              @if (l === 'now') {
                <path
                  [attr.d]="'M' + (w / 2 + 6) + ' 0L' + w / 2 + ' ' + (top + ((n - 0.4 - i) * (h - top - foot)) / n)"
                  stroke="var(--now)"
                  stroke-width="4"
                />
              }
            }
            @if (shape() === 'cylinder') {
              <path
                [attr.d]="'M' + left + ' ' + top + 'V' + (h - foot) + 'q' + (w - 2 * left) / 2 + ' 12 ' + (w - 2 * left) + ' 0V' + top"
                class="ink"
              />
              <ellipse [attr.cx]="w / 2" [attr.cy]="top" [attr.rx]="(w - 2 * left) / 2" ry="8" class="ink" />
            } @else {
              <rect [attr.x]="left" [attr.y]="top" [attr.width]="w - 2 * left" [attr.height]="h - top - foot" class="ink" />
            }
          </svg>
          <b class="fig">{{ m.name }}</b>
          <span class="soft small">{{ m.age }}</span>
          @if (m.layers.length > 0) {
            <span class="small">{{ layersDone() < 0 ? '' : doneOf(m) + ' of ' }}{{ m.layers.length }} layers</span>
          }
        </li>
      }
    </ul>
  `,
  styles: `
    ul {
      display: flex;
      flex-wrap: wrap;
      background: var(--well);
      border-block: 1px solid var(--rule);
    }
    li {
      display: grid;
      justify-items: center;
      padding: 10px 14px 8px;
      border-right: 1px solid var(--hair);
      min-width: 112px;
    }
    li.now {
      background: var(--now-wash);
    }
    .ink {
      fill: none;
      stroke: currentColor;
      stroke-width: 2;
    }
  `,
})
export class Molds {
  readonly shape = input.required<string>();
  /** Names and ages in their order. */
  readonly specimens = input.required<readonly { readonly name: string; readonly age: string }[]>();
  readonly molding = input<Molding | null>(null);
  /** Layers that are done: mold by mold, each from the bottom. */
  readonly layersDone = input(0);
  protected readonly w = W;
  protected readonly h = H;
  protected readonly left = 14;
  protected readonly top = 16;
  protected readonly foot = 16;

  protected readonly shown = computed((): Shown[] => {
    const [each, done] = [this.molding()?.layers ?? 0, this.layersDone()];
    return this.specimens().map(({ name, age }, i) => ({
      name,
      age,
      layers: Array.from({ length: each }, (_l, layer) => {
        const at = i * each + layer;
        return at < done ? 'done' : at === done ? 'now' : 'later';
      }),
    }));
  });

  protected doneOf = (m: Shown): number => m.layers.filter((l) => l === 'done').length;
}
