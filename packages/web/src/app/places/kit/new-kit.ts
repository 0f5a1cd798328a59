import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import type { Equipment } from '@keen-mortar/contract';
import { CALIBRATION, KIT_KINDS, KIT_VALUES, kitFieldId, kitForm, type Keyed, type KitKind } from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { newId } from '../../device/ids';
import { Write } from '../../device/write';
import { WriteTold } from '../../parts/write-told';
import { project, session } from '../../state/session';
import { ComputationForm } from '../../test/computation-form';
import { ComputationStore } from '../../test/computation.store';
import { Form } from '../../test/form/form';
import { Choice } from '../../ui/choice';
import { Field, FieldInput } from '../../ui/field';
import { Pictogram } from '../../ui/pictogram';

/** A new instrument: what it is, how it is called, and what it has of its own. */
@Component({
  selector: 'km-new-kit',
  imports: [RouterLink, FormsModule, ButtonDirective, InputText, Choice, Field, FieldInput, Form, Pictogram, WriteTold],
  providers: [ComputationStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="place">
      <header>
        <km-pic name="kit" [size]="38" />
        <h1>New in the kit</h1>
      </header>
      <form class="narrow" (ngSubmit)="keep()">
        <km-field label="What it is" inputId="kind">
          <km-choice label="What it is" inputId="kind" [options]="kinds" [value]="kind()" (chosen)="kind.set($any($event))" />
        </km-field>
        <km-field label="Name" hint="as it is written on it" inputId="name" [fault]="fault()"
          ><input kmIn pInputText name="name" maxlength="60" [ngModel]="name()" (ngModelChange)="name.set($event)"
        /></km-field>
        <km-form [method]="form()" [form]="values" />
        <km-write-told [write]="write" />
        <div class="row">
          <button pButton type="submit" data-testid="keep" [disabled]="write.busy() || !ready()">Put it on the shelf</button>
          <a pButton severity="secondary" routerLink="/kit">Back</a>
        </div>
      </form>
    </div>
  `,
  styles: `
    .narrow {
      display: grid;
      gap: 6px;
      max-width: 560px;
    }
    .row {
      display: flex;
      gap: 10px;
    }
  `,
})
export class NewKit {
  private readonly store = inject(ComputationStore);
  private readonly router = inject(Router);
  private readonly state = inject(Store);
  private readonly project = this.state.selectSignal(project);
  private readonly person = this.state.selectSignal(session.selectPersonId);
  protected readonly kinds = KIT_KINDS.map((id) => ({ id, label: CALIBRATION[id].label }));
  protected readonly kind = signal<KitKind>(KIT_KINDS[0]!);
  protected readonly name = signal('');
  protected readonly tried = signal(false);
  protected readonly fault = computed(() => (this.tried() && this.name().trim() === '' ? 'Say what is written on it.' : ''));
  protected readonly form = computed(() => kitForm(this.kind()));
  protected readonly values = new ComputationForm(this.store);
  protected readonly write = new Write<Equipment>();
  protected readonly ready = computed(() => {
    const e = this.store.evaluation();
    return e !== null && e.missing.length === 0 && e.issues.every((i) => i.severity !== 'impossible');
  });
  private readonly id = newId();

  constructor() {
    effect(() => this.store.open(this.form(), { variant: 'kit', system: this.project()?.system ?? 'si', inputs: {} }));
  }

  protected keep(): void {
    this.tried.set(true);
    const [p, by] = [this.project(), this.person()];
    if (!p || by === null || this.fault() !== '' || !this.ready()) return;
    const inputs = this.store.inputs() as Readonly<Record<string, Keyed>>;
    const values = KIT_VALUES[this.kind()].own.map((item) => {
      const { text, unit } = inputs[kitFieldId(item)]!;
      return { item, value: { text: text.trim(), unit } };
    });
    const body = { id: this.id, by, projectId: p.id, kind: this.kind(), name: this.name().trim(), values };
    this.write.send({ id: this.id, itemId: this.id, opens: '/kit/new', kind: 'equipment', path: '/equipment', body }, ({ id }) => {
      void this.router.navigate(['/kit', id]);
    });
  }
}
