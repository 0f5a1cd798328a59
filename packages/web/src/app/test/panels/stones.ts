import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import type { PickField } from '@keen-mortar/core';
import { ButtonDirective } from 'primeng/button';
import { valueAt } from '../form/inputs';
import { ComputationStore } from '../computation.store';
import { fieldOf } from '../drawn';
import { SceneDrawing } from './scene/scene';
import { StoneLook } from './stone-look';

/** How the stones look under the towel, pressed when B is weighed; below it what is weighed, drawn. */
@Component({
  selector: 'km-stones',
  imports: [ButtonDirective, StoneLook, SceneDrawing],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3 id="how-stones">How do the stones look? <span class="soft small">damp cloth; spread them, and go by the dullest</span></h3>
    <div class="looks" role="group" aria-labelledby="how-stones">
      @for (l of looks; track l[0]) {
        <button
          type="button"
          pButton
          severity="secondary"
          [attr.data-look]="l[0]"
          [attr.aria-pressed]="look() === l[0]"
          [class.on]="look() === l[0]"
          (click)="store.set('look', look() === l[0] ? null : l[0])"
        >
          <km-stone-look [look]="l[0]" />{{ l[1] }}
        </button>
      }
    </div>
    <km-scene />
  `,
  styleUrl: './panel.css',
  styles: `
    .looks {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(120px, 1fr));
      gap: 6px;
    }
    button {
      border: 1px solid var(--rule);
      background: var(--well);
      padding: 6px;
      min-height: 104px;
      font-size: 14px;
      display: grid;
      gap: 4px;
      align-content: end;
    }
    .on {
      box-shadow: inset 0 0 0 3px var(--deep);
      font-weight: 700;
    }
  `,
})
export class Stones {
  protected readonly store = inject(ComputationStore);
  protected readonly looks = Object.entries(fieldOf<PickField>(this.store.method(), 'look').options as Record<string, string>);
  protected readonly look = computed(() => valueAt(this.store.inputs(), 'look') as string | null);
}
