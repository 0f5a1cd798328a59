import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { meantWords, nextStep, say, type Exchange, type Issue } from '@keen-mortar/core';
import { Offer } from '../ui/offer';
import { allMeant, type Meant } from './meant';

/** What is wrong with one reading. */
export interface Fault {
  readonly id: string;
  /** Of the element that the field’s description points to. */
  readonly inputId: string;
  readonly label: string;
  readonly issues: readonly Issue[];
  /** How an exchange with another reading is offered, in words. */
  readonly exchangeWords: string;
}

/** What is wrong with the readings above, each by its name, in room that was kept for it: nothing moves. */
@Component({
  selector: 'km-faults',
  imports: [Offer],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (f of faults(); track f.id) {
      <div [id]="f.inputId + '-why'" class="one">
        @for (issue of f.issues; track issue.code) {
          <p>
            <b>{{ f.label }}:</b> {{ sentence(issue) }}
            @if (issue.offer; as offer) {
              <km-offer (taken)="offered.emit(taken(f.id, offer))">{{ words(offer) }}?</km-offer>
            }
            @if (issue.exchange; as pair) {
              <km-offer data-testid="exchange" (taken)="exchanged.emit(pair)">{{ f.exchangeWords || 'Exchange the two' }}</km-offer>
            }
          </p>
        }
      </div>
    }
  `,
  styles: `
    :host {
      display: grid;
      align-content: start;
      gap: 2px;
      /* What is wrong with one reading has room here before it is said. */
      min-height: var(--faults-room, 46px);
    }
    p {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 2px 10px;
      color: var(--out);
      font-size: 15px;
    }
  `,
})
export class Faults {
  readonly faults = input.required<readonly Fault[]>();
  /** What was meant, at each of its readings. */
  readonly offered = output<readonly Meant[]>();
  readonly exchanged = output<Exchange>();
  protected readonly words = meantWords;
  protected readonly taken = allMeant;

  protected sentence(issue: Issue): string {
    return [say(issue.code, issue.params), nextStep(issue.code, issue.params)].filter(Boolean).join(' ');
  }
}
