import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { COMPARISON_IDS, COMPARISONS, lineText, stateWord, unitLabel, type Evaluation, type Verdict } from '@keen-mortar/core';

/** Formula, numbers, rounding, limit: any number opened up. Lines come from the core's recording. */
@Component({
  selector: 'km-working',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (line of evaluation().working; track $index) {
      @let told = text(line);
      @switch (line.kind) {
        @case ('reading') {
          <p>
            <i>{{ line.symbol }}</i> = <span class="fig">{{ told.numbers }} {{ told.sign }} {{ told.value }} {{ line.unit }}</span>
          </p>
        }
        @case ('rounding') {
          <p>
            <i>{{ line.symbol }}</i> {{ line.symbols }}: <span class="fig">{{ line.value }} {{ line.unit }}</span>
          </p>
        }
        @case ('left-out') {
          <p class="soft">{{ line.symbols }}</p>
        }
        @default {
          <p>
            <i>{{ line.symbol }}</i>
            @if (line.symbols !== line.numbers && line.symbols !== line.symbol) {
              = {{ line.symbols }}
            }
            @if (line.numbers === line.value) {
              <span class="fig"> {{ told.sign }} {{ told.value }} {{ line.unit }}</span>
            } @else {
              <br /><span class="fig numbers">= {{ told.numbers }}</span>
              <span class="fig"> {{ told.sign }} {{ told.value }} {{ line.unit }}</span>
            }
          </p>
        }
      }
    } @empty {
      <p class="soft">Shown as soon as a reading is keyed.</p>
    }
    @if (goesOn()) {
      <p class="soft small">≈ stands before figures that go on. Nothing is rounded before the end.</p>
    }
    @for (c of compared(); track c.text) {
      <p>
        {{ c.text }} <span class="fig">{{ c.numbers }}</span>
        @if (c.otherwise) {
          <br /><span class="needs">{{ c.otherwise }}</span>
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
  protected readonly text = lineText;
  readonly verdicts = input<readonly Verdict[]>([]);
  protected readonly goesOn = computed(() => this.evaluation().working.some((line) => lineText(line).sign === '≈'));
  protected readonly compared = computed(() =>
    this.verdicts()
      .flatMap((v) => v.each ?? [v])
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
          text: `${label}, compared ${COMPARISONS[v.comparison ?? 'reported']}:`,
          numbers: `${v.compared ?? ''} with ${range} ${v.unit ? unitLabel(v.unit) : ''}`.trim(),
          otherwise: v.otherwise ? `${COMPARISON_IDS.map((id) => `${COMPARISONS[id]}: ${stateWord(v.otherwise![id])}`).join('; ')}` : '',
        };
      }),
  );
}
