import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Checkbox } from 'primeng/checkbox';
import { answerTexts, unitLabel } from '@keen-mortar/core';
import { rowsAt, valueAt } from '../form/inputs';
import { ComputationStore } from '../computation.store';
import { wordsOf } from '../drawn';

const KEY = 'km.weighed';

/** What was ticked off of a weigh-up on this device; nothing of one that weighs something else. */
function tickedOf(list: string): ReadonlySet<string> {
  try {
    const last = JSON.parse(localStorage.getItem(KEY) ?? 'null') as { list: string; ticked: string[] } | null;
    return new Set(last?.list === list ? last.ticked : []);
  } catch {
    return new Set();
  }
}

/** What to weigh, to tick off at the balance, and in which order it goes into the mixer. */
@Component({
  selector: 'km-weigh-up',
  imports: [Checkbox, FormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (weigh().length > 0) {
      <h3>
        Weigh up <span class="soft fig" data-testid="weighed">{{ done() }} of {{ weigh().length }}</span>
      </h3>
      <ul>
        @for (w of weigh(); track w.id) {
          <li>
            <label [for]="'weigh-' + w.id" [class.off]="ticked().has(w.id)">
              <p-checkbox [inputId]="'weigh-' + w.id" [binary]="true" [ngModel]="ticked().has(w.id)" (ngModelChange)="tick(w.id)" />
              <span>{{ w.name }}</span> <b class="fig">{{ w.mass }}</b>
            </label>
          </li>
        }
      </ul>
      <h3>Into the mixer</h3>
      <ol>
        @for (o of order(); track $index) {
          <li>
            <label [for]="'in-' + $index" [class.off]="ticked().has('in ' + $index)">
              <p-checkbox
                [inputId]="'in-' + $index"
                [binary]="true"
                [ngModel]="ticked().has('in ' + $index)"
                (ngModelChange)="tick('in ' + $index)"
              />
              <span>{{ $index + 1 }}. {{ o }}</span>
            </label>
          </li>
        }
      </ol>
    }
  `,
  styleUrl: './panel.css',
  styles: `
    label {
      display: flex;
      align-items: center;
      gap: 12px;
      min-height: 44px;
      border-top: 1px solid var(--hair);
      cursor: pointer;
    }
    b {
      margin-left: auto;
      font-size: 19px;
      font-weight: 500;
    }
    .off {
      color: var(--soft);
      text-decoration: line-through;
    }
  `,
})
export class WeighUp {
  private readonly store = inject(ComputationStore);
  protected readonly ticked = signal<ReadonlySet<string>>(new Set());

  constructor() {
    // A page that is opened again in the middle of it goes on where it was.
    effect(() => {
      const list = this.masses();
      untracked(() => this.ticked.set(tickedOf(list)));
    });
  }

  private texts(id: string): { texts: string[]; unit: string } {
    const r = this.store.working()?.results.find((result) => result.id === id);
    const field = this.store.method()!.results[id]!;
    return r ? { texts: answerTexts(field, r), unit: unitLabel(r.unit) } : { texts: [], unit: '' };
  }

  private list(rows: string, result: string): { id: string; name: string; mass: string }[] {
    const { texts, unit } = this.texts(result);
    return texts.map((text, i) => {
      const name = (valueAt(rowsAt(this.store.still(), rows)[i] ?? {}, 'name') as string | null) ?? `${i + 1}`;
      return { id: `${rows} ${i}`, name, mass: `${text} ${unit}` };
    });
  }

  protected readonly weigh = computed(() => {
    const sizes = this.list('sizes', 'sizes').map((s) => ({ ...s, name: `of the coarse: ${s.name}` }));
    return [...this.list('ingredients', 'masses'), ...sizes];
  });
  private readonly masses = computed(() => JSON.stringify(this.weigh()));
  protected readonly order = computed(() => wordsOf(this.store.working(), 'order'));
  protected readonly done = computed(() => this.weigh().filter((w) => this.ticked().has(w.id)).length);

  protected tick(id: string): void {
    this.ticked.update((all) => {
      const next = new Set(all);
      if (!next.delete(id)) next.add(id);
      return next;
    });
    localStorage.setItem(KEY, JSON.stringify({ list: this.masses(), ticked: [...this.ticked()] }));
  }
}
