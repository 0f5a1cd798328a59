import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { Sample } from '@keen-mortar/contract';
import { asksForAnother, boundsOf, fieldAt, pairWords, pictureOf, unitLabel, type Picture } from '@keen-mortar/core';
import { ButtonDirective } from 'primeng/button';
import { Pictogram } from '../../../ui/pictogram';
import { VerdictShape } from '../../../ui/verdict-shape';
import { titleOf } from './hand';
import type { Row } from './sheet.view';

interface Line {
  readonly row: Row;
  readonly title: string;
  /** Where there is little room. */
  readonly brief: string;
  readonly values: string;
  /** The first of them: where there is little room. */
  readonly first: string;
  readonly limits: string;
  readonly says: string;
}

/** The tests in working order, each with what it says and where it stands. */
@Component({
  selector: 'km-test-list',
  imports: [ButtonDirective, VerdictShape, Pictogram],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <nav aria-label="Tests of this sample">
      @for (line of lines(); track line.row.key) {
        <button
          pButton
          [text]="true"
          type="button"
          class="st"
          [class.on]="line.row.key === inHand()"
          [attr.aria-current]="line.row.key === inHand() ? 'step' : null"
          [attr.data-method]="line.row.method.id"
          (click)="chosen.emit(line.row.key)"
        >
          <km-pic [name]="picture(line.row)" [size]="30" />
          <span class="mid">
            <span class="nm"
              ><span class="long">{{ line.title }}</span
              ><span class="brief" aria-hidden="true">{{ line.brief }}</span></span
            >
            @if (line.values) {
              <span class="v fig"
                ><span class="long">{{ line.values }}</span
                ><span class="brief" aria-hidden="true">{{ line.first }}</span></span
              >
            }
            @if (line.says || line.limits) {
              <small>{{ line.says || line.limits }}</small>
            }
            @if (keying()[line.row.key]; as who) {
              <small class="needs">being keyed by {{ who }}</small>
            }
          </span>
          <km-verdict-shape
            [state]="line.row.state"
            [marked]="line.row.evaluation.validity.state === 'marked'"
            [side]="sideOf(line.row)"
            [size]="20"
          />
        </button>
      }
    </nav>
  `,
  styleUrl: './test-list.css',
})
export class TestList {
  readonly rows = input.required<readonly Row[]>();
  readonly inHand = input.required<string>();
  readonly sample = input.required<Sample>();
  readonly keying = input<Readonly<Record<string, string>>>({});
  readonly chosen = output<string>();

  protected readonly lines = computed((): Line[] => this.rows().map((row) => this.line(row)));

  protected picture(row: Row): Picture {
    return pictureOf(row.method.id);
  }

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
      brief: row.as ?? row.method.short ?? row.method.title,
      first: main
        .slice(0, 1)
        .map((r) => `${r.reported} ${unitLabel(r.unit)}`.trim())
        .join(''),
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
