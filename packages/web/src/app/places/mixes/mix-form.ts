import { ChangeDetectionStrategy, Component, computed, effect, ElementRef, inject, input, signal, untracked } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormArray, FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import {
  newMix,
  newRevision,
  revisionAt,
  type Ingredient,
  type Mix,
  type Revision,
  type SourceNow,
  type Specification,
} from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import { decimal, unitLabel, type UnitId } from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { TableModule } from 'primeng/table';
import { forkJoin } from 'rxjs';
import type { ZodType } from 'zod';
import { Api, problemOf } from '../../api/api';
import { Clock } from '../../device/clock';
import { newId } from '../../device/ids';
import { Write } from '../../device/write';
import { WriteTold } from '../../parts/write-told';
import { project, session } from '../../state/session';
import { Choice } from '../../ui/choice';
import { Choices } from '../../ui/choices';
import { Field, FieldInput } from '../../ui/field';
import { Moment } from '../../ui/moment';
import { Notice } from '../../ui/notice';
import { Pictogram } from '../../ui/pictogram';
import { Remove } from '../../ui/remove';
import { focusFault, ZodForm } from '../../ui/zod-form';
import { Block } from './block';
import { madeOf, roleOptions } from './recipe';

const text = (value = ''): FormControl<string> => new FormControl(value, { nonNullable: true });
const row = (i?: Partial<Record<'name' | 'role' | 'mass' | 'sg' | 'sourceId', string | undefined>>) =>
  new FormGroup({
    name: text(i?.name),
    role: text(i?.role),
    mass: text(i?.mass),
    sg: text(i?.sg),
    sourceId: text(i?.sourceId),
  });

/** What nearly every recipe has; the rest is keyed. */
const USUAL = [
  { name: 'Cement', role: 'cement' },
  { name: 'Water', role: 'water', sg: '1.000' },
  { role: 'fine' },
  { role: 'coarse' },
] as const;

const WORDS: Readonly<Record<string, string>> = {
  code: 'Key its code, at most 24 characters.',
  name: 'Say how it is called.',
  effectiveFrom: 'Say from when it is batched so.',
  'largest.text': 'Key the largest size, as 25.',
  'nominal.text': 'Key the nominal maximum size, as 19.',
  air: 'Key the design air, as 6.0.',
  correction: 'Key a number, as 0.4.',
  correctionOn: 'Say the day on which the factor was found.',
  why: 'Say in a few words what was changed, and why.',
};
const ROW_WORDS: Readonly<Record<string, string>> = {
  name: 'Name it.',
  role: 'Choose its kind.',
  mass: 'Key its mass.',
  sg: 'Key a gravity, or choose the source.',
};
const LEAST = 2;

/** A new mix with its first revision, or the next revision of one: beside it what the recipe makes, while it is keyed. */
@Component({
  selector: 'km-mix-form',
  imports: [
    ReactiveFormsModule,
    RouterLink,
    ButtonDirective,
    InputText,
    TableModule,
    Block,
    Choice,
    Choices,
    Field,
    FieldInput,
    Moment,
    Notice,
    Pictogram,
    Remove,
    WriteTold,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './mix-form.html',
  styleUrl: './mix-form.css',
})
export class MixForm {
  private readonly api = inject(Api);
  private readonly state = inject(Store);
  private readonly router = inject(Router);
  private readonly clock = inject(Clock);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  /** The mix that is revised; none: a new one. */
  readonly mixId = input<string>();
  private readonly project = this.state.selectSignal(project);
  private readonly person = this.state.selectSignal(session.selectPersonId);
  protected readonly mix = signal<Mix | null>(null);
  private readonly specs = signal<readonly Specification[]>([]);
  private readonly sources = signal<readonly SourceNow[]>([]);
  protected readonly problem = signal<Problem | null>(null);
  protected readonly ready = signal(false);

  protected readonly form = new FormGroup({
    code: text(),
    name: text(),
    largest: text(),
    nominal: text(),
    air: text(),
    correction: text(),
    aggregate: text('normal'),
    why: text(),
    ingredients: new FormArray(USUAL.map((i) => row(i))),
  });
  protected readonly effectiveFrom = signal<string | null>(null);
  protected readonly correctionOn = signal<string | null>(null);
  protected readonly specificationIds = signal<readonly string[]>([]);
  private readonly keyed = toSignal(this.form.valueChanges, { initialValue: this.form.getRawValue() });
  protected readonly check = new ZodForm(
    this.form,
    // One form for two writes: which one it is shows when it is opened.
    { safeParse: (body: unknown) => this.schema().safeParse(body) } as ZodType<Record<string, unknown>>,
    () => this.body(),
    (path, message) => this.words(path, message),
  );
  protected readonly write = new Write<Mix>();
  private readonly id = newId();
  private readonly revisionId = newId();

  protected readonly zone = computed(() => this.project()?.timezone ?? 'local');
  private readonly us = computed(() => this.project()?.system === 'us');
  protected readonly massUnit = computed((): UnitId => this.unitOf('mass', this.us() ? 'lb' : 'kg'));
  protected readonly sizeUnit = computed((): UnitId => this.unitOf('size', this.us() ? 'in' : 'mm'));
  protected readonly whole = computed(() => (this.massUnit() === 'lb' ? '1 yd³' : '1 m³'));
  protected readonly unit = unitLabel;
  protected readonly roles = roleOptions;
  protected readonly aggregates = [
    { id: 'normal', label: 'Normal' },
    { id: 'porous', label: 'Porous, as lightweight' },
  ];
  protected readonly specOptions = computed(() => this.specs().map((s) => ({ id: s.id, label: s.name })));
  protected readonly most = 4;
  protected readonly ahead = computed(() => {
    const from = this.effectiveFrom();
    return from !== null && Date.parse(from) > this.clock.now();
  });

  protected readonly recipe = computed(() => {
    const { ingredients = [], air = '' } = this.keyed();
    const figure = (t: string | undefined): string => (decimal((t ?? '').trim()) ? (t ?? '').trim() : '');
    return {
      air: figure(air),
      ingredients: ingredients.map((i) => ({
        name: i.name ?? '',
        role: (i.role === '' || i.role === undefined ? 'admixture' : i.role) as Ingredient['role'],
        mass: { text: figure(i.mass), unit: this.massUnit() },
        sg: figure(i.sg) || this.newest(i.sourceId)?.text || '',
      })),
    };
  });
  protected readonly made = computed(() => madeOf(this.recipe()));

  constructor() {
    effect((gone) => {
      const p = this.project();
      const mixId = this.mixId();
      if (!p) return;
      const asked = forkJoin({
        specifications: this.api.specifications(p.id),
        sources: this.api.sources(p.id),
        ...(mixId === undefined ? {} : { sheet: this.api.mixSheet(mixId) }),
      }).subscribe({
        next: ({ specifications, sources, sheet }) =>
          untracked(() => {
            this.specs.set(specifications.items);
            this.sources.set(sources.items);
            this.effectiveFrom.set(this.clock.iso());
            if (sheet) this.fill(sheet.mix);
            this.ready.set(true);
          }),
        error: (e: unknown) => this.problem.set(problemOf(e)),
      });
      gone(() => asked.unsubscribe());
    });
  }

  /** As the newest that is in force or planned: a revision changes a little of it. */
  private fill(mix: Mix): void {
    this.mix.set(mix);
    const last: Revision | undefined =
      [...mix.revisions].sort((a, b) => b.number - a.number)[0] ?? revisionAt(mix.revisions, this.clock.now());
    if (!last) return;
    this.form.setControl(
      'ingredients',
      new FormArray(last.ingredients.map((i) => row({ ...i, mass: i.mass.text, sg: i.sgTest ? '' : i.sg }))),
    );
    this.form.patchValue({
      largest: last.largest.text,
      nominal: last.nominal.text,
      air: last.air,
      correction: last.correction ?? '',
      aggregate: last.aggregate,
    });
    this.correctionOn.set(last.correctionOn ?? null);
    this.specificationIds.set(last.specificationIds);
  }

  private unitOf(of: 'mass' | 'size', usual: UnitId): UnitId {
    const last = this.mix()?.revisions.at(-1);
    return (of === 'mass' ? last?.ingredients[0]?.mass.unit : last?.largest.unit) ?? usual;
  }

  protected sourcesFor(role: string): { id: string; label: string }[] {
    return this.sources()
      .filter((s) => s.kind === role)
      .map((s) => ({ id: s.id, label: s.code }));
  }
  private newest(sourceId: string | undefined): SourceNow['gravity'] {
    return this.sources().find((s) => s.id === sourceId)?.gravity ?? null;
  }
  /** What stands in the box while nothing is keyed: it is taken then. */
  protected taken(sourceId: string): string {
    const found = this.newest(sourceId);
    return found ? `${found.text}, ${found.test.code}` : '';
  }
  protected isAggregate = (role: string): boolean => role === 'fine' || role === 'coarse';

  protected chooseSource(i: number, sourceId: string): void {
    const group = this.form.controls.ingredients.at(i);
    group.controls.sourceId.setValue(sourceId);
    const found = this.sources().find((s) => s.id === sourceId);
    if (found && group.controls.name.value.trim() === '') group.controls.name.setValue(found.code);
  }
  protected add(): void {
    this.form.controls.ingredients.push(row());
  }
  protected remove(i: number): void {
    this.form.controls.ingredients.removeAt(i);
  }
  protected readonly least = LEAST;

  /** Where the recipe stands in what is sent. */
  private readonly at = computed(() => (this.mixId() === undefined ? 'revision.' : ''));
  private schema(): ZodType<Record<string, unknown>> {
    return this.mixId() === undefined ? newMix : newRevision;
  }
  protected fault(path: string): string {
    return this.check.at(`${this.at()}${path}`);
  }
  protected rowFault(i: number, what: string): string {
    const at = `ingredients.${i}.${what}`;
    return this.fault(at) || this.fault(`${at}.text`);
  }

  private revision(): Record<string, unknown> {
    const { ingredients, largest, nominal, air, correction, aggregate, why } = this.form.getRawValue();
    const present = (name: string, value: string) => (value.trim() === '' ? {} : { [name]: value.trim() });
    return {
      effectiveFrom: this.effectiveFrom() ?? '',
      specificationIds: this.specificationIds(),
      largest: { text: largest.trim(), unit: this.sizeUnit() },
      nominal: { text: nominal.trim(), unit: this.sizeUnit() },
      air: air.trim(),
      ...present('correction', correction),
      ...(correction.trim() === '' ? {} : present('correctionOn', this.correctionOn() ?? '')),
      aggregate,
      ...present('why', why),
      ingredients: ingredients.map((i) => ({
        name: i.name,
        role: i.role,
        mass: { text: i.mass.trim(), unit: this.massUnit() },
        ...present('sg', i.sg),
        ...(this.isAggregate(i.role) ? present('sourceId', i.sourceId) : {}),
      })),
    };
  }

  private body(): unknown {
    const { code, name } = this.form.getRawValue();
    const who = { id: this.id, by: this.person() };
    return this.mixId() === undefined
      ? { ...who, projectId: this.project()?.id, code, name, revision: { id: this.revisionId, ...this.revision() } }
      : { ...who, ...this.revision() };
  }

  private words(path: string, message: string): string {
    const own = path.replace(/^revision\./, '');
    const inRow = /^ingredients\.\d+\.(\w+)/.exec(own)?.[1];
    return (inRow === undefined ? WORDS[own] : ROW_WORDS[inRow]) ?? message;
  }

  protected keep(): void {
    if (this.person() === null) return;
    const body = this.check.take();
    if (body === null) return focusFault(this.host.nativeElement);
    const mixId = this.mixId();
    this.write.send(
      {
        id: this.id,
        itemId: mixId ?? this.id,
        opens: this.router.url,
        kind: mixId === undefined ? 'mix' : 'revision',
        path: mixId === undefined ? '/mixes' : `/mixes/${mixId}/revisions`,
        body: body as { readonly id: string },
      },
      (mix) => void this.router.navigate(['/mixes', mix.id]),
      {
        refused: (why) => {
          this.check.refused(why.errors ?? []);
          focusFault(this.host.nativeElement);
        },
      },
    );
  }
}
