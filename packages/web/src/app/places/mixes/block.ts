import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Ingredient } from '@keen-mortar/contract';
import { GROUNDS, type Made } from './recipe';

const HEIGHT = 300;
const TOP = 34;
const WIDTH = 96;

/** The cubic metre of a recipe cut open: each material as high as it is large, the air on top, and where the metre ends. */
@Component({
  selector: 'km-block',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      [attr.viewBox]="'0 0 132 ' + (height + top + 6)"
      width="132"
      [attr.height]="height + top + 6"
      role="img"
      [attr.aria-label]="says()"
    >
      @for (l of layers(); track $index) {
        <rect x="2" [attr.y]="l.y" [attr.width]="width" [attr.height]="l.h" [attr.fill]="l.fill" stroke="var(--ink)" stroke-width="1" />
        @if (l.air) {
          @for (b of bubbles; track $index) {
            <circle [attr.cx]="b" [attr.cy]="l.y + l.h / 2" r="2" fill="none" stroke="var(--soft)" />
          }
        }
      }
      <path [attr.d]="'M0 ' + top + 'H130'" stroke="var(--ink)" stroke-width="1.5" stroke-dasharray="5 3" />
      <text x="132" [attr.y]="top - 6" text-anchor="end" class="fig">{{ whole() }}</text>
    </svg>
  `,
  styles: `
    text {
      font-size: 13px;
      fill: var(--soft);
    }
  `,
})
export class Block {
  readonly made = input.required<Made>();
  readonly ingredients = input.required<readonly Pick<Ingredient, 'name' | 'role'>[]>();
  readonly whole = input.required<string>();
  protected readonly height = HEIGHT;
  protected readonly top = TOP;
  protected readonly width = WIDTH;
  protected readonly bubbles = [14, 32, 50, 68, 86];
  protected readonly says = computed(() => `Of ${this.whole()} the recipe makes ${this.made().makes ?? 'nobody knows how much'}`);
  protected readonly layers = computed(() => {
    const { shares, air } = this.made();
    const parts = [
      ...shares.map((part, i) => ({ part, fill: GROUNDS[this.ingredients()[i]?.role ?? 'admixture'], air: false })),
      { part: air, fill: 'var(--well)', air: true },
    ].filter(({ part }) => part > 0);
    // Heavier ones lie below; what is over the metre stands out of it, as far as there is room.
    let y = TOP + HEIGHT;
    return [...parts].map((l) => {
      const h = Math.min(l.part * HEIGHT, Math.max(0, y - 2));
      y -= h;
      return { ...l, y, h };
    });
  });
}
