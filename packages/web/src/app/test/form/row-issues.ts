import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { meantWords, nextStep, offerWords, say, type Exchange, type Issue, type Offer as Meaning } from '@keen-mortar/core';
import { Offer } from '../../ui/offer';
import { allMeant } from '../meant';
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
          <km-offer (taken)="take(issue.path, offer)">{{ words(offer) }}?</km-offer>
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
  protected readonly words = meantWords;

  protected take(path: string, offer: Meaning): void {
    for (const meant of allMeant(path, offer)) this.form().key(meant.path, meant.text, meant.unit);
  }

  protected sentence(issue: Issue): string {
    return [say(issue.code, issue.params), nextStep(issue.code, issue.params)].filter(Boolean).join(' ');
  }

  protected exchangeWords(exchange: Exchange): string {
    const m = this.form().method();
    return (m && offerWords(m, { exchange })) ?? '';
  }
}
