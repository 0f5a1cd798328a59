import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { Sample } from '@keen-mortar/contract';
import { fieldAt, say, unitLabel } from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { Working } from '../../../parts/working';
import { schools, seen, type Row } from './sheet.view';

/** Beside the test, not behind a dialog: its working, what other schools would give, steps and cautions. */
@Component({
  selector: 'km-test-side',
  imports: [Working],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section>
      <h3>Working</h3>
      <km-working [evaluation]="row().evaluation" [verdicts]="row().verdicts" />
    </section>
    @if (others().length > 0) {
      <section>
        <h3>Other schools, same readings</h3>
        <table>
          <tbody>
            @for (o of others(); track o.label) {
              <tr>
                <td>{{ o.label }}</td>
                <td [class.fig]="o.given" [class.soft]="!o.given">{{ o.value }}</td>
              </tr>
            }
          </tbody>
        </table>
      </section>
    }
    @for (check of checks(); track check.says) {
      <section data-testid="seen">
        <h3>Seen so far</h3>
        <p class="needs">{{ check.says }}</p>
        <p>Likely, the likeliest first:</p>
        <ol>
          @for (cause of check.causes; track cause) {
            <li>{{ cause }}</li>
          }
        </ol>
      </section>
    }
    @if (notes().length > 0) {
      <section>
        <h3>Notes</h3>
        @for (n of notes(); track n) {
          <p>{{ n }}</p>
        }
      </section>
    }
    <section>
      <h3>How</h3>
      <ol>
        @for (s of steps(); track s.text) {
          <li [class.caution]="s.caution">{{ s.text }}</li>
        }
      </ol>
      <p class="soft small">{{ follows() }}</p>
    </section>
    <p class="soft small foot">Supports, never replaces, the project specification and the engineer's decision.</p>
  `,
  styles: `
    :host {
      display: grid;
      align-content: start;
      gap: 13px;
      padding: 16px 20px;
      font-size: 14.5px;
      min-width: 0;
    }
    section {
      display: grid;
      gap: 5px;
    }
    section + section {
      border-top: 1px solid var(--hair);
      padding-top: 11px;
    }
    h3 {
      font-size: 14.5px;
    }
    table {
      border-collapse: collapse;
      width: 100%;
    }
    td {
      padding: 3px 0;
      vertical-align: top;
    }
    td:last-child {
      text-align: right;
      padding-left: 10px;
    }
    ol {
      display: grid;
      gap: 6px;
    }
    .caution {
      font-weight: 700;
      border-left: 4px solid var(--now);
      padding-left: 9px;
    }
  `,
})
export class TestSide {
  readonly row = input.required<Row>();
  readonly sample = input.required<Sample>();
  private readonly store = inject(Store);
  private readonly schools = this.store.selectSignal(schools);
  private readonly seen = this.store.selectSignal(seen);

  protected readonly others = computed(() =>
    this.schools().map(({ label, evaluation }) => {
      const main = Object.entries(this.row().method.results as Readonly<Record<string, { main?: boolean }>>).filter(([, f]) => f.main);
      const values = main.flatMap(([id]) => {
        const r = evaluation.results.find((result) => result.id === id);
        return r?.reported ? [`${r.reported} ${unitLabel(r.unit)}`.trim()] : [];
      });
      const first = evaluation.missing[0];
      const needs = first === undefined ? '' : `needs ${(fieldAt(this.row().method, first)?.label ?? first).toLowerCase()}`;
      return { label, given: values.length > 0, value: evaluation.validity.state === 'void' ? 'void' : values.join(' · ') || needs || '…' };
    }),
  );
  protected readonly checks = computed(() =>
    this.seen().map((check) => ({
      says: say(check.code, check.params),
      causes: check.causes.map((cause) => say(cause.code, cause.params)),
    })),
  );
  protected readonly notes = computed(() => this.row().evaluation.notes.map((n) => say(n.code, n.params)));
  /** Cautions first: they are read before the hands are in it. */
  protected readonly steps = computed(() =>
    [...this.row().method.steps].sort((a, b) => Number(b.caution ?? false) - Number(a.caution ?? false)),
  );
  protected readonly follows = computed(() => {
    const variant = this.row().method.variants[this.row().evaluation.variant];
    return variant ? `${variant.source.designation}, edition ${variant.source.edition}` : '';
  });
}
