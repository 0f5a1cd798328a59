import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, input, model, output, viewChildren } from '@angular/core';
import { nextStep, offerWords, say, type AnyMethod, type Issue } from '@keen-mortar/core';
import { Faults, type Fault } from '../faults';
import type { Meant } from '../meant';
import { Fields } from './fields';
import { GridTable } from './grid-table';
import { isGrid } from './inputs';
import { RowTable } from './row-table';
import { inputIdOf, type RowsForm, type ShownField, type TestForm } from './test-form';

const NONE: readonly ShownField[] = [];

/** The form of a test, from its definition: readings in their order, rows as tables, the seldom ones last. */
@Component({
  selector: 'km-form',
  imports: [Fields, RowTable, GridTable, Faults],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (first().length > 0) {
      <km-fields
        [form]="form()"
        [list]="first()"
        [large]="large()"
        [zone]="zone()"
        [(inHand)]="inHand"
        (done)="done.emit($event)"
        (corrected)="corrected.emit($event)"
      />
      @if (open(first())) {
        <km-faults role="status" [faults]="faultsOf(first())" (offered)="take($event)" (exchanged)="form().exchange($event)" />
      }
    }
    @if (rows(); as rowsForm) {
      @for (t of rowsForm.tables(); track t.id) {
        @if (grid(t.field)) {
          <km-grid-table [form]="rowsForm" [path]="t.id" [field]="t.field" />
        } @else {
          <km-row-table [form]="rowsForm" [path]="t.id" [field]="t.field" />
        }
        @for (issue of t.issues; track issue.code) {
          <p class="fault">{{ sentence(issue) }}</p>
        }
      }
    }
    @if (last().length > 0) {
      <p class="soft small">Not always needed</p>
      <km-fields
        [form]="form()"
        [list]="last()"
        [zone]="zone()"
        [(inHand)]="inHand"
        (done)="done.emit($event)"
        (corrected)="corrected.emit($event)"
      />
      @if (open(last())) {
        <km-faults role="status" [faults]="faultsOf(last())" (offered)="take($event)" (exchanged)="form().exchange($event)" />
      }
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 8px;
      align-content: start;
      min-width: 0;
    }
  `,
})
export class Form {
  readonly method = input.required<AnyMethod>();
  readonly form = input.required<TestForm>();
  /** Which of its readings: all, unless some stand elsewhere. */
  readonly list = input<readonly ShownField[] | null>(null);
  readonly rows = input<RowsForm | null>(null);
  /** For gloves: figures large, all readings in one block. */
  readonly large = input(false);
  readonly zone = input('local');
  readonly inHand = model<string | null>(null);
  readonly done = output<string>();
  readonly corrected = output<string>();
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly parts = viewChildren(Fields);

  private readonly shown = computed(() => this.list() ?? this.form().fields());
  protected readonly first = computed(() => (this.large() ? this.shown() : this.shown().filter((f) => !f.field.minor)));
  protected readonly last = computed(() => (this.large() ? NONE : this.shown().filter((f) => f.field.minor)));
  protected readonly grid = isGrid;
  protected readonly sentence = (issue: Issue): string =>
    [say(issue.code, issue.params), nextStep(issue.code, issue.params)].filter(Boolean).join(' ');

  /** Where nothing can be keyed nothing needs room to be wrong. */
  protected open(list: readonly ShownField[]): boolean {
    return list.some((f) => f.editable);
  }

  protected faultsOf(list: readonly ShownField[]): Fault[] {
    return list
      .filter((f) => f.issues.length > 0)
      .map(({ id, field, issues }) => ({
        id,
        inputId: inputIdOf(this.form(), id),
        label: field.label,
        issues,
        exchangeWords: this.exchangeWords(issues),
      }));
  }

  protected take(meant: readonly Meant[]): void {
    for (const { path, text, unit } of meant) this.form().key(path, text, unit);
  }

  private exchangeWords(issues: readonly Issue[]): string {
    const exchange = issues.find((issue) => issue.exchange)?.exchange;
    return (exchange && offerWords(this.method(), { exchange })) ?? '';
  }

  /**
   * On to what is keyed after a reading, cells of tables too.
   * @returns whether there was anything
   */
  next(field: string): boolean {
    const boxes = this.boxes();
    const id = inputIdOf(this.form(), field);
    return take(boxes[boxes.findIndex((box) => box.id === id || box.name === id) + 1]);
  }

  /** All that can be gone to by keys, in order: boxes, and of looks the one that is chosen, or else the first. */
  private boxes(): HTMLInputElement[] {
    const all = [...this.host.nativeElement.querySelectorAll<HTMLInputElement>('input[type=text], km-shapes input[type=radio]')];
    const chosen = (name: string) => all.find((box) => box.name === name && box.checked) ?? all.find((box) => box.name === name);
    return all.filter((box) => box.type === 'text' || box === chosen(box.name));
  }

  /** To a reading of any kind. */
  goTo(field: string): boolean {
    const id = inputIdOf(this.form(), field);
    return take(this.boxes().find((box) => box.id === id || box.name === id));
  }

  /** Whether there was such a reading to go to. */
  focus(field: string): boolean {
    return this.parts().some((part) => part.focus(field));
  }
}

function take(box: HTMLInputElement | undefined): boolean {
  box?.focus();
  if (box?.type === 'text') box.select();
  return box !== undefined;
}
