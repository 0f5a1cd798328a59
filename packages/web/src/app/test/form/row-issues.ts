import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { nextStep, offerWords, say, unitLabel, type Exchange, type Issue } from '@keen-mortar/core';
import { Offer } from '../../ui/offer';
import type { RowsForm } from './test-form';

/** What is wrong in one row of a table, and what was probably meant. */
@Component({
  selector: 'km-row-issues',
  imports: [Offer],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (issue of issues(); track issue.path + issue.code) {
      <p class="fault">
        {{ sentence(issue) }}
        @if (issue.offer; as offer) {
          <km-offer (taken)="form().key(issue.path, offer.text, offer.unit)">Meant {{ offer.text }} {{ label(offer.unit) }}?</km-offer>
        }
        @if (issue.exchange; as pair) {
          <km-offer (taken)="form().exchange(pair)">{{ exchangeWords(pair) }}</km-offer>
        }
      </p>
    }
  `,
  styles: `
    .fault {
      padding: 4px 10px 6px 40px;
    }
  `,
})
export class RowIssues {
  readonly form = input.required<RowsForm>();
  readonly issues = input.required<readonly Issue[]>();
  protected readonly label = unitLabel;

  protected sentence(issue: Issue): string {
    return [say(issue.code, issue.params), nextStep(issue.code, issue.params)].filter(Boolean).join(' ');
  }

  protected exchangeWords(exchange: Exchange): string {
    const m = this.form().method();
    return (m && offerWords(m, { exchange })) ?? '';
  }
}
