import { newId } from '../../../device/ids';
import { clocksOf } from '../../../test/clocks';
import { Clock } from '../../../device/clock';
import { Notice } from '../../../ui/notice';
import { ButtonDirective } from 'primeng/button';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked, type OnDestroy } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { eventsOf, samplingRule, type SampleEventKind } from '@keen-mortar/contract';
import { Doubts } from '../../../parts/doubts';
import { Findings } from '../../../parts/findings';
import { LEAST_REASON } from '../../../test/reason';
import { shownFinding } from '../../../parts/shown-finding';
import { findingsOfSheet, lineOfSheet } from './line';
import {
  doubtsOn,
  lateWords,
  left,
  PORTION_PARTS,
  unitLabel,
  USUAL_ON_SITE,
  type AnyInputs,
  type Events,
  type Fuse,
  type MethodWindow,
} from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { debounceTime } from 'rxjs';
import { Attention } from '../../../device/attention';
import type { Command } from '../../../device/device-db';
import { Choice } from '../../../ui/choice';
import { FuseBar } from '../../../ui/fuse';
import { nameOf, session } from '../../../state/session';
import { zonedTime } from '../../../parts/when';
import { VerdictShape } from '../../../ui/verdict-shape';
import { HeldEvents, HOLD_MS } from './held-events';
import { SheetActions, sheet } from './sheet.state';
import { rowInHand, rows, type Row } from './sheet.view';
import { TestInHand } from './test-in-hand';
import { TestList } from './test-list';
import { TestSide } from './test-side';

const MIDDLE = 'middle';
const PARTS = Object.entries(PORTION_PARTS).map(([id, label]) => ({ id, label: `from ${label}` }));
const TICK = 500;
/** ms without a key after which what stands beside follows. */
const RESTS = 150;
/** How long "being keyed by" stays after the last key. */
const KEYING_SHOWN = 12_000;

/** The pour sheet: one composite sample, its clocks, and its tests in working order. */
@Component({
  selector: 'km-sheet',
  imports: [
    Doubts,
    Choice,
    Notice,
    RouterLink,
    FuseBar,
    TestList,
    TestInHand,
    TestSide,
    Findings,
    ButtonDirective,
    HeldEvents,
    VerdictShape,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './sheet.html',
  styleUrl: './sheet.css',
})
export class Sheet implements OnDestroy {
  private readonly store = inject(Store);
  private readonly attention = inject(Attention);
  readonly sampleId = input.required<string>();

  protected readonly sample = this.store.selectSignal(sheet.selectSample);
  protected readonly problem = this.store.selectSignal(sheet.selectProblem);
  protected readonly away = this.store.selectSignal(sheet.selectAway);
  protected readonly fromDevice = this.store.selectSignal(sheet.selectFromDevice);
  protected readonly commands = this.store.selectSignal(sheet.selectCommands);
  protected readonly differs = this.store.selectSignal(sheet.selectDiffers);
  protected readonly refused = this.store.selectSignal(sheet.selectRefused);
  protected readonly rows = this.store.selectSignal(rows);
  protected readonly row = this.store.selectSignal(rowInHand);
  private readonly keyed = computed(() => ({ row: this.row(), rows: this.rows() }));
  private readonly rested = toSignal(toObservable(this.keyed).pipe(debounceTime(RESTS)));
  /** As it stood when the fingers rested last: what stands beside is read between keys, and holds none of them up. */
  protected readonly beside = computed(() => {
    const [now, rested] = [this.keyed(), this.rested()];
    return rested && rested.row?.key === now.row?.key && now.row?.draft ? rested : now;
  });
  protected readonly nameOf = this.store.selectSignal(nameOf);
  private readonly keyingState = this.store.selectSignal(sheet.selectKeying);
  private readonly person = this.store.selectSignal(session.selectPersonId);
  private readonly clock = inject(Clock);

  /** The server's time, as well as this device knows it. */
  protected readonly now = this.clock.ticking(TICK);

  /** The device's own clock, as old as the last tick: what is held back burns by it. */
  protected readonly deviceNow = computed(() => this.clock.onDevice(this.now()));
  protected readonly unit = unitLabel;
  /** Writes that wait for the network; what is held back for a slip of the thumb does not. */
  protected readonly waiting = computed(() => this.commands().filter((c) => (c.heldUntil ?? 0) <= this.deviceNow()).length);

  protected readonly keying = computed(() => {
    const now = Date.now();
    void this.now();
    const recent = Object.entries(this.keyingState()).filter(([, k]) => k.by !== this.person() && now - k.at < KEYING_SHOWN);
    // A test that somebody has only begun to key is not on the server: it stands at its method's blank row.
    const keyOf = (testId: string, method: string): string => (this.rows().some((r) => r.key === testId) ? testId : `new:${method}`);
    return Object.fromEntries(recent.map(([testId, k]) => [keyOf(testId, k.method), this.nameOf()(k.by)]));
  });

  /** What happened and when, writes that still wait included: clocks do not wait for the network. */
  private readonly events = computed((): Events | null => {
    const sample = this.sample();
    if (!sample) return null;
    const pending = this.commands()
      .filter((c) => c.kind === 'event' && c.itemId === sample.id)
      .map((c) => ({ id: c.id, kind: c.body['kind'] as SampleEventKind, at: c.body['at'] as string, part: null, by: '' }));
    return eventsOf({ load: sample.load, events: [...sample.events, ...pending.filter((p) => !sample.events.some((e) => e.id === p.id))] });
  });

  protected readonly has = computed(() => {
    const e = this.events() ?? {};
    return {
      finished: e['sample.finished'] !== undefined,
      molding: e['sample.molding'] !== undefined,
      discharged: e['load.discharged'] !== undefined,
    };
  });
  protected readonly portions = computed(
    () =>
      (this.sample()?.events.filter((e) => e.kind === 'portion').length ?? 0) +
      this.commands().filter((c) => c.kind === 'event' && c.body['kind'] === 'portion' && !this.sample()?.events.some((e) => e.id === c.id))
        .length,
  );

  protected readonly burning = computed(() => this.fuses().filter((f) => f.state === 'burning' || f.state === 'last'));
  protected readonly missed = computed(() => this.fuses().filter((f) => f.state === 'missed'));
  protected readonly tooLate = lateWords;
  protected readonly met = computed(() => this.fuses().filter((f) => f.state === 'done'));

  protected readonly fuses = computed((): Fuse[] => {
    const [sample, events, now] = [this.sample(), this.events(), this.now()];
    if (!sample || !events) return [];
    const tests = this.rows()
      .filter((row) => row.retestOf === null)
      .map((row) => ({ method: row.method, doneAt: (must: MethodWindow['must']) => momentOf(row, must) }));
    const clocks = clocksOf(events, tests, sample.specifications, now);
    // Of a void sample nothing is hurried for any more, but for the truck.
    return this.isVoid() ? clocks.filter((f) => f.id === 'truck' || f.state === 'done') : clocks;
  });

  /** The composite itself, judged by its own method. */
  protected readonly sampleRemarks = computed(() => {
    const sample = this.sample();
    if (!sample) return [];
    const found = findingsOfSheet(sample, this.rows()).filter((f) => f.finding === 'composite');
    return found.map((f) => shownFinding(f, this.now())).filter((f) => f.grade !== 'fine');
  });

  protected readonly isVoid = computed(() => this.sampleRemarks().some((f) => f.grade === 'void'));

  /** The first thing that the sampling method says, for whoever stands at the chute. */
  protected readonly samplingRule = samplingRule();

  private readonly told = new Set<string>();
  /** What a clock has to say, for those who do not see it. */
  protected readonly announced = signal('');

  constructor() {
    effect(() => {
      const sampleId = this.sampleId();
      untracked(() => this.store.dispatch(SheetActions.opened({ sampleId })));
    });
    effect(() => this.tell(this.fuses()));
  }

  /** Heard and felt once for each fuse: when it needs you, and when it is over. */
  private tell(fuses: readonly Fuse[]): void {
    const burning = fuses.some((f) => f.state === 'burning' || f.state === 'last');
    void this.attention.stayAwake(burning);
    for (const f of fuses) {
      const key = `${f.id} ${f.state}`;
      if (f.doneAt !== undefined || this.told.has(key)) continue;
      if (f.state === 'last' || f.state === 'missed') this.announced.set(`${f.label} ${f.state === 'last' ? left(f.left) : f.then}`);
      if (f.state === 'last') this.attention.alert('soon');
      else if (f.state === 'missed' && this.told.has(`${f.id} last`)) this.attention.alert('over');
      if (f.state !== 'burning') this.told.add(key);
    }
  }

  /** From where the next portion is taken. */
  protected readonly part = signal<string>(MIDDLE);
  protected readonly parts = PARTS;

  /** What the judge asks before the composite is combined as it stands. */
  protected readonly combining = signal(false);
  protected readonly doubts = computed(() => {
    const sample = this.sample();
    if (!sample || !this.combining() || this.has().finished) return [];
    const portions = Array.from({ length: this.portions() }, () => ({ at: sample.createdAt }));
    const item = { ...sample.line.at(-1)!, facts: { portions, finished: sample.createdAt } as unknown as AnyInputs };
    return doubtsOn(lineOfSheet(sample, []), item);
  });
  protected readonly why = signal('');
  protected readonly usual = USUAL_ON_SITE;

  protected combine(): void {
    this.combining.set(true);
    const asked = this.doubts().length > 0;
    if (asked && this.why().trim().length < LEAST_REASON) return;
    this.combining.set(false);
    this.happened('finished', asked ? this.why().trim() : undefined);
  }

  protected happened(kind: SampleEventKind, reason?: string): void {
    const [sample, by] = [this.sample(), this.person()];
    if (!sample || !by) return;
    this.combining.set(false);
    const id = newId();
    const command: Command = {
      id,
      order: Date.now(),
      itemId: sample.id,
      opens: `/samples/${sample.id}`,
      kind: 'event',
      path: `/samples/${sample.id}/events`,
      body: {
        id,
        by,
        kind,
        at: this.clock.iso(),
        known: sample.readAt,
        ...(reason ? { reason } : {}),
        ...(kind === 'portion' ? { part: this.part() } : {}),
      },
      heldUntil: Date.now() + HOLD_MS,
    };
    this.store.dispatch(SheetActions.queued({ commands: [command] }));
    // The next one is from the middle again: where they are to come from.
    this.part.set(MIDDLE);
  }

  protected holds(kind: SampleEventKind): boolean {
    return this.commands().some((c) => c.kind === 'event' && c.body['kind'] === kind && (c.heldUntil ?? 0) > this.deviceNow());
  }

  protected choose(key: string): void {
    this.store.dispatch(SheetActions.rowChosen({ key }));
  }

  protected time(iso: string): string {
    return zonedTime(iso, this.sample()?.project.timezone);
  }

  protected again(): void {
    this.store.dispatch(SheetActions.asked());
  }

  /** A result by its name: an id says nothing beside a truck. */
  protected labelOf(result: string): string {
    return (
      this.rows()
        .map((r) => r.method.results[result]?.label.toLowerCase())
        .find((label) => label !== undefined) ?? result
    );
  }

  protected differenceSeen(): void {
    this.store.dispatch(SheetActions.differenceSeen());
  }

  protected refusalSeen(): void {
    this.store.dispatch(SheetActions.refusalSeen());
  }

  ngOnDestroy(): void {
    void this.attention.stayAwake(false);
    this.store.dispatch(SheetActions.closed());
  }
}

/** When a row's test was started or read through; null while it was not. */
function momentOf(row: Row, must: MethodWindow['must']): number | null {
  const started = row.draft?.startedAt ?? row.test?.startedAt ?? null;
  if (must === 'test.started') return started === null ? null : Date.parse(started);
  const main = row.evaluation.results.some((r) => r.state === 'given');
  const times = [
    ...(row.test?.readings ?? []).filter((r) => r.supersedes === null).map((r) => Date.parse(r.at)),
    ...(started === null ? [] : Object.values(row.draft?.entries ?? {}).map((e) => Date.parse(e.at))),
  ];
  return main && times.length > 0 ? Math.max(...times) : null;
}
