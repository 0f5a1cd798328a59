import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { Specification } from '@keen-mortar/contract';
import { COMPARISONS, limitWords, propertyOf } from '@keen-mortar/core';

/** A specification in a few lines: what is limited, and how it is compared. */
@Component({
  selector: 'km-met',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>
      <a [routerLink]="['/mixes/specifications', specification().id]">{{ specification().name }}</a>
    </h3>
    <dl class="figures">
      @for (l of limits(); track l.id) {
        <div>
          <dt>{{ l.label }}</dt>
          <dd class="fig">{{ l.says }}</dd>
        </div>
      }
    </dl>
    <p class="soft small">Compared {{ compared() }}.{{ specification().sampled ? ' ' + specification().sampled : '' }}</p>
  `,
  styles: `
    :host {
      display: grid;
      gap: 4px;
    }
    h3 {
      font-size: 16px;
      font-weight: 720;
      overflow-wrap: anywhere;
    }
  `,
})
export class Met {
  readonly specification = input.required<Specification>();
  protected readonly limits = computed(() =>
    this.specification().limits.map((l) => ({ id: l.id, label: propertyOf(l.property)?.label ?? l.property, says: limitWords(l) })),
  );
  protected readonly compared = computed(() => COMPARISONS[this.specification().comparison]);
}
