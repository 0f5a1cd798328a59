import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, signal } from '@angular/core';
import {
  nextStep,
  offerWords,
  say,
  type Field,
  type Issue,
  type PickField,
  type QtyField,
  type RowsField,
  type UnitId,
} from '@keen-mortar/core';
import { InputText } from 'primeng/inputtext';
import { Faults, type Fault } from '../../test/faults';
import { Choice, type Option } from '../../ui/choice';
import { Moment } from '../../ui/moment';
import { ReadingField } from '../../test/reading-field';
import { elapsed } from '../../parts/when';
import { issuesAt } from './columns';
import { GridTable } from './grid-table';
import { isGrid, keyedAt, valueAt } from './inputs';
import { RowTable } from './row-table';
import { ScratchStore } from './scratch.store';

interface Shown<F extends Field = Field> {
  readonly id: string;
  readonly field: F;
  readonly hint: string | undefined;
  readonly issues: readonly Issue[];
}

/** The form of a method, from its definition: readings in their order, rows as tables, the seldom ones last. */
@Component({
  selector: 'km-entry-form',
  imports: [NgTemplateOutlet, ReadingField, RowTable, GridTable, Choice, Moment, Faults, InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './entry-form.html',
  styleUrl: './entry-form.css',
})
export class EntryForm {
  protected readonly store = inject(ScratchStore);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly watches = signal<Readonly<Record<string, number>>>({});

  private readonly shown = computed((): Shown[] => {
    const [m, e] = [this.store.method(), this.store.evaluation()];
    if (!m || !e) return [];
    const hints = (m.hints?.(e.params, e.system) ?? {}) as Record<string, string>;
    return this.store.fields().map(([id, field]) => ({
      id,
      field,
      hint: hints[id] ?? field.hint,
      issues: issuesAt(e.issues, id),
    }));
  });
  private readonly plain = computed(() => this.shown().filter((f) => f.field.kind !== 'rows'));
  protected readonly main = computed(() => this.plain().filter((f) => !f.field.minor));
  protected readonly seldom = computed(() => this.plain().filter((f) => f.field.minor));
  protected readonly rows = computed(() => this.shown().filter((f): f is Shown<RowsField> => f.field.kind === 'rows'));

  protected readonly grid = isGrid;
  protected readonly sentence = (issue: Issue): string =>
    [say(issue.code, issue.params), nextStep(issue.code, issue.params)].filter(Boolean).join(' ');
  protected readonly exchangeWords = (issues: readonly Issue[]): string => {
    const [m, issue] = [this.store.method(), issues.find((i) => i.exchange)];
    return (m && issue && offerWords(m, { exchange: issue.exchange! })) ?? '';
  };
  protected readonly asQty = (field: Field): QtyField => field as QtyField;
  private readonly known = new Map<Field, Option[]>();

  /** The same list each time: what is the same is not drawn again. */
  protected options(field: Field): Option[] {
    const list = this.known.get(field) ?? Object.entries((field as PickField).options).map(([id, label]) => ({ id, label }));
    this.known.set(field, list);
    return list;
  }

  protected faults(list: readonly Shown[]): Fault[] {
    return list
      .filter((f) => f.issues.length > 0)
      .map(({ id, field, issues }) => ({
        id,
        inputId: `scratch-${id}`,
        label: field.label,
        issues,
        exchangeWords: this.exchangeWords(issues),
      }));
  }

  protected text(id: string): string {
    return keyedAt(this.store.inputs(), id)?.text ?? '';
  }

  protected value(f: Shown): string {
    return (valueAt(this.store.inputs(), f.id) as string | null) ?? '';
  }

  protected unit(f: Shown): UnitId {
    return keyedAt(this.store.inputs(), f.id)?.unit ?? this.asQty(f.field).units[this.store.system()];
  }

  protected running(id: string): boolean {
    return this.watches()[id] !== undefined;
  }

  protected timed(id: string): void {
    const started = this.watches()[id];
    if (started === undefined) {
      this.watches.update((all) => ({ ...all, [id]: Date.now() }));
      return;
    }
    this.watches.update((all) => Object.fromEntries(Object.entries(all).filter(([other]) => other !== id)));
    this.store.key(id, elapsed(Date.now() - started), 's');
  }

  /** Enter: on to the next reading of the form. */
  protected goOn(id: string): void {
    const boxes = [...this.host.nativeElement.querySelectorAll<HTMLInputElement>('input[type=text]')];
    const at = boxes.findIndex((box) => box.id === `scratch-${id}`);
    const next = boxes[at + 1];
    next?.focus();
    next?.select();
  }
}
