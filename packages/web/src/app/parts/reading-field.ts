import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, input, output, viewChild } from '@angular/core';
import { nextStep, unitLabel, unitsFor, type Exchange, type Issue, type QtyField, say, type UnitId } from '@keen-mortar/core';

const coarse = (): boolean => typeof matchMedia === 'function' && matchMedia('(pointer: coarse)').matches;

/** One reading, large, its unit beside it. What was keyed stays as it was keyed, right or wrong. */
@Component({
  selector: 'km-reading-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label [attr.for]="inputId()" [class.large]="!small()"
      >{{ field().label }} <span class="soft">{{ hint() }}</span></label
    >
    <div class="box" [class.small]="small()" [class.on]="inHand()" [class.bad]="worst()">
      <input
        #box
        [id]="inputId()"
        class="fig"
        type="text"
        autocomplete="off"
        [attr.inputmode]="mode()"
        [attr.aria-invalid]="worst() ? true : null"
        [attr.aria-describedby]="issues().length > 0 ? inputId() + '-why' : null"
        [value]="text()"
        maxlength="40"
        (input)="typed.emit(box.value)"
        (focus)="taken.emit()"
        (keydown.enter)="$event.preventDefault(); done.emit()"
      />
      @if (timeable()) {
        <button type="button" class="watch" (pointerdown)="$event.preventDefault()" (click)="timed.emit()">
          {{ running() ? 'stop' : 'time it' }}
        </button>
      }
      @if (units().length > 1) {
        <select [value]="unit()" [attr.aria-label]="'Unit of ' + field().label" (change)="unitChosen.emit($any($event.target).value)">
          @for (u of units(); track u) {
            <option [value]="u" [selected]="u === unit()">{{ label(u) }}</option>
          }
        </select>
      } @else {
        <span class="one soft">{{ label(unit()) }}</span>
      }
    </div>
    @if (issues().length > 0) {
      <div [id]="inputId() + '-why'" class="why">
        @for (issue of issues(); track issue.code) {
          <p>
            {{ sentence(issue) }}
            @if (issue.offer; as offer) {
              <button type="button" class="offer" (click)="offered.emit({ text: offer.text, unit: offer.unit })">
                Meant {{ offer.text }} {{ label(offer.unit) }}?
              </button>
            }
            @if (issue.exchange; as pair) {
              <button type="button" class="offer" data-testid="exchange" (click)="exchanged.emit(pair)">{{ exchangeWords() }}</button>
            }
          </p>
        }
      </div>
    }
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    label {
      display: block;
      font-size: 14.5px;
      margin-bottom: 3px;
      min-height: 20px;
    }
    /* Its hint stands below the name: boxes of one row stand in line. */
    .large {
      display: flex;
      flex-direction: column;
      justify-content: end;
      min-height: 42px;
    }
    .box {
      display: flex;
      align-items: stretch;
      border: 1px solid var(--rule);
      background: var(--well);
      min-height: 60px;
      padding: 2px;
    }
    .box.on,
    .box:focus-within {
      border: 3px solid var(--now);
      padding: 0;
    }
    input {
      flex: 1;
      min-width: 0;
      width: 3ch;
      border: 0;
      background: none;
      font-size: 27px;
      padding: 0 4px 0 12px;
    }
    input:focus {
      outline: none;
    }
    select,
    .one {
      border: 0;
      background: none;
      color: var(--soft);
      min-width: 44px;
      padding: 0 8px 0 2px;
      align-self: stretch;
      display: flex;
      align-items: center;
    }
    .box.small {
      min-height: 50px;
    }
    .box.small input {
      font-size: 19px;
    }
    .watch {
      border: 0;
      border-left: 1px solid var(--hair);
      background: none;
      min-width: 60px;
      color: var(--deep);
      text-decoration: underline;
      cursor: pointer;
      font-size: 14.5px;
    }
    @media print {
      .watch {
        display: none;
      }
    }
    .bad {
      border-color: var(--now);
      border-width: 2px;
      padding: 1px;
    }
    .why {
      color: var(--now);
      font-size: 14.5px;
      margin-top: 4px;
    }
  `,
})
export class ReadingField {
  readonly field = input.required<QtyField>();
  readonly inputId = input.required<string>();
  readonly text = input.required<string>();
  readonly unit = input.required<UnitId>();
  readonly hint = input<string | undefined>();
  readonly inHand = input(false);
  readonly small = input(false);
  readonly running = input(false);
  readonly issues = input<readonly Issue[]>([]);
  readonly typed = output<string>();
  readonly unitChosen = output<UnitId>();
  /** How an exchange with another reading is offered, in words. */
  readonly exchangeWords = input('Exchange the two');
  readonly offered = output<{ text: string; unit: UnitId }>();
  readonly exchanged = output<Exchange>();
  readonly taken = output();
  readonly done = output();
  readonly timed = output();

  private readonly box = viewChild.required<ElementRef<HTMLInputElement>>('box');
  /** The place shows the own keypad to thumbs: the system's would cover the answer. */
  readonly ownKeypad = input(true);
  protected readonly mode = computed(() => {
    if (coarse() && this.ownKeypad()) return 'none';
    // Fractions need the slash and the space, which a system's number pad lacks.
    return this.field().dimension === 'length' || this.field().sieve ? 'text' : 'decimal';
  });
  /** What is offered, and the unit that stands there: one that was taken from an offer is one of them. */
  protected readonly units = computed(() => [...new Set([...unitsFor(this.field()), this.unit()])]);
  /** Nobody holds a stopwatch to days. */
  protected readonly timeable = computed(() => this.field().dimension === 'time' && (this.unit() === 's' || this.unit() === 'min'));
  protected readonly worst = computed(() => this.issues().length > 0);
  protected readonly label = unitLabel;

  protected sentence(issue: Issue): string {
    return [say(issue.code, issue.params), nextStep(issue.code, issue.params)].filter(Boolean).join(' ');
  }

  focus(): void {
    this.box().nativeElement.focus();
    this.box().nativeElement.select();
  }
}
