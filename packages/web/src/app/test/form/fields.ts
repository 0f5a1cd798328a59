import { Icon } from '../../ui/icon';
import { ChangeDetectionStrategy, Component, computed, input, model, output, viewChildren } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Choice, type Option } from '../../ui/choice';
import { Moment } from '../../ui/moment';
import { ReadingField } from '../reading-field';
import { Shapes } from '../shapes';
import { lookOf } from '../looks';
import { asPick, inputIdOf, type ShownField, type TestForm } from './test-form';
import type { Field } from '@keen-mortar/core';

/** More than these are a list. */
const MOST_CARDS = 5;

/** Readings of a test, each as its kind is keyed; what is on record stands as it was kept, with the way to correct it. */
@Component({
  selector: 'km-fields',
  imports: [Icon, ReadingField, Shapes, Choice, Moment, InputText, ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '[class.large]': 'large()' },
  templateUrl: './fields.html',
  styleUrl: './fields.css',
})
export class Fields {
  readonly form = input.required<TestForm>();
  readonly list = input.required<readonly ShownField[]>();
  /** For gloves: figures large, choices as cards. */
  readonly large = input(false);
  readonly zone = input('local');
  readonly inHand = model<string | null>(null);
  /** Enter was pressed: on to the next. */
  readonly done = output<string>();
  readonly corrected = output<string>();
  private readonly boxes = viewChildren(ReadingField);

  /** All of it is on record and was told alike: it stands close, and whose it is stands once. */
  protected readonly filed = computed(() => {
    const told = new Set(this.list().map((f) => (f.editable || !f.kept ? null : f.kept.told)));
    return told.size === 1 && this.list().length > 1 ? ([...told][0] ?? null) : null;
  });

  protected readonly usual = (field: Field): string | undefined => asPick(field).usual;
  private readonly known = new Map<Field, Option[]>();

  protected inputId(f: ShownField): string {
    return inputIdOf(this.form(), f.id);
  }

  /** The same list each time: what is the same is not drawn again. */
  protected options(field: Field): Option[] {
    const list = this.known.get(field) ?? Object.entries(asPick(field).options).map(([id, label]) => ({ id, label }));
    this.known.set(field, list);
    return list;
  }

  /** What has a look is chosen by its look. */
  protected asCards(field: Field): boolean {
    const options = this.options(field);
    return lookOf(options.map((o) => o.id)) !== null || (this.large() && !field.optional && options.length <= MOST_CARDS);
  }

  focus(field: string): boolean {
    const box = this.boxes().find((b) => b.inputId() === `${this.form().prefix}-${field}`);
    box?.focus();
    return box !== undefined;
  }
}
