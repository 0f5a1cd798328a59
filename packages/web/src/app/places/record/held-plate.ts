import { computed, inject, signal, type Signal } from '@angular/core';
import type { Instrument } from '@keen-mortar/contract';
import { kitOfMethod, READS, type AnyMethod, type Dimension, type RowsField, type Shape } from '@keen-mortar/core';
import { Api } from '../../api/api';
import type { Taken } from '../../test/plate';
import type { HeldForm } from './held-form';

interface Of {
  readonly method: Signal<AnyMethod>;
  /** What is known of an item, rather than a test of it: read off no instrument. */
  readonly facts: Signal<boolean>;
  /** What it is made with, as it is called. */
  readonly kitNames: Signal<readonly string[]>;
}

/** The instrument that can show what is in hand of a test, and what was taken from one. Made where things are injected. */
export class HeldPlate {
  private readonly api = inject(Api);
  private asked = false;
  private readonly instruments = signal<readonly Instrument[]>([]);
  private readonly took = signal<Readonly<Record<string, Taken>>>({});
  /** What was taken, by its place in the form. */
  readonly taken = this.took.asReadonly();
  /** The reading in hand, by its place: `dry`, or `track.3.mass` in a table. */
  private readonly place = signal<string | null>(null);

  constructor(
    private readonly of: Of,
    private readonly form: HeldForm,
    private readonly key: (place: string, came: Taken) => void,
  ) {}

  /** Of a kind that the method is made with. */
  readonly instrument = computed((): Instrument | null => {
    const dimension = this.dimension();
    if (dimension === null) return null;
    const kinds = kitOfMethod(this.of.method()).filter((kind) => READS[kind] === dimension);
    const able = this.instruments().filter((i) => kinds.some((kind) => kind === i.kind));
    return able.find((i) => this.of.kitNames().includes(i.name)) ?? able[0] ?? null;
  });

  /** Of the quantity in hand, where it can be keyed. */
  private readonly dimension = computed((): Dimension | null => {
    const [rows, , column] = this.place()?.split('.') ?? [];
    if (rows === undefined || this.of.facts()) return null;
    if (column === undefined) {
      const plain = this.form.held().find((f) => f.id === rows);
      return plain?.field.kind === 'qty' && plain.editable ? plain.field.dimension : null;
    }
    const table = (this.of.method().fields as Shape)[rows];
    const cell = table?.kind === 'rows' ? (table as RowsField).of[column] : undefined;
    return cell?.kind === 'qty' ? cell.dimension : null;
  });

  focused({ target }: FocusEvent): void {
    const box = target instanceof HTMLInputElement ? target : null;
    const place = box?.dataset['place'] ?? /^held-([\w.]+)$/.exec(box?.id ?? '')?.[1];
    if (place === undefined || this.of.facts()) return;
    this.place.set(place);
    if (this.asked) return;
    // What is wired to the server; without any nothing is said of it.
    this.asked = true;
    this.api.instruments().subscribe({ next: ({ items }) => this.instruments.set(items), error: () => (this.asked = false) });
  }

  take(came: Taken): void {
    const place = this.place();
    if (place === null) return;
    this.took.update((all) => ({ ...all, [place]: came }));
    this.key(place, came);
  }

  /** Several at once, by their places in the form. */
  tookAll(came: Readonly<Record<string, Taken>>): void {
    this.took.update((all) => ({ ...all, ...came }));
  }

  /** Another test is in hand. */
  forget(): void {
    this.place.set(null);
    this.took.set({});
  }
}
