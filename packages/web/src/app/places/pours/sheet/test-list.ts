import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { Sample } from '@keen-mortar/contract';
import { asksForAnother, boundsOf, fieldAt, pairWords, unitLabel } from '@keen-mortar/core';
import { History } from '../../../parts/history';
import { VerdictShape } from '../../../parts/verdict-shape';
import { titleOf } from './test-in-hand';
import type { Row } from './sheet.view';

interface Line {
  readonly row: Row;
  readonly title: string;
  readonly values: string;
  readonly limits: string;
  readonly says: string;
}

/** The tests in working order, each with what it says and where it stands. */
@Component({
  selector: 'km-test-list',
  imports: [VerdictShape, History],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <nav aria-label="Tests of this sample">
      @for (line of lines(); track line.row.key) {
        <button
          type="button"
          class="st"
          [class.on]="line.row.key === inHand()"
          [class.repeat]="line.row.retestOf"
          [attr.aria-current]="line.row.key === inHand() ? 'step' : null"
          [attr.data-method]="line.row.method.id"
          (click)="chosen.emit(line.row.key)"
        >
          <km-verdict-shape
            [state]="line.row.state"
            [marked]="line.row.evaluation.validity.state === 'marked'"
            [side]="sideOf(line.row)"
            [size]="22"
          />
          <span class="mid">
            <span class="nm"
              ><b>{{ line.title }}</b> <span class="soft small fig">{{ line.limits }}</span></span
            >
            <span class="v fig">{{ line.values }}</span>
            @if (line.says) {
              <span class="soft small">{{ line.says }}</span>
            }
            @if (keying()[line.row.key]; as who) {
              <span class="needs small">being keyed by {{ who }}</span>
            }
          </span>
        </button>
      }
    </nav>
    @if (history(); as h) {
      <section class="past">
        <h3>This mix, {{ h.label }} before</h3>
        <km-history [points]="h.points" [lower]="h.bounds.lower" [upper]="h.bounds.upper" />
      </section>
    }
  `,
  styles: `
    .st {
      display: flex;
      gap: 12px;
      width: 100%;
      min-height: 64px;
      padding: 9px 14px 9px 18px;
      border: 0;
      border-bottom: 1px solid var(--hair);
      background: none;
      text-align: left;
      cursor: pointer;
      align-items: flex-start;
    }
    .st.on {
      background: var(--well);
      box-shadow: inset 5px 0 0 var(--now);
    }
    .st.repeat {
      padding-left: 34px;
    }
    .mid {
      flex: 1;
      min-width: 0;
      display: grid;
    }
    .nm {
      display: flex;
      flex-wrap: wrap;
      justify-content: space-between;
      column-gap: 8px;
      font-weight: 400;
    }
    .st:not(.on) b {
      font-weight: 400;
    }
    .v {
      font-size: 18.5px;
      overflow-wrap: anywhere;
    }
    .past {
      padding: 16px 18px;
    }
    h3 {
      font-size: 14.5px;
      margin-bottom: 6px;
    }
    @media (max-width: 760px) {
      nav {
        display: flex;
        overflow-x: auto;
      }
      .st {
        min-width: 190px;
        border-bottom: 1px solid var(--rule);
        border-right: 1px solid var(--hair);
      }
      .st.on {
        box-shadow: inset 0 5px 0 var(--now);
      }
      .st.repeat {
        padding-left: 18px;
      }
      .past {
        display: none;
      }
    }
  `,
})
export class TestList {
  readonly rows = input.required<readonly Row[]>();
  readonly inHand = input.required<string>();
  readonly sample = input.required<Sample>();
  readonly keying = input<Readonly<Record<string, string>>>({});
  readonly chosen = output<string>();

  protected readonly lines = computed((): Line[] => this.rows().map((row) => this.line(row)));

  protected readonly history = computed(() => {
    const row = this.rows().find((r) => r.key === this.inHand());
    const field = row && (Object.values(row.method.results).find((r) => r.property !== undefined) ?? null);
    const points = field?.property === undefined ? [] : (this.sample().history[field.property] ?? []);
    if (!field || points.length < 2) return null;
    const limit = this.sample()
      .specifications.flatMap((s) => s.limits)
      .find((l) => l.property === field.property);
    return { label: field.label.toLowerCase(), points, bounds: limit ? boundsOf(limit) : {} };
  });

  protected sideOf(row: Row): 'lower' | 'upper' | undefined {
    return row.verdicts.find((v) => v.state === 'out')?.side;
  }

  private line(row: Row): Line {
    const m = row.method;
    const main = row.evaluation.results.filter((r) => m.results[r.id]?.main && r.reported !== null);
    const { validity, missing } = row.evaluation;
    const first = missing[0];
    return {
      row,
      title: titleOf(row),
      values: main.map((r) => `${r.reported} ${unitLabel(r.unit)}`.trim()).join(' · '),
      limits: this.limits(row),
      says:
        row.waiting || row.draft?.state === 'keeping'
          ? 'kept here, waiting'
          : validity.state === 'void'
            ? `void${row.hasRepeat ? ', repeated' : asksForAnother(row) ? ': repeat' : ''}`
            : row.pair !== null && pairWords(row.pair, row.apart)?.fails
              ? 'the load fails'
              : row.state === 'open' && first !== undefined
                ? `${fieldAt(m, first)?.label ?? first} is missing`
                : validity.state === 'marked'
                  ? 'with a remark'
                  : row.draft && !row.test
                    ? 'not kept yet'
                    : '',
    };
  }

  /** The allowed range of the first result that a specification limits. */
  private limits(row: Row): string {
    const v = row.verdicts.find((verdict) => verdict.lower !== undefined || verdict.upper !== undefined) ?? this.limitsAhead(row);
    if (!v) return '';
    if (v.lower !== undefined && v.upper !== undefined) return `${v.lower}–${v.upper}`;
    return v.lower !== undefined ? `≥ ${v.lower}` : `≤ ${v.upper ?? ''}`;
  }

  private limitsAhead(row: Row): { lower?: string; upper?: string } | null {
    const property = row.verdicts[0]?.property;
    const limit = this.sample()
      .specifications.flatMap((s) => s.limits)
      .find((l) => l.property === property);
    return limit ? boundsOf(limit) : null;
  }
}
