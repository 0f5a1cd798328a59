import { Notice } from '../../ui/notice';
import { Location } from '@angular/common';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  Injector,
  input,
  signal,
  type OnDestroy,
  untracked,
  viewChild,
} from '@angular/core';
import { ActivatedRoute, Router } from '@angular/router';
import { toSignal } from '@angular/core/rxjs-interop';
import { methodById } from '@keen-mortar/core';
import { fragmentOf, linkedIn } from './link';
import { Scratch } from './scratch';
import { ComputationStore } from '../../test/computation.store';
import { Families } from './families';

/** ms after the last key. */
const WRITES_AFTER = 150;

/** Scratch as a page: a computation can be linked and bookmarked; its readings stand in the fragment and go nowhere. */
@Component({
  selector: 'km-scratch-page',
  imports: [Notice, Scratch, Families],
  providers: [ComputationStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (method() && !known()) {
      <km-notice class="page">There is no computation “{{ method() }}”. Find one by any of its names.</km-notice>
    }
    @if (broken()) {
      <km-notice class="page">The readings in this link cannot be read. The form is empty.</km-notice>
    }
    @if (tooLong()) {
      <km-notice class="page" kind="info">
        These readings are too many for the address: a reload loses them. A copy as JSON or CSV keeps them.
      </km-notice>
    }
    <km-scratch (picked)="open($event)" />
    @if (!known()) {
      <km-families class="long" [long]="true" (chosen)="open($event)" />
    }
  `,
  styles: `
    .page {
      margin: 12px 22px 0;
    }
  `,
})
export class ScratchPage implements OnDestroy {
  private readonly store = inject(ComputationStore);
  private readonly router = inject(Router);
  private readonly location = inject(Location);
  private readonly fragment = toSignal(inject(ActivatedRoute).fragment, { initialValue: null });
  private readonly injector = inject(Injector);
  private readonly scratch = viewChild.required(Scratch);
  readonly method = input<string>();
  protected readonly known = computed(() => this.store.method() !== null);
  protected readonly broken = signal(false);
  protected readonly tooLong = computed(() => {
    const [m, linked] = [this.store.method(), this.store.rested()];
    return m !== null && linked !== null && fragmentOf(m, linked) === null;
  });
  /** What this page wrote there itself is not read again. */
  private written: string | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    effect(() => {
      const m = methodById(this.method() ?? '');
      const fragment = this.fragment();
      untracked(() => {
        if (!m || (fragment !== null && fragment === this.written && this.store.methodId() === m.id)) return;
        const linked = linkedIn(m, fragment);
        this.broken.set(fragment !== null && fragment !== '' && linked === null);
        this.store.open(m, linked ?? undefined);
        // Ready to be keyed; a thumb asks for its keyboard itself.
        if (!matchMedia('(pointer: coarse)').matches) afterNextRender(() => this.scratch().focus(), { injector: this.injector });
      });
    });
    effect(() => {
      const [m, linked] = [this.store.method(), this.store.rested()];
      if (!m || !linked) return;
      clearTimeout(this.timer);
      const write = (): void => {
        this.written = this.store.untouched() ? '' : (fragmentOf(m, linked) ?? '');
        this.location.replaceState(`/scratch/${m.id}${this.written === '' ? '' : `#${this.written}`}`);
      };
      // The browser takes its time over an address: it is written when nobody is typing.
      this.timer = setTimeout(write, WRITES_AFTER);
    });
  }

  ngOnDestroy(): void {
    clearTimeout(this.timer);
  }

  protected open(id: string): void {
    void this.router.navigate(['/scratch', id]);
  }
}
