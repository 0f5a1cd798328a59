import { newId } from '../../device/ids';
import { Write } from '../../device/write';
import { WriteTold } from '../../parts/write-told';
import { Notice } from '../../ui/notice';
import { ChangeDetectionStrategy, Component, computed, effect, ElementRef, inject, signal, untracked } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { newPour, type Mix, type PourDetail, type Problem } from '@keen-mortar/contract';
import { unitLabel, type UnitId } from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Api, problemOf } from '../../api/api';
import { today } from '../../parts/when';
import { project, session } from '../../state/session';
import { Choice } from '../../ui/choice';
import { Field, FieldInput } from '../../ui/field';
import { Moment } from '../../ui/moment';
import { Pictogram } from '../../ui/pictogram';
import { focusFault, ZodForm } from '../../ui/zod-form';

const text = (): FormControl<string> => new FormControl('', { nonNullable: true });

const WORDS: Readonly<Record<string, string>> = {
  name: 'Say what is placed.',
  element: 'Say where.',
  mixId: 'Choose the mix.',
  on: 'Choose the day.',
  'planned.text': 'Key a volume like 36 or 7.5.',
};

/** A new pour: one placement of one mix on one day. */
@Component({
  selector: 'km-pour-form',
  imports: [WriteTold, Notice, ReactiveFormsModule, RouterLink, ButtonDirective, InputText, Choice, Field, FieldInput, Moment, Pictogram],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="place">
      <header>
        <km-pic name="bridge" [size]="38" />
        <h1>New pour</h1>
      </header>
      @if (problem(); as p) {
        <km-notice>{{ p.detail }}</km-notice>
      }
      <km-write-told [write]="write" />
      <form class="form" [formGroup]="form" (ngSubmit)="keep()">
        <km-field label="What is placed" inputId="name" [fault]="check.at('name')"
          ><input kmIn pInputText maxlength="200" formControlName="name"
        /></km-field>
        <km-field label="Where" hint="the part of the structure" inputId="element" [fault]="check.at('element')"
          ><input kmIn pInputText maxlength="200" formControlName="element"
        /></km-field>
        <div class="three">
          <km-field label="Mix" inputId="mix" [fault]="check.at('mixId')">
            <km-choice
              label="Mix"
              inputId="mix"
              [options]="mixes()"
              [value]="form.controls.mixId.value || null"
              [wrong]="check.at('mixId') !== ''"
              (chosen)="form.controls.mixId.setValue($event)"
            />
          </km-field>
          <km-field label="Day" inputId="on" [fault]="check.at('on')">
            <km-moment
              label="Day"
              inputId="on"
              of="day"
              [value]="form.controls.on.value"
              [wrong]="check.at('on') !== ''"
              (chosen)="form.controls.on.setValue($event ?? '')"
            />
          </km-field>
          <km-field [label]="'Volume planned, ' + label(unit())" inputId="planned" [fault]="check.at('planned.text')"
            ><input kmIn pInputText class="fig" inputmode="decimal" formControlName="planned"
          /></km-field>
        </div>
        <div class="row">
          <button pButton type="submit" [disabled]="write.busy()">Make this pour</button>
          <a pButton severity="secondary" routerLink="/pours">Back</a>
        </div>
      </form>
    </div>
  `,
  styles: `
    .three {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(190px, 1fr));
      gap: 6px 14px;
    }
  `,
})
export class PourForm {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly project = this.store.selectSignal(project);
  private readonly person = this.store.selectSignal(session.selectPersonId);
  private readonly all = signal<readonly Mix[]>([]);
  protected readonly mixes = computed(() => this.all().map((m) => ({ id: m.id, label: `${m.code} ${m.name}` })));
  protected readonly form = new FormGroup({ name: text(), element: text(), mixId: text(), on: text(), planned: text() });
  protected readonly check = new ZodForm(
    this.form,
    newPour,
    () => this.body(),
    (path, message) => WORDS[path] ?? message,
  );
  protected readonly write = new Write<PourDetail>();
  protected readonly problem = signal<Problem | null>(null);
  protected readonly unit = computed((): UnitId => (this.project()?.system === 'us' ? 'yd3' : 'm3'));
  protected readonly label = unitLabel;
  private readonly id = newId();

  constructor() {
    effect(() => {
      const p = this.project();
      if (!p) return;
      untracked(() => {
        this.form.controls.on.setValue(today(p.timezone));
        this.api
          .mixes(p.id)
          .subscribe({ next: (page) => this.all.set(page.items), error: (error: unknown) => this.problem.set(problemOf(error)) });
      });
    });
  }

  private body(): unknown {
    const { planned, ...rest } = this.form.getRawValue();
    return {
      ...rest,
      id: this.id,
      by: this.person(),
      projectId: this.project()?.id,
      planned: { text: planned.trim(), unit: this.unit() },
    };
  }

  protected keep(): void {
    if (!this.project() || this.person() === null) return;
    const body = this.check.take();
    if (body === null) return focusFault(this.host.nativeElement);
    this.write.send({ id: this.id, itemId: this.id, opens: this.router.url, kind: 'pour', path: '/pours', body }, (pour) => {
      void this.router.navigate(['/pours', pour.id]);
    });
  }
}
