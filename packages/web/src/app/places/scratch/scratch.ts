import { Icon } from '../../ui/icon';
import { ButtonDirective } from 'primeng/button';
import { Clipboard } from '@angular/cdk/clipboard';
import { NgComponentOutlet } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  output,
  signal,
  untracked,
  viewChild,
  type Type,
} from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { pictureOf, stepsFor } from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { Working } from '../../test/working';
import { Carried } from '../../state/carried';
import { hand, HandActions } from '../../state/hand';
import { Choice } from '../../ui/choice';
import { Pictogram } from '../../ui/pictogram';
import { Switch } from '../../ui/switch';
import { Answers } from '../../test/answers';
import { asCsv, asJson, asText } from './copies';
import { Families } from './families';
import { Finder } from './finder';
import { fragmentOf } from './link';
import { PANELS } from '../../test/panels';
import { Form } from '../../test/form/form';
import { ComputationForm } from '../../test/computation-form';
import { ComputationStore } from '../../test/computation.store';
import { Strip } from './strip';
import { VariantTable } from './variant-table';

type Kind = 'text' | 'json' | 'csv' | 'link';

const KINDS: readonly { id: Kind; label: string }[] = [
  { id: 'text', label: 'text' },
  { id: 'json', label: 'JSON' },
  { id: 'csv', label: 'CSV row' },
  { id: 'link', label: 'link' },
];

const SYSTEMS = [
  { id: 'si', label: 'SI' },
  { id: 'us', label: 'inch-pound' },
];

/** Longer workings are opened when somebody wants to read them. */
const MOST_LINES = 60;

/** Steps of the same words are not written again with each key. */
const SAME_WORDS = {
  equal: (a: readonly { text: string }[], b: readonly { text: string }[]) =>
    a.length === b.length && a.every((s, i) => s.text === b[i]!.text),
};

/** Scratch: any computation of the job, at once, without a record. */
@Component({
  selector: 'km-scratch',
  imports: [
    Icon,
    NgComponentOutlet,
    RouterLink,
    Finder,
    Families,
    Pictogram,
    Form,
    Answers,
    VariantTable,
    Strip,
    Working,
    ButtonDirective,
    Choice,
    Switch,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './scratch.html',
  styleUrl: './scratch.css',
})
export class Scratch {
  protected readonly store = inject(ComputationStore);
  private readonly places = inject(Store);
  private readonly clipboard = inject(Clipboard);
  private readonly router = inject(Router);
  private readonly carried = inject(Carried);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  /** Whether it lies over a place; a page of its own otherwise. */
  readonly over = input(false);
  /** Another computation was chosen. */
  readonly picked = output<string>();
  private readonly finder = viewChild.required(Finder);

  protected readonly form = new ComputationForm(this.store);

  protected readonly picture = computed(() => pictureOf(this.store.methodId() ?? ''));
  protected readonly kinds = KINDS;
  protected readonly systems = SYSTEMS;
  protected readonly mostLines = MOST_LINES;
  protected readonly allLines = signal(false);
  protected readonly copied = signal('');
  private readonly inHand = this.places.selectSignal(hand.selectHand);

  protected readonly follows = computed(() => {
    const v = this.store.variants().find(({ id }) => id === this.store.variant());
    return v ? `${v.source.designation} (${v.source.edition})` : '';
  });
  /** The record that the place in use has for this computation. */
  protected readonly keeps = computed(() => {
    const [h, m] = [this.inHand(), this.store.method()];
    return this.over() && h && m && h.keeps.includes(m.id) ? h.where : null;
  });

  /** Whether it is something that items are tested by. */
  protected readonly recorded = computed(() => (this.store.method()?.on?.length ?? 0) > 0);

  /** What a table or a log gives has nothing to work out. */
  protected readonly workings = computed(() => {
    const e = this.store.working();
    return e && e.working.length > 0 ? e : null;
  });

  /** What to do and to watch, as this variant has it. */
  protected readonly steps = computed(() => {
    const [m, e] = [this.store.method(), this.store.evaluation()];
    return m && e ? stepsFor(m, e.params) : [];
  }, SAME_WORDS);

  private readonly panel = signal<{ where: string; type: Type<unknown> } | null>(null);
  protected readonly above = computed(() => (this.panel()?.where === 'above' ? this.panel()!.type : null));
  protected readonly drawn = computed(() => (this.panel()?.where === 'drawn' ? this.panel()!.type : null));
  protected readonly beside = computed(() => (this.panel()?.where === 'beside' ? this.panel()!.type : null));

  constructor() {
    // Beside the framework: a listener of its own draws everything again with each key.
    this.host.nativeElement.addEventListener('keydown', (event) => this.key(event));
    effect(() => {
      const id = this.store.methodId();
      const m = this.store.method();
      const name = m?.panel ?? (m?.scene && 'scene');
      untracked(() => {
        this.panel.set(null);
        this.allLines.set(false);
        this.copied.set('');
        const panel = name === undefined ? undefined : PANELS[name];
        void panel?.load().then((type) => {
          // Another one may have been opened meanwhile.
          if (this.store.methodId() === id) this.panel.set({ where: panel.where, type });
        });
      });
    });
  }

  /** The first reading that is missing, else the first of all, or the finder when there is nothing to key. */
  focus(): void {
    const readings = this.host.nativeElement.querySelector('.readings');
    const missing = this.store.evaluation()?.missing.map((path) => `${this.form.prefix}-${path}`) ?? [];
    const first =
      missing.map((id) => readings?.querySelector<HTMLElement>(`[id="${id}"], input[id^="${id}-"]`)).find((at) => at) ??
      readings?.querySelector<HTMLElement>('input[type=text]');
    if (this.store.method() && first) first.focus();
    else this.finder().focus();
  }

  protected key(event: KeyboardEvent): void {
    const typing = event.target instanceof HTMLInputElement || event.target instanceof HTMLTextAreaElement;
    if (event.key === 'z' && (event.ctrlKey || event.metaKey) && !typing) {
      event.preventDefault();
      this.store.undo();
    }
  }

  protected keep(): void {
    const { method, variant, system, inputs } = this.now();
    this.places.dispatch(HandActions.kept({ hand: { method: method.id, variant, system, inputs } }));
  }

  /** To an item that is found, or made, where it is put on record. */
  protected carry(): void {
    const { method, variant, system, inputs } = this.now();
    this.carried.take({ method: method.id, variant, system, inputs });
    this.places.dispatch(HandActions.scratchClosed());
    void this.router.navigate(['/record']);
  }

  protected copy(kind: Kind): void {
    const text = this.textOf(kind);
    if (text === null) this.copied.set('Too long for a link: copy it as JSON.');
    else this.copied.set(this.clipboard.copy(text) ? 'Copied.' : 'The browser did not allow the copy.');
  }

  private textOf(kind: Kind): string | null {
    const { method, variant, system, inputs, evaluation } = this.now();
    const whole = { method, inputs, evaluation };
    if (kind === 'text') return asText(whole);
    if (kind === 'json') return asJson(whole);
    if (kind === 'csv') return asCsv(whole);
    const fragment = fragmentOf(method, { variant, system, inputs });
    return fragment === null ? null : `${location.origin}/scratch/${method.id}#${fragment}`;
  }

  private now() {
    return {
      method: this.store.method()!,
      evaluation: this.store.evaluation()!,
      variant: this.store.variant(),
      system: this.store.system(),
      inputs: this.store.inputs(),
    };
  }
}
