import { ChangeDetectionStrategy, Component, computed, effect, ElementRef, inject, input, signal, untracked } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormArray, FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { newSpecification, type NewSpecification, type Specification } from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import {
  ACCEPTED_AT_DAYS,
  COMPARISONS,
  AT_AN_AGE,
  FOUND_BY_BREAKING,
  isUnit,
  limitWords,
  PROPERTIES,
  propertyOf,
  schoolOf,
  SCHOOLS,
  unitLabel,
  unitsOf,
  type Limit,
} from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Api, problemOf } from '../../api/api';
import { Clock } from '../../device/clock';
import { newId } from '../../device/ids';
import { Write } from '../../device/write';
import { WriteTold } from '../../parts/write-told';
import { project, session } from '../../state/session';
import { Choice } from '../../ui/choice';
import { Field, FieldInput } from '../../ui/field';
import { Moment } from '../../ui/moment';
import { Notice } from '../../ui/notice';
import { Pictogram } from '../../ui/pictogram';
import { Remove } from '../../ui/remove';
import { focusFault, ZodForm } from '../../ui/zod-form';

/** How a limit is written; which of its ends are asked for then. */
const WRITTEN = {
  between: { label: 'from … to …', ends: ['lower', 'upper'] },
  most: { label: 'at most', ends: ['upper'] },
  least: { label: 'at least', ends: ['lower'] },
  target: { label: 'target − … + …', ends: ['target', 'minus', 'plus'] },
} as const;
type Written = keyof typeof WRITTEN;
type End = 'lower' | 'upper' | 'target' | 'minus' | 'plus';
const ENDS: readonly End[] = ['lower', 'upper', 'target', 'minus', 'plus'];
const LABELS: Readonly<Record<End, string>> = { lower: 'lowest', upper: 'highest', target: 'target', minus: 'minus', plus: 'plus' };

const text = (value = ''): FormControl<string> => new FormControl(value, { nonNullable: true });

function row(l?: Limit) {
  const how: Written = !l
    ? 'between'
    : l.target !== undefined
      ? 'target'
      : l.lower === undefined
        ? 'most'
        : l.upper === undefined
          ? 'least'
          : 'between';
  return new FormGroup({
    id: text(newId()),
    property: text(l?.property),
    unit: text(l?.unit),
    how: text(how),
    lower: text(l?.lower),
    upper: text(l?.upper),
    target: text(l?.target),
    minus: text(l?.minus),
    plus: text(l?.plus),
    atDays: text(l?.atDays === undefined ? '' : String(l.atDays)),
    source: text(l?.source),
    onFail: text(l?.onFail),
  });
}
type Row = ReturnType<typeof row>;

interface WrittenLimit extends Partial<Record<End, string>> {
  readonly id: string;
  readonly property: string;
  readonly unit: string;
  readonly atDays?: number;
  readonly source: string;
  readonly onFail?: string;
}

const WORDS: Readonly<Record<string, string>> = {
  name: 'Say how it is called.',
  sampled: 'Say it in a few words, or leave it empty.',
  'replaces.from': 'Say from when.',
  'replaces.why': 'Say in a few words what was changed, and why.',
};
const ROW_WORDS: Readonly<Record<string, string>> = {
  property: 'Choose what is limited.',
  source: 'Say where it is written.',
  atDays: 'Key whole days.',
};
const ENDLESS = 'Key where it ends.';

/** What concrete or an aggregate must meet: its limits, how they are compared, and what to do when one fails. */
@Component({
  selector: 'km-specification-form',
  imports: [
    ReactiveFormsModule,
    RouterLink,
    ButtonDirective,
    InputText,
    Choice,
    Field,
    FieldInput,
    Moment,
    Notice,
    Pictogram,
    Remove,
    WriteTold,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './specification-form.html',
  styleUrl: './specification-form.css',
})
export class SpecificationForm {
  private readonly api = inject(Api);
  private readonly state = inject(Store);
  private readonly router = inject(Router);
  private readonly clock = inject(Clock);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  /** The one whose place it takes; none: a new one. */
  readonly replacesId = input<string>();
  private readonly project = this.state.selectSignal(project);
  private readonly person = this.state.selectSignal(session.selectPersonId);
  protected readonly before = signal<Specification | null>(null);
  protected readonly problem = signal<Problem | null>(null);

  protected readonly form = new FormGroup({
    name: text(),
    comparison: text('reported'),
    sampled: text(),
    school: text(),
    why: text(),
    limits: new FormArray([row()]),
  });
  protected readonly from = signal<string | null>(null);
  private readonly keyed = toSignal(this.form.valueChanges, { initialValue: this.form.getRawValue() });
  protected readonly check = new ZodForm<NewSpecification>(
    this.form,
    newSpecification,
    () => this.body(),
    (path, message) => this.words(path, message),
  );
  protected readonly write = new Write<Specification>();
  private readonly id = newId();

  protected readonly zone = computed(() => this.project()?.timezone ?? 'local');
  protected readonly system = computed(() => this.project()?.system ?? 'si');
  protected readonly properties = PROPERTIES.map((p) => ({ id: p.id, label: p.label }));
  protected readonly comparisons = Object.entries(COMPARISONS).map(([id, label]) => ({ id, label }));
  protected readonly schools = Object.entries(SCHOOLS).map(([id, { title }]) => ({ id, label: title }));
  protected readonly own = computed(() => SCHOOLS[schoolOf(this.project()?.practice ?? 'us-astm')].title);
  protected readonly hows = Object.entries(WRITTEN).map(([id, { label }]) => ({ id, label }));
  protected readonly labels = LABELS;
  protected readonly label = unitLabel;
  /** As they will stand beside a result. */
  protected readonly says = computed(() => {
    this.keyed();
    return this.form.controls.limits.controls.map((g) => {
      const l = this.limit(g);
      const ends = ENDS.filter((end) => l[end] !== undefined);
      const whole = l.atDays === undefined || Number.isInteger(l.atDays);
      return ends.length > 0 && whole && ends.every((end) => /^-?\d+(\.\d+)?$/.test(l[end]!)) && isUnit(l.unit)
        ? limitWords(l as Limit)
        : '';
    });
  });

  constructor() {
    effect((gone) => {
      const id = this.replacesId();
      untracked(() => this.from.set(this.clock.iso()));
      if (id === undefined) return;
      const asked = this.api.specification(id).subscribe({
        next: (s) => this.fill(s),
        error: (e: unknown) => this.problem.set(problemOf(e)),
      });
      gone(() => asked.unsubscribe());
    });
  }

  private fill(s: Specification): void {
    this.before.set(s);
    this.form.setControl('limits', new FormArray(s.limits.map((l) => row(l))));
    this.form.patchValue({ name: s.name, comparison: s.comparison, sampled: s.sampled ?? '', school: s.school ?? '' });
  }

  protected units(property: string): { id: string; label: string }[] {
    const found = propertyOf(property);
    return found ? unitsOf(found.dimension).map((id) => ({ id, label: unitLabel(id) || 'a plain number' })) : [];
  }
  protected chooseProperty(g: Row, id: string): void {
    const usual = propertyOf(id)?.units[this.system()];
    g.patchValue({ property: id, unit: usual ?? '' });
  }
  /** Strength is asked at an age, and length change may be. */
  protected hasAge = (property: string): boolean => [...FOUND_BY_BREAKING, ...AT_AN_AGE].includes(property);
  protected ageHint = (property: string): string =>
    FOUND_BY_BREAKING.includes(property) ? `${ACCEPTED_AT_DAYS} if empty` : 'any if empty';
  protected ends = (how: string): readonly End[] => WRITTEN[how as Written].ends;
  protected add(): void {
    this.form.controls.limits.push(row());
  }
  protected remove(i: number): void {
    this.form.controls.limits.removeAt(i);
  }
  protected fault(i: number, what: string): string {
    return this.check.at(`limits.${i}.${what}`);
  }

  /** Only what is asked for: what was keyed of another way of writing it stays in the form. */
  private limit(g: Row): WrittenLimit {
    const { id, property, unit, how, atDays, source, onFail, ...ends } = g.getRawValue();
    const asked = WRITTEN[how as Written].ends as readonly End[];
    return {
      id,
      property,
      unit,
      source: source.trim(),
      // What is no number stays as it was keyed, and is told at its box.
      ...(atDays.trim() === '' || !this.hasAge(property) ? {} : { atDays: Number(atDays) }),
      ...(onFail.trim() === '' ? {} : { onFail: onFail.trim() }),
      ...Object.fromEntries(asked.flatMap((end) => (ends[end].trim() === '' ? [] : [[end, ends[end].trim()]]))),
    };
  }

  private body(): unknown {
    const { name, comparison, sampled, school, why } = this.form.getRawValue();
    const before = this.replacesId();
    return {
      id: this.id,
      by: this.person(),
      projectId: this.project()?.id,
      name,
      comparison,
      ...(sampled.trim() === '' ? {} : { sampled: sampled.trim() }),
      ...(school === '' ? {} : { school }),
      limits: this.form.controls.limits.controls.map((g) => this.limit(g)),
      ...(before === undefined ? {} : { replaces: { id: before, from: this.from() ?? '', why: why.trim() } }),
    };
  }

  private words(path: string, message: string): string {
    const [, i, inRow] = /^limits\.(\d+)(?:\.(\w+))?$/.exec(path) ?? [];
    if (i === undefined) return WORDS[path] ?? message;
    // What is not chosen yet has no unit to be wrong.
    if (inRow === 'unit' && this.form.controls.limits.at(Number(i)).controls.unit.value === '') return '';
    if (inRow === undefined) return ENDLESS;
    return ROW_WORDS[inRow] ?? `${message.charAt(0).toUpperCase()}${message.slice(1)}.`;
  }

  protected keep(): void {
    if (this.person() === null) return;
    const body = this.check.take();
    if (body === null) return focusFault(this.host.nativeElement);
    this.write.send(
      { id: this.id, itemId: this.id, opens: this.router.url, kind: 'specification', path: '/specifications', body },
      (s) => void this.router.navigate(['/mixes/specifications', s.id]),
      {
        refused: (why) => {
          this.check.refused(why.errors ?? []);
          focusFault(this.host.nativeElement);
        },
      },
    );
  }
}
