import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { Problem } from '@keen-mortar/contract/problem';
import { factsForm, nextStep, offerWords, say, USUAL_EXPLANATIONS, type Issue, type ItemKind } from '@keen-mortar/core';
import { ButtonDirective } from 'primeng/button';
import { Reason } from '../test/reason';
import { Notice } from '../ui/notice';

/** What is unlikely of what is to be kept, by the judge: what can be done, what was probably meant, and the reason to go on. */
@Component({
  selector: 'km-doubts',
  imports: [Notice, Reason, ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (told().length > 0) {
      <km-notice data-testid="doubts">
        @for (d of told(); track d.key) {
          <p>
            <b>{{ d.says }}</b> {{ d.next }}
            @if (d.offers && d.issue) {
              <button pButton [outlined]="true" severity="warn" class="offer" type="button" (click)="offered.emit(d.issue)">
                {{ d.offers }}?
              </button>
            }
          </p>
        }
        @if (canBe()) {
          <km-reason
            label="Why is it so?"
            [inputId]="inputId()"
            [usual]="usual()"
            [value]="value()"
            (given)="given.emit($event)"
            (done)="done.emit()"
          />
        }
      </km-notice>
    }
  `,
  styles: `
    :host {
      display: block;
    }
    km-reason {
      padding-top: 6px;
    }
  `,
})
export class Doubts {
  readonly doubts = input.required<readonly Issue[]>();
  readonly kind = input.required<ItemKind>();
  readonly value = input.required<string>();
  readonly inputId = input('why');
  readonly usual = input<readonly string[]>(USUAL_EXPLANATIONS);
  /** What the server asks, where it knows more than this page: the reason is given as for what is seen here. */
  readonly refused = input<Problem | null>(null);
  readonly given = output<string>();
  readonly done = output();
  /** What was offered at one of them is taken. */
  readonly offered = output<Issue>();

  /** What is impossible is not kept with a reason. */
  protected readonly canBe = computed(() => this.doubts().every((d) => d.severity === 'implausible'));
  private readonly asked = computed(() => {
    const m = factsForm(this.kind());
    return this.doubts().map((issue) => ({
      issue,
      key: `${issue.path} ${issue.code}`,
      says: say(issue.code, issue.params),
      next: nextStep(issue.code, issue.params) ?? '',
      offers: offerWords(m, issue),
    }));
  });

  protected readonly told = computed(() => {
    const refused = this.refused();
    if (this.asked().length > 0 || !asksWhy(refused)) return this.asked();
    return (refused?.errors ?? []).map((e) => ({
      issue: null,
      key: `${e.path} ${e.message}`,
      says: e.message,
      next: e.next ?? '',
      offers: null,
    }));
  });
}

/** Whether a write was refused for want of a reason. */
export const asksWhy = (refused: Problem | null): boolean => refused?.code === 'needs-reason';
