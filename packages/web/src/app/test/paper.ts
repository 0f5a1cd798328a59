import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { Field } from '../ui/field';
import { Moment } from '../ui/moment';

/** When a test was started and read that was written on paper first; ISO moments. */
export interface PaperTimes {
  readonly started: string;
  readonly read: string;
}

/** What is wrong with the times of a field sheet, in words; empty where nothing is. */
export const paperFault = (times: PaperTimes | null): string =>
  times && Date.parse(times.read) < Date.parse(times.started) ? 'It cannot be read before it was started.' : '';

/** A field sheet that is keyed afterwards: with the times that were written on it, not those of the keying. */
@Component({
  selector: 'km-paper',
  imports: [ButtonDirective, Field, Moment],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (times(); as t) {
      <div class="times">
        @if (starts()) {
          <km-field label="Started at" hint="as it was written" inputId="paper-started">
            <km-moment
              label="Started at, as it was written"
              inputId="paper-started"
              [zone]="zone()"
              [value]="t.started"
              (chosen)="$event && changed.emit({ started: $event, read: t.read })"
            />
          </km-field>
        }
        <km-field label="Read at" hint="as it was written" inputId="paper-read" [fault]="fault()">
          <km-moment
            label="Read at, as it was written"
            inputId="paper-read"
            [zone]="zone()"
            [value]="t.read"
            (chosen)="$event && changed.emit({ started: t.started, read: $event })"
          />
        </km-field>
        <button pButton [text]="true" type="button" class="link" (click)="changed.emit(null)">It is read now</button>
      </div>
    } @else {
      <button
        pButton
        [text]="true"
        type="button"
        class="link"
        data-testid="paper"
        (click)="changed.emit({ started: now()(), read: now()() })"
      >
        It was written on a field sheet
      </button>
    }
  `,
  styles: `
    .times {
      display: flex;
      flex-wrap: wrap;
      align-items: start;
      gap: 4px 16px;
    }
    km-field {
      width: 270px;
    }
    .times > button {
      margin-top: 26px;
    }
  `,
})
export class Paper {
  readonly times = input.required<PaperTimes | null>();
  readonly zone = input.required<string>();
  /** The test is not begun on record yet: when it was started is asked for too. */
  readonly starts = input(true);
  /** The moment that is offered first. */
  readonly now = input.required<() => string>();
  readonly changed = output<PaperTimes | null>();
  protected readonly fault = computed(() => (this.starts() ? paperFault(this.times()) : ''));
}
