import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Side, VerdictState } from '@keen-mortar/core';
import { scaleFor } from '../test/spec-band';

const WIDTH = 130;
const HEIGHT = 20;
const PAD = 4;

/** Which end of its limit a result is beyond: the wedge points there. */
export const sideOf = (r: { readonly lower: string | null; readonly compared: string | null } | null): Side =>
  r !== null && r.lower !== null && r.compared !== null && Number(r.compared) < Number(r.lower) ? 'lower' : 'upper';

/** A limit and where a result stands on it, as small as a row: a picture beside the words. */
@Component({
  selector: 'km-tiny-band',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.width]="width" [attr.height]="height" aria-hidden="true">
      <path [attr.d]="'M' + pad + ' 10H' + (width - pad)" stroke="var(--rule)" />
      <rect [attr.x]="zone().x" y="4" [attr.width]="zone().w" height="12" fill="var(--zone)" />
      @for (x of ends(); track x) {
        <path [attr.d]="'M' + x + ' 2V18'" stroke="var(--within)" stroke-width="2" />
      }
      @if (pin(); as x) {
        @switch (state()) {
          @case ('out') {
            <path
              [attr.d]="
                side() === 'lower'
                  ? 'M' + (x - 6) + ' 4.5H' + (x + 6) + 'L' + x + ' 16Z'
                  : 'M' + (x - 6) + ' 15.5H' + (x + 6) + 'L' + x + ' 4Z'
              "
              fill="var(--out)"
            />
          }
          @case ('edge') {
            <circle [attr.cx]="x" cy="10" r="5" fill="var(--well)" stroke="var(--edge)" stroke-width="2.4" />
          }
          @default {
            <circle [attr.cx]="x" cy="10" r="5" fill="var(--within)" />
          }
        }
      }
    </svg>
  `,
  styles: `
    :host {
      display: inline-flex;
    }
  `,
})
export class TinyBand {
  readonly lower = input<string | null>(null);
  readonly upper = input<string | null>(null);
  readonly compared = input<string | null>(null);
  readonly state = input.required<VerdictState>();
  readonly side = input<Side>('upper');
  protected readonly width = WIDTH;
  protected readonly height = HEIGHT;
  protected readonly pad = PAD;

  private readonly at = computed(() => {
    const figure = (t: string | null): number | null => (t === null ? null : Number(t));
    const { from, to } = scaleFor(figure(this.lower()), figure(this.upper()), figure(this.compared()));
    return (v: number): number => PAD + (Math.min(Math.max((v - from) / (to - from), 0), 1) || 0) * (WIDTH - 2 * PAD);
  });
  protected readonly ends = computed(() => [this.lower(), this.upper()].flatMap((t) => (t === null ? [] : [this.at()(Number(t))])));
  protected readonly zone = computed(() => {
    const [lower, upper] = [this.lower(), this.upper()];
    const x = lower === null ? PAD : this.at()(Number(lower));
    return { x, w: Math.max(0, (upper === null ? WIDTH - PAD : this.at()(Number(upper))) - x) };
  });
  protected readonly pin = computed(() => {
    const value = this.compared();
    return value === null ? null : this.at()(Number(value));
  });
}
