import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import type { Item, Sheet } from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import { newForm, ITEM_KINDS, type ItemKind, type Shape } from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { InputText } from 'primeng/inputtext';
import { newId } from '../../device/ids';
import { Clock } from '../../device/clock';
import { Codes } from '../../device/codes';
import { Api, problemOf } from '../../api/api';
import { Device } from '../../device/device';
import { Write } from '../../device/write';
import { WriteTold } from '../../parts/write-told';
import { project, session } from '../../state/session';
import { Choice, type Option } from '../../ui/choice';
import { Field, FieldInput } from '../../ui/field';
import { Notice } from '../../ui/notice';
import { Pictogram } from '../../ui/pictogram';
import { assembled } from './changes';
import { CarriedBar } from './carried-bar';
import { InHand, type Keeping } from './in-hand';
import { calledOf, linkOf, pictureOfKind } from './kinds';

/** A new item of any kind: its name where it has one, what it is made of, and its facts. */
@Component({
  selector: 'km-new-item',
  imports: [RouterLink, FormsModule, InputText, Choice, Field, FieldInput, Notice, WriteTold, Pictogram, InHand, CarriedBar],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="place">
      <header>
        <km-pic [name]="picture()" [size]="38" />
        <h1>New {{ definition().label.toLowerCase() }}</h1>
        @if (parent(); as p) {
          <a [routerLink]="link(p)">of {{ called(p) }}</a>
        }
      </header>
      <km-carried-bar />
      @if (named()) {
        <km-field label="Name" inputId="name" [fault]="fault()"
          ><input kmIn pInputText name="name" maxlength="120" [ngModel]="name()" (ngModelChange)="name.set($event)"
        /></km-field>
      }
      @if (definition().subject === 'mix') {
        <km-field label="Mix" inputId="mix">
          <km-choice label="Mix" inputId="mix" [options]="mixes()" [value]="mixId()" (chosen)="mixId.set($event)" />
        </km-field>
      }
      @if (problem(); as p) {
        <km-notice kind="error">{{ p.detail }}</km-notice>
      }
      <km-write-told [write]="write" />
      @if (project(); as p) {
        <km-in-hand
          [method]="facts()"
          [draftId]="draftId()"
          [itemId]="draftId()"
          [kept]="none"
          [system]="p.system"
          [facts]="true"
          [zone]="p.timezone"
          [busy]="write.busy()"
          [now]="now"
          (done)="make($event)"
        />
      }
    </div>
  `,
  styles: `
    km-field {
      max-width: 560px;
      padding: 0 20px;
    }
    km-in-hand {
      display: block;
      background: var(--well);
      border-top: 1px solid var(--rule);
      margin-top: 10px;
    }
  `,
})
export class NewItem {
  private readonly api = inject(Api);
  private readonly device = inject(Device);
  private readonly router = inject(Router);
  private readonly store = inject(Store);
  readonly kind = input.required<ItemKind>();
  /** The item that it lies in. */
  readonly in = input<string>();
  protected readonly project = this.store.selectSignal(project);
  private readonly person = this.store.selectSignal(session.selectPersonId);
  protected readonly definition = computed(() => ITEM_KINDS[this.kind()]);
  protected readonly facts = computed(() => newForm(this.kind()));
  protected readonly named = computed(() => this.definition().coding.of === 'name');
  protected readonly draftId = computed(() => `new ${this.kind()} ${this.in() ?? ''}`);
  protected readonly picture = computed(() => pictureOfKind(this.kind()));
  protected readonly called = calledOf;
  protected readonly link = linkOf;
  protected readonly none = [];
  private readonly clock = inject(Clock);
  protected readonly now = this.clock.now;
  protected readonly name = signal('');
  protected readonly fault = signal('');
  protected readonly mixId = signal<string | null>(null);
  protected readonly mixes = signal<readonly Option[]>([]);
  protected readonly parent = signal<Item | null>(null);
  protected readonly write = new Write<Sheet>();
  protected readonly problem = signal<Problem | null>(null);
  /** Made once for this form: a second press after a lost answer is the same item. */
  private readonly id = newId();

  constructor() {
    inject(Codes).ready(this.person());
    effect((gone) => {
      const id = this.in();
      if (id === undefined) return;
      const asked = this.api
        .item(id)
        .subscribe({ next: (s) => this.parent.set(s.item), error: (e: unknown) => this.problem.set(problemOf(e)) });
      gone(() => asked.unsubscribe());
    });
    effect((gone) => {
      const p = this.project();
      if (!p || this.definition().subject !== 'mix') return;
      const asked = this.api.mixes(p.id).subscribe({
        next: (page) => this.mixes.set(page.items.map((m) => ({ id: m.id, label: `${m.code} ${m.name}` }))),
        error: (e: unknown) => this.problem.set(problemOf(e)),
      });
      gone(() => asked.unsubscribe());
    });
  }

  protected make({ sent }: Keeping): void {
    const [p, by] = [this.project(), this.person()];
    this.fault.set(this.named() && this.name().trim() === '' ? 'Say how it is called.' : '');
    if (!p || by === null || this.fault() !== '') return;
    const body = {
      id: this.id,
      by,
      kind: this.kind(),
      projectId: p.id,
      parentId: this.in() ?? null,
      facts: assembled(this.facts().fields as Shape, sent),
      ...(this.named() ? { name: this.name().trim() } : {}),
      ...(this.mixId() === null ? {} : { subjectId: this.mixId() }),
    };
    const itemId = this.in() ?? this.id;
    this.write.send(
      { id: this.id, itemId, opens: this.router.url, kind: 'item', path: '/items', body },
      ({ item, line }) => void this.router.navigate(linkOf(item, line)),
      // The next one begins empty.
      { kept: () => void this.device.dropInHand(this.draftId()) },
    );
  }
}
