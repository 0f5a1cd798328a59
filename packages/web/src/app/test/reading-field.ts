import { Icon } from '../ui/icon';
import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, input, output, viewChild } from '@angular/core';
import { unitLabel, unitsFor, type UnitId } from '@keen-mortar/core';
import { ButtonDirective } from 'primeng/button';
import { Choice } from '../ui/choice';
import { Keyed } from '../ui/keyed';
import { asQty, inputIdOf, type ShownField, type TestForm } from './form/test-form';

const coarse = (): boolean => typeof matchMedia === 'function' && matchMedia('(pointer: coarse)').matches;

/** One reading, large, its unit beside it. What was keyed stays as it was keyed, right or wrong. */
@Component({
  selector: 'km-reading-field',
  imports: [Icon, ButtonDirective, Keyed, Choice],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label [attr.for]="inputId()"
      >{{ field().label }} <span class="soft">{{ shown().hint ?? (field().optional ? 'if known' : '') }}</span></label
    >
    <div class="box" [class.small]="small()" [class.on]="inHand()" [class.wrong]="wrong()">
      <span class="in">
        <input
          #box
          [id]="inputId()"
          class="fig"
          type="text"
          [attr.inputmode]="mode()"
          [attr.aria-invalid]="wrong() ? true : null"
          [attr.aria-describedby]="wrong() ? inputId() + '-why' : null"
          [text]="shown().text"
          [seenFirst]="form().seenFirst ?? false"
          maxlength="40"
          [kmKeyed]="typed"
          (focus)="taken.emit()"
          (keydown.enter)="$event.preventDefault(); done.emit()"
        />
      </span>
      @if (timeable()) {
        <button
          type="button"
          pButton
          [text]="true"
          class="link watch"
          (pointerdown)="$event.preventDefault()"
          (click)="form().timed(shown().id)"
        >
          <km-icon name="stopwatch" /> <span class="word">{{ shown().running ? 'stop' : 'time it' }}</span>
        </button>
      }
      @if (units().length > 1) {
        <km-choice [label]="'Unit of ' + field().label" [quiet]="true" [options]="units()" [value]="unit()" (chosen)="choose($event)" />
      } @else {
        <span class="one soft">{{ units()[0]?.label }}</span>
      }
    </div>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-rows: 1fr auto;
      min-width: 0;
    }
    label {
      align-self: end;
      font-size: 14.5px;
      padding-bottom: 3px;
    }
    label span {
      display: inline-block;
    }
    .box {
      container-type: inline-size;
      display: flex;
      align-items: stretch;
      border: 1px solid var(--rule);
      background: var(--well);
      min-height: 60px;
    }
    /* Drawn inside: a field in hand, or a wrong one, moves nothing. */
    .box.on,
    .box:focus-within {
      border-color: var(--now);
      box-shadow: inset 0 0 0 2px var(--now);
    }
    .box.wrong {
      border-color: var(--out);
      box-shadow: inset 0 0 0 2px var(--out);
    }
    .box.wrong:focus-within,
    .box.wrong.on {
      box-shadow:
        inset 0 0 0 2px var(--out),
        0 0 0 3px var(--now-line);
    }
    .in {
      flex: 1;
      min-width: 0;
      position: relative;
    }
    /* Laid out by itself: what is keyed moves nothing around it, and the sheet is not laid out again with each key. */
    input {
      position: absolute;
      inset: 0;
      width: 100%;
      height: 100%;
      min-height: 0;
      /* Of what is below it so much comes into sight with it: what is wrong with it stands there. */
      scroll-margin-bottom: var(--below, 0);
      contain: strict;
      border: 0;
      background: none;
      font-size: 27px;
      padding: 0 4px 0 12px;
      box-shadow: none;
    }
    input:focus {
      outline: none;
    }
    .one {
      min-width: 34px;
      padding: 0 10px 0 2px;
      display: flex;
      align-items: center;
    }
    km-choice {
      display: flex;
      align-items: center;
    }
    .box.small {
      min-height: 52px;
    }
    .box.small input {
      font-size: 19px;
    }
    /* Where a figure needs the room the sign of it will do: the button is as wide as ever. */
    @container (max-width: 185px) {
      .word {
        position: absolute;
        clip-path: inset(50%);
      }
    }
    .watch {
      flex: none;
      font-size: 14.5px;
      color: var(--deep);
    }
    @media print {
      .watch {
        display: none;
      }
    }
  `,
})
export class ReadingField {
  readonly form = input.required<TestForm>();
  readonly shown = input.required<ShownField>();
  readonly inHand = input(false);
  readonly small = input(false);
  /** The place shows the own keypad to thumbs: the system's would cover the answer. */
  readonly ownKeypad = input(false);
  readonly taken = output();
  readonly done = output();

  protected readonly field = computed(() => asQty(this.shown().field));
  readonly inputId = computed(() => inputIdOf(this.form(), this.shown().id));
  protected readonly unit = computed(() => this.shown().unit);
  /** What is wrong with it is said at `<inputId>-why`. */
  protected readonly wrong = computed(() => this.shown().issues.length > 0);
  protected readonly typed = (text: string): void => {
    const { id, unit } = this.shown();
    this.form().key(id, text, unit);
  };

  private readonly box = viewChild.required<ElementRef<HTMLInputElement>>('box');
  protected readonly mode = computed(() => {
    if (coarse() && this.ownKeypad()) return 'none';
    // Fractions need the slash and the space, which a system's number pad lacks.
    return this.field().dimension === 'length' || this.field().sieve ? 'text' : 'decimal';
  });
  /** What is offered, and the unit that stands there: one that was taken from an offer is one of them. */
  protected readonly units = computed(
    () => [...new Set([...unitsFor(this.field()), this.unit()])].map((id) => ({ id, label: unitLabel(id) })),
    {
      equal: (a, b) => a.length === b.length && a.every(({ id }, i) => id === b[i]!.id),
    },
  );
  /** Nobody holds a stopwatch to days. */
  protected readonly timeable = computed(() => this.field().dimension === 'time' && (this.unit() === 's' || this.unit() === 'min'));

  protected choose(unit: string): void {
    const { id, text } = this.shown();
    this.form().key(id, text, unit as UnitId);
  }

  focus(): void {
    this.box().nativeElement.focus();
    this.box().nativeElement.select();
  }
}
