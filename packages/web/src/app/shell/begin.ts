import { afterNextRender, ChangeDetectionStrategy, Component, computed, ElementRef, inject, input, output, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { newPerson, newProject } from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import { PRACTICES } from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { concatMap, of } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { newId } from '../device/ids';
import { session, SessionActions } from '../state/session';
import { Choice } from '../ui/choice';
import { Field, FieldInput } from '../ui/field';
import { Notice } from '../ui/notice';
import { focusFault, ZodForm } from '../ui/zod-form';

const text = (value = ''): FormControl<string> => new FormControl(value, { nonNullable: true });
const WORDS: Readonly<Record<string, string>> = {
  name: 'Key your name.',
  role: 'Say what you do, as Technician.',
  code: 'Key a short code, as on drawings.',
  site: 'Say where it is built.',
};

/** An empty installation: who begins, and what is built. The rest is made in the places. */
@Component({
  selector: 'km-begin',
  imports: [RouterLink, ReactiveFormsModule, ButtonDirective, InputText, Choice, Field, FieldInput, Notice],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form [formGroup]="form" (ngSubmit)="begin()">
      <h2>{{ title() }}</h2>
      @if (problem(); as p) {
        <km-notice>{{ p.detail }}</km-notice>
      }
      <div class="grid">
        @if (asksPerson()) {
          <km-field [label]="more() === 'person' ? 'Name' : 'Your name'" inputId="person" [fault]="person.at('name')"
            ><input kmIn pInputText maxlength="120" formControlName="person"
          /></km-field>
          <km-field [label]="more() === 'person' ? 'What they do' : 'What you do'" inputId="role" [fault]="person.at('role')"
            ><input kmIn pInputText maxlength="60" formControlName="role"
          /></km-field>
        }
        @if (asksProject()) {
          <km-field label="Project" inputId="name" [fault]="project.at('name')"
            ><input kmIn pInputText maxlength="120" formControlName="name"
          /></km-field>
          <km-field label="Its code" inputId="code" [fault]="project.at('code')"
            ><input kmIn pInputText maxlength="24" formControlName="code"
          /></km-field>
          <km-field label="Where it is built" inputId="site" [fault]="project.at('site')"
            ><input kmIn pInputText maxlength="120" formControlName="site"
          /></km-field>
          <km-field label="Units" inputId="system">
            <km-choice
              label="Units"
              inputId="system"
              [options]="systems"
              [value]="form.value.system"
              (chosen)="form.controls.system.setValue($any($event))"
            />
          </km-field>
          <km-field label="Methods as practised in" inputId="practice">
            <km-choice
              label="Methods as practised in"
              inputId="practice"
              [options]="practices"
              [value]="form.value.practice"
              (chosen)="form.controls.practice.setValue($any($event))"
            />
          </km-field>
          <km-field label="Its time zone" inputId="timezone" [fault]="project.at('timezone')"
            ><input kmIn pInputText maxlength="64" formControlName="timezone"
          /></km-field>
        }
      </div>
      <div>
        <button pButton type="submit" [disabled]="busy()">{{ busy() ? 'Beginning …' : 'Begin' }}</button>
        @if (more() === null) {
          <a pButton [text]="true" routerLink="/bring">Bring in a record from elsewhere</a>
        }
      </div>
    </form>
  `,
  styles: `
    form {
      display: grid;
      gap: 10px;
      padding: 18px 22px;
      background: var(--now-wash);
      border-left: 6px solid var(--now);
    }
    h2 {
      font-size: 19px;
      font-weight: 750;
    }
    .grid {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(220px, 1fr));
      gap: 2px 16px;
    }
  `,
})
export class Begin {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly people = this.store.selectSignal(session.selectPeople);
  private readonly projects = this.store.selectSignal(session.selectProjects);
  private readonly here = this.store.selectSignal(session.selectPersonId);
  /** What is asked for although there is one already. */
  readonly more = input<'person' | 'project' | null>(null);
  protected readonly asksPerson = computed(() => this.more() === 'person' || this.people().length === 0);
  protected readonly asksProject = computed(() => this.more() === 'project' || this.projects().length === 0);
  protected readonly title = computed(
    () =>
      ({
        person: 'Somebody else who tests',
        project: 'Another project',
        none: 'Nothing is here yet. Begin with yourself, and with what is built.',
      })[this.more() ?? 'none'],
  );
  readonly done = output();
  protected readonly busy = signal(false);
  protected readonly problem = signal<Problem | null>(null);
  protected readonly systems = [
    { id: 'si', label: 'Metric' },
    { id: 'us', label: 'Inches and pounds' },
  ];
  protected readonly practices = Object.entries(PRACTICES).map(([id, { label }]) => ({ id, label }));
  protected readonly form = new FormGroup({
    person: text(),
    role: text('Technician'),
    name: text(),
    code: text(),
    site: text(),
    system: text('si'),
    practice: text('us-astm'),
    timezone: text(Intl.DateTimeFormat().resolvedOptions().timeZone),
  });
  private readonly personId = newId();
  private readonly projectId = newId();
  private readonly by = computed(() => this.here() ?? this.people()[0]?.id ?? this.personId);
  protected readonly person = new ZodForm(
    this.form,
    newPerson,
    () => this.personBody(),
    (path) => WORDS[path] ?? 'Look at it again.',
  );
  protected readonly project = new ZodForm(
    this.form,
    newProject,
    () => this.projectBody(),
    (path, message) => (path === 'name' ? 'Say how it is called.' : (WORDS[path] ?? message)),
  );

  constructor() {
    // Asked for by a press, it is where one goes on keying.
    afterNextRender(() => {
      if (this.more() !== null) this.host.nativeElement.querySelector('input')?.focus();
    });
  }

  private personBody() {
    const { person: name, role } = this.form.getRawValue();
    return { id: this.personId, by: this.by(), name, role };
  }
  private projectBody() {
    const { person: _person, role: _role, ...rest } = this.form.getRawValue();
    return { id: this.projectId, by: this.by(), ...rest };
  }

  protected begin(): void {
    const person = this.asksPerson() ? this.person.take() : {};
    const project = this.asksProject() ? this.project.take() : {};
    if (person === null || project === null) return focusFault(this.host.nativeElement);
    this.busy.set(true);
    this.problem.set(null);
    const by = this.by();
    const writes = [
      () => (this.asksPerson() ? this.api.write('/people', person) : of(null)),
      () => (this.asksProject() ? this.api.write('/projects', project) : of(null)),
    ];
    writes[0]!()
      .pipe(concatMap(() => writes[1]!()))
      .subscribe({
        next: () => {
          this.store.dispatch(SessionActions.opened());
          this.busy.set(false);
          // Who is added takes the device only when nobody has it; a new project is where one goes on.
          if (this.more() === 'person') return this.done.emit();
          this.store.dispatch(SessionActions.personChosen({ personId: by }));
          if (this.asksProject()) this.store.dispatch(SessionActions.projectChosen({ projectId: this.projectId }));
          void this.router.navigateByUrl('/pours');
        },
        error: (e: unknown) => {
          this.busy.set(false);
          this.problem.set(problemOf(e));
        },
      });
  }
}
