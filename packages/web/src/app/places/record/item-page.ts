import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { ChangeDetectionStrategy, Component, computed, DestroyRef, effect, inject, input, signal, untracked } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { dayIn, type Test } from '@keen-mortar/contract';
import {
  answerText,
  causeWords,
  factsForm,
  ITEM_KIND_IDS,
  ITEM_KINDS,
  mayLieIn,
  methodById,
  pictureOf,
  propertyOf,
  testsOn,
  stateOfTest,
  USUAL_VOIDINGS,
  usualInputs,
  usualVariant,
  type AnyMethod,
  type VerdictState,
} from '@keen-mortar/core';
import { Actions, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { Device } from '../../device/device';
import { HandActions, type Hand } from '../../state/hand';
import { longDay, zonedTime } from '../../parts/when';
import { History } from '../../parts/history';
import { nameOf, session } from '../../state/session';
import { ToldList } from '../../test/told';
import { Reason } from '../../test/reason';
import { Working } from '../../test/working';
import { Choice } from '../../ui/choice';
import { Notice } from '../../ui/notice';
import { Pictogram } from '../../ui/pictogram';
import { VerdictShape } from '../../ui/verdict-shape';
import { InHand, type Keeping } from './in-hand';
import { calledOf, linkOf, lower, pictureOfKind } from './kinds';
import { RecordStore } from './record.store';

/** A test of the item, or one that is only begun. */
interface InHandTest {
  readonly key: string;
  readonly method: AnyMethod;
  readonly test: Test | null;
}

/** The sheet of any item: what is known of it, where it came from and what was made of it, its tests, and the one in hand. */
@Component({
  selector: 'km-item-page',
  imports: [RouterLink, ButtonDirective, History, ToldList, Working, Choice, Notice, Reason, Pictogram, VerdictShape, InHand],
  providers: [RecordStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './item-page.html',
  styleUrl: './item-page.css',
})
export class ItemPage {
  protected readonly record = inject(RecordStore);
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly actions = inject(Actions);
  private readonly device = inject(Device);
  readonly itemId = input.required<string>();
  protected readonly sheet = this.record.sheet;
  private readonly person = this.store.selectSignal(session.selectPersonId);
  protected readonly nameOf = this.store.selectSignal(nameOf);
  protected readonly now = (): number => this.record.now();

  protected readonly item = computed(() => this.sheet()?.item ?? null);
  protected readonly kind = computed(() => ITEM_KINDS[this.item()?.kind ?? 'structure']);
  protected readonly picture = computed(() => pictureOfKind(this.item()?.kind ?? 'structure'));
  protected readonly called = calledOf;
  protected readonly link = linkOf;
  protected readonly lower = lower;
  protected readonly longDay = longDay;
  protected readonly pictureOf = pictureOf;
  protected readonly pictureOfKind = pictureOfKind;
  protected readonly above = computed(() => this.sheet()?.line.slice(0, -1) ?? []);
  protected readonly facts = computed(() => factsForm(this.item()?.kind ?? 'structure'));
  /** Why what is in hand was refused; what else was refused stands above. */
  protected readonly refusedHere = computed(() => {
    const refused = this.record.refused();
    return refused && refused.kind !== 'voiding' ? refused.problem : null;
  });
  protected readonly allWorking = signal(false);
  protected readonly busy = computed(() => this.record.waits() > 0);

  protected readonly chosen = signal<string | null>(null);
  /** Whether somebody is taking it back, and why. */
  protected readonly taking = signal(false);
  protected readonly why = signal('');
  protected readonly voidReasons = USUAL_VOIDINGS;
  protected readonly beginning = signal<string | null>(null);
  /** Tests that were begun here and are not on record yet, by their ids. */
  private readonly begun = signal<Readonly<Record<string, string>>>({});

  /** The tests in the order in which they were made, those just begun last. */
  protected readonly tests = computed((): InHandTest[] => {
    const made = (this.sheet()?.tests ?? []).flatMap((test): InHandTest[] => {
      const method = methodById(test.method);
      return method ? [{ key: test.id, method, test }] : [];
    });
    const here = new Set(made.map((t) => t.key));
    const open = Object.entries(this.begun()).flatMap(([key, id]): InHandTest[] => {
      const method = methodById(id);
      return here.has(key) || !method ? [] : [{ key, method, test: null }];
    });
    return [...made, ...open];
  });
  protected readonly inHand = computed(() => this.tests().find((t) => t.key === this.chosen()) ?? null);
  protected readonly histories = computed(() =>
    Object.entries(this.sheet()?.history ?? {}).map(([property, points]) => ({
      property,
      points,
      label: propertyOf(property)?.label ?? property,
    })),
  );
  /** What is made on such items. */
  protected readonly offers = computed(() => testsOn(this.item()?.kind ?? 'structure').map((m) => ({ id: m.id, label: m.title })));
  /** What may be made of it. */
  protected readonly makes = computed(() => ITEM_KIND_IDS.filter((kind) => mayLieIn(kind, this.item()?.kind ?? null)));

  constructor() {
    effect(() => {
      const id = this.itemId();
      untracked(() => {
        this.record.open(id);
        this.chosen.set(null);
        this.begun.set({});
        void this.takeUp(id);
      });
    });
    // What Scratch opens with over the sheet, and what it may be put into.
    effect(() => {
      const [item, made] = [this.item(), this.offers()];
      const m = this.inHand()?.method ?? methodById(made[0]?.id ?? '');
      const sheet = this.sheet();
      if (!item || !m || !sheet) return;
      const { system, practice } = sheet.project;
      const variant = usualVariant(practice, m);
      const shown = {
        method: m.id,
        variant,
        system,
        inputs: usualInputs(m, variant, system),
        where: calledOf(item),
        keeps: made.map((o) => o.id),
      };
      untracked(() => this.store.dispatch(HandActions.shown({ hand: shown })));
    });
    this.actions.pipe(ofType(HandActions.kept), takeUntilDestroyed()).subscribe(({ hand }) => void this.takeFromScratch(hand));
    inject(DestroyRef).onDestroy(() => this.store.dispatch(HandActions.gone()));
  }

  /** What was begun here before the page was closed. */
  private async takeUp(itemId: string): Promise<void> {
    const left = await this.device.inHandOf(itemId).catch(() => []);
    if (this.itemId() === itemId)
      this.begun.update((all) => ({ ...Object.fromEntries(left.map((hand) => [hand.id, hand.method])), ...all }));
  }

  /** Readings out of Scratch are a test in hand here, for the person to look at and keep: nothing is keyed again. */
  private async takeFromScratch({ method, variant, system, inputs }: Hand): Promise<void> {
    const key = crypto.randomUUID();
    await this.device.putInHand({ id: key, itemId: this.itemId(), method, variant, system, inputs });
    this.begun.update((all) => ({ ...all, [key]: method }));
    this.chosen.set(key);
  }

  protected stateOf(m: AnyMethod, { kept }: Test): VerdictState {
    return kept ? stateOfTest(m, kept.evaluation, kept.judged) : 'open';
  }

  /** The main results in words. */
  protected says({ method, test }: InHandTest): string {
    const results = test?.kept?.evaluation.results ?? [];
    const texts = results.flatMap((r) => {
      const field = method.results[r.id];
      return field?.main && !r.series ? [answerText(field, r)] : [];
    });
    return texts.filter((t) => t !== '').join(' · ');
  }

  protected causeOf = (test: Test): string | null => causeWords(test.kept?.cause ?? null);

  protected when(iso: string): string {
    const zone = this.sheet()!.project.timezone;
    return `${longDay(dayIn(zone, iso))}, ${zonedTime(iso, zone)}`;
  }

  protected variantOf(t: InHandTest): string {
    return t.test?.variant ?? usualVariant(this.sheet()!.project.practice, t.method);
  }

  protected begin(method: string): void {
    // The list is for the next one at once.
    this.beginning.set(method);
    queueMicrotask(() => this.beginning.set(null));
    const key = crypto.randomUUID();
    this.begun.update((all) => ({ ...all, [key]: method }));
    this.chosen.set(key);
  }

  protected keep({ key, method, test }: InHandTest, { sent, variant, system, shown }: Keeping): void {
    const [item, by] = [this.item(), this.person()];
    if (!item || by === null) return;
    const base = { itemId: item.id, opens: this.router.url, testId: key };
    const id = crypto.randomUUID();
    const started = new Date(this.record.now()).toISOString();
    const make = {
      ...base,
      id: key,
      kind: 'test' as const,
      path: `/items/${item.id}/tests`,
      body: { id: key, by, method: method.id, variant, system, startedAt: started, equipmentId: null, retestOf: null },
    };
    const keep = { ...base, id, kind: 'keep' as const, path: `/tests/${key}/readings`, body: { id, by, readings: sent, shown } };
    this.record.write(test ? [keep] : [make, keep]);
  }

  /** Nothing is deleted: it counts for nothing, and stays with the reason. */
  protected setVoided(voided: boolean): void {
    const [item, by] = [this.item(), this.person()];
    if (!item || by === null) return;
    const id = crypto.randomUUID();
    const body = { id, by, voided, reason: this.why().trim(), at: new Date(this.record.now()).toISOString() };
    this.record.write([{ id, itemId: item.id, opens: this.router.url, kind: 'voiding', path: `/items/${item.id}/voiding`, body }]);
    this.taking.set(false);
    this.why.set('');
  }

  protected amend({ sent }: Keeping): void {
    const [item, by] = [this.item(), this.person()];
    if (!item || by === null) return;
    const id = crypto.randomUUID();
    this.record.write([
      { id, itemId: item.id, opens: this.router.url, kind: 'entries', path: `/items/${item.id}/entries`, body: { id, by, readings: sent } },
    ]);
  }
}
