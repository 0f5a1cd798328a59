import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { FindingView } from '@keen-mortar/contract';
import type { FindingGrade, VerdictState } from '@keen-mortar/core';
import { evidenceParts } from '@keen-mortar/core/evidence';
import { ButtonDirective } from 'primeng/button';
import { VerdictShape } from '../ui/verdict-shape';

/** A finding in the state that holds now, as the server gives it, or as the page finds it of what is in hand. */
export type ShownFinding = Pick<
  FindingView,
  'finding' | 'title' | 'subjectId' | 'part' | 'grade' | 'says' | 'next' | 'evidence' | 'choices'
> & {
  readonly decision: object | null;
  /** What it is about, where that is not plain. */
  readonly where?: string;
};

/** Each grade by its shape: what wants somebody carries a flag. */
const SHAPES: Readonly<Record<FindingGrade, { readonly state: VerdictState; readonly marked: boolean }>> = {
  fine: { state: 'within', marked: false },
  open: { state: 'open', marked: false },
  watch: { state: 'within', marked: true },
  asks: { state: 'open', marked: true },
  out: { state: 'out', marked: false },
  void: { state: 'void', marked: false },
};

export const shapeOf = (grade: FindingGrade) => SHAPES[grade];

/** What several things on record mean together: the sentence, what can be done, what speaks for it, and where it is decided. */
@Component({
  selector: 'km-findings',
  imports: [VerdictShape, RouterLink, ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul>
      @for (f of shown(); track f.key) {
        <li [attr.data-finding]="f.finding.finding" [attr.data-grade]="f.finding.grade">
          <km-verdict-shape [state]="f.shape.state" [marked]="f.shape.marked" [size]="20" />
          <div>
            @if (f.finding.where) {
              <p class="soft small">{{ f.finding.where }}</p>
            }
            <p>
              <b [class.out]="f.finding.grade === 'out'" [class.needs]="f.finding.grade === 'asks'">{{ f.finding.says }}</b>
            </p>
            @if (f.finding.next.length === 1) {
              <p>{{ f.finding.next[0] }}</p>
            } @else if (f.finding.next.length > 1) {
              <ol>
                @for (step of f.finding.next; track step) {
                  <li>{{ step }}</li>
                }
              </ol>
            }
            @for (p of f.parts; track p.head) {
              <p class="soft small">{{ p.head }}: {{ p.says.join(' ') }}</p>
            }
            @if (f.finding.choices.length > 0 && f.finding.decision === null) {
              <a
                pButton
                severity="secondary"
                routerLink="/decisions"
                [queryParams]="{ on: f.finding.subjectId, finding: f.finding.finding, part: f.finding.part || null }"
                >Put a decision on record</a
              >
            } @else if (f.finding.grade === 'asks' && f.finding.choices.length === 0 && f.finding.subjectId !== here()) {
              <a pButton severity="secondary" [routerLink]="['/record', f.finding.subjectId]">Say why</a>
            }
          </div>
        </li>
      }
    </ul>
  `,
  styles: `
    ul {
      display: grid;
      gap: 10px;
    }
    ul > li {
      display: grid;
      grid-template-columns: auto minmax(0, 1fr);
      gap: 10px;
      overflow-wrap: anywhere;
    }
    div {
      display: grid;
      justify-items: start;
      gap: 4px;
    }
    ol {
      list-style: decimal inside;
      display: grid;
      gap: 3px;
    }
    a {
      margin-top: 4px;
    }
  `,
})
export class Findings {
  /** What is open: what is to be said of it is said there. */
  readonly here = input('');
  readonly findings = input.required<readonly ShownFinding[]>();
  protected readonly shown = computed(() =>
    this.findings().map((finding) => ({
      finding,
      key: `${finding.finding} ${finding.subjectId} ${finding.part}`,
      shape: SHAPES[finding.grade],
      parts: evidenceParts(finding.evidence),
    })),
  );
}
