import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { Told } from '@keen-mortar/core';

/** What is worth saying about a test, each with what to do next, what it means for acceptance, and where it is written. */
@Component({
  selector: 'km-told',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (t of told(); track t.says) {
      <div class="one" [class.note]="t.kind === 'note'" [attr.data-told]="t.code">
        <p>
          <b
            [class.needs]="t.kind === 'void' || t.kind === 'mark' || t.kind === 'doubt' || t.kind === 'refusal'"
            [class.out]="t.code === 'out'"
            >{{ t.says }}</b
          >
          @if (t.source) {
            &ngsp;<span class="soft">{{ t.source }}</span>
          }
        </p>
        @if (t.next.length === 1) {
          <p>{{ t.next[0] }}</p>
        } @else if (t.next.length > 1) {
          <ol>
            @for (step of t.next; track step) {
              <li>{{ step }}</li>
            }
          </ol>
        }
        @if (t.counts) {
          <p class="soft small">{{ t.counts }}</p>
        }
        @if (t.levers) {
          <p class="soft small">{{ t.levers.join(' · ') }}</p>
        }
      </div>
    }
  `,
  styles: `
    :host,
    .one {
      display: grid;
      gap: 5px;
    }
    :host {
      gap: 11px;
    }
    .note b {
      font-weight: 400;
    }
    ol {
      display: grid;
      gap: 4px;
    }
  `,
})
export class ToldList {
  readonly told = input.required<readonly Told[]>();
}
