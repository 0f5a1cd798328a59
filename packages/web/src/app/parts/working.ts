import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { unitLabel, type Evaluation, type Verdict } from '@keen-mortar/core';

/** Formula, numbers, rounding, limit: any number opened up. Lines come from the core's recording. */
@Component({
  selector: 'km-working',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (line of evaluation().working; track $index) {
      @switch (line.kind) {
        @case ('reading') {
          <p>
            <i>{{ line.symbol }}</i> = <span class="fig">{{ line.numbers }} = {{ line.value }} {{ line.unit }}</span>
          </p>
        }
        @case ('rounding') {
          <p>
            <i>{{ line.symbol }}</i> {{ line.symbols }}: <span class="fig">{{ line.value }} {{ line.unit }}</span>
          </p>
        }
        @default {
          <p>
            <i>{{ line.symbol }}</i>
            @if (line.symbols !== line.numbers && line.symbols !== line.symbol) {
              = {{ line.symbols }}
            }
            <br /><span class="fig numbers">= {{ line.numbers }}</span> <span class="fig"> = {{ line.value }} {{ line.unit }}</span>
          </p>
        }
      }
    } @empty {
      <p class="soft">Shown as soon as a reading is keyed.</p>
    }
    @for (c of compared(); track c.text) {
      <p>
        {{ c.text }} <span class="fig">{{ c.numbers }}</span>
        @if (c.differ) {
          <br /><span class="needs">Compared the other way, rounded or unrounded, the verdict would be another one.</span>
        }
      </p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 7px;
      font-size: 15px;
      overflow-wrap: anywhere;
    }
    .numbers {
      padding-left: 10px;
    }
  `,
})
export class Working {
  readonly evaluation = input.required<Evaluation>();
  readonly verdicts = input<readonly Verdict[]>([]);
  protected readonly compared = computed(() =>
    this.verdicts()
      .filter((v) => v.limit !== undefined && v.compared !== undefined)
      .map((v) => {
        const label = this.evaluation().results.find((r) => r.id === v.result)?.label ?? v.result;
        const range =
          v.lower !== undefined && v.upper !== undefined
            ? `${v.lower} … ${v.upper}`
            : v.lower !== undefined
              ? `≥ ${v.lower}`
              : `≤ ${v.upper ?? ''}`;
        return {
          text: `${label}, compared ${v.school === 'absolute' ? 'unrounded' : 'as rounded'}:`,
          numbers: `${v.compared ?? ''} with ${range} ${v.unit ? unitLabel(v.unit) : ''}`.trim(),
          differ: v.schoolsDiffer === true,
        };
      }),
  );
}
