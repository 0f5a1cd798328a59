import { newId } from '../../device/ids';
import { Write } from '../../device/write';
import { WriteTold } from '../../parts/write-told';
import { Clock } from '../../device/clock';
import { Codes } from '../../device/codes';
import { Notice } from '../../ui/notice';
import { ButtonDirective } from 'primeng/button';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked, type OnDestroy } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import type { Load, Mark, Sample, SampleSummary } from '@keen-mortar/contract';
import { samplingRule } from '@keen-mortar/contract';
import {
  boundsOf,
  brief,
  convert,
  exact,
  isTold,
  methodById,
  pictureOf,
  PORTION_PARTS,
  strictestOf,
  truckMinutes,
  unitLabel,
  USUAL_TRUCK_MINUTES,
  type Picture,
} from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { DateTime } from 'luxon';
import { TableModule } from 'primeng/table';
import { Findings } from '../../parts/findings';
import { History } from '../../parts/history';
import { Pictogram } from '../../ui/pictogram';
import { Choice } from '../../ui/choice';
import { VerdictShape } from '../../ui/verdict-shape';
import { longDay, today, zonedTime } from '../../parts/when';
import { nameOf, session } from '../../state/session';
import { pours, PoursActions } from './pours.state';
import { WaterForm } from './water-form';

interface Line {
  readonly load: Load;
  readonly samples: readonly SampleSummary[];
  readonly marks: ReadonlyMap<string, readonly Mark[]>;
  readonly out: boolean;
  /** Places on the axis of time, 0 to 1: batched, end of its time, samples. */
  readonly from: number;
  readonly until: number;
  readonly pins: readonly number[];
  /** Minutes that are left of its time, while some are. */
  readonly burns: number | null;
  readonly says: string;
}

/** The first thing that the sampling method says. */

/** What is to be done now, and with which load. */
interface InHand {
  readonly what: string;
  readonly title: string;
  readonly says: string;
  readonly picture: Picture;
  readonly load: Load;
  readonly left: number | null;
  readonly sampleId: string | null;
  readonly label: string;
}

/** What a person looks for first: what no specification limits stays on the sheet. */
const judged = (samples: readonly SampleSummary[]): Mark[] => samples.flatMap((s) => s.marks.filter((m) => m.state !== 'unjudged'));
const keyOf = (m: Mark): string => `${m.method} ${m.result}`;

const MINUTE = 60_000;
const TICK = 20_000;
/** Further right, an hour’s label lies over what stands beside the axis. */
const LAST_LABEL = 0.93;
/** So many properties are drawn as trends: what is looked at first. */
const TRENDS = 3;

/** Where portions are to come from. */
const MIDDLE: string = 'middle';

/** A pour: its loads in order, what was found in each, and where the next sample starts. */
@Component({
  selector: 'km-pour-page',
  imports: [Choice, WriteTold, Notice, RouterLink, VerdictShape, WaterForm, ButtonDirective, Pictogram, History, Findings, TableModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './pour-page.html',
  styleUrl: './pour-page.css',
})
export class PourPage implements OnDestroy {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  readonly pourId = input.required<string>();

  protected readonly pour = computed(() => {
    const p = this.store.selectSignal(pours.selectPour)();
    return p?.id === this.pourId() ? p : null;
  });
  protected readonly problem = this.store.selectSignal(pours.selectProblem);
  protected readonly nameOf = this.store.selectSignal(nameOf);
  private readonly person = this.store.selectSignal(session.selectPersonId);
  private readonly clock = inject(Clock);
  protected readonly write = new Write<Sample>();
  protected readonly starting = signal<string | null>(null);
  protected readonly wateringId = signal<string | null>(null);

  private readonly now = this.clock.ticking(TICK);

  /** How long a load may be in the truck, by the specification, min. */
  private readonly most = computed(() => {
    const p = this.pour();
    return p ? truckMinutes(p) : null;
  });

  /** From the first batching to the end of the last load's time. */
  private readonly span = computed(() => {
    const batched = (this.pour()?.loadList ?? []).map((l) => Date.parse(l.batchedAt));
    const from = Math.min(...batched) - 10 * MINUTE;
    return { from, to: Math.max(...batched) + (this.most() ?? USUAL_TRUCK_MINUTES) * MINUTE + 40 * MINUTE };
  });
  private readonly at = computed(() => {
    const { from, to } = this.span();
    return (ms: number): number => Math.min(1, Math.max(0, (ms - from) / (to - from)));
  });
  protected readonly today = computed(() => this.now() < this.span().to);
  protected readonly nowAt = computed(() => this.at()(this.now()));
  protected readonly hours = computed(() => {
    const { from, to } = this.span();
    const zone = this.pour()?.project.timezone;
    if (!Number.isFinite(from) || !zone) return [];
    const first = DateTime.fromMillis(from, { zone }).startOf('hour').plus({ hours: 1 });
    const hours = Math.floor((to - first.toMillis()) / (60 * MINUTE));
    const every = Math.max(1, Math.ceil(hours / 3));
    return Array.from({ length: Math.floor(hours / every) + 1 }, (_h, i) => first.plus({ hours: i * every }))
      .map((h) => ({ at: this.at()(h.toMillis()), text: h.toFormat('HH:mm') }))
      .filter((h) => h.at < LAST_LABEL);
  });

  protected readonly lines = computed((): Line[] => {
    const p = this.pour();
    if (!p) return [];
    const most = this.most();
    return p.loadList.map((load) => {
      const samples = p.sampleList.filter((s) => s.loadId === load.id);
      const marks = new Map<string, Mark[]>();
      for (const m of judged(samples)) marks.set(keyOf(m), [...(marks.get(keyOf(m)) ?? []), m]);
      const [batched, at] = [Date.parse(load.batchedAt), this.at()];
      const found = p.findings.filter((f) => f.subjectId === load.id || samples.some((s) => s.id === f.subjectId));
      // What was said to be empty burns no longer.
      const empty = found.some((f) => f.finding === 'time-in-truck' && f.grade !== 'open');
      const left = most === null || empty ? 0 : Math.floor((batched + most * MINUTE - this.now()) / MINUTE);
      return {
        load,
        samples,
        marks,
        out: samples.some((s) => s.marks.some((m) => m.state === 'out')) || found.some((f) => f.grade === 'out'),
        from: at(batched),
        until: at(batched + (most ?? USUAL_TRUCK_MINUTES) * MINUTE),
        pins: samples.map((s) => at(Date.parse(s.createdAt))),
        burns: left > 0 && most !== null ? left : null,
        says: left > 0 ? `${left} minutes left in the truck` : '',
      };
    });
  });

  /** What several things mean together, load by load: what is not as asked. */
  protected readonly found = computed(() => {
    const p = this.pour();
    if (!p) return [];
    const of = (ids: readonly string[]) => p.findings.filter((f) => isTold(f) && ids.includes(f.subjectId));
    const loads = p.loadList.map((load) => ({
      id: load.id,
      head: `Load ${load.number}`,
      findings: of([load.id, ...p.sampleList.filter((s) => s.loadId === load.id).map((s) => s.id)]),
    }));
    return [{ id: p.id, head: 'The pour', findings: of([p.id]) }, ...loads].filter((f) => f.findings.length > 0);
  });

  /** What was judged in some load, in the order of the work. */
  protected readonly columns = computed(() => {
    const found = new Map<string, Mark>();
    for (const m of judged(this.pour()?.sampleList ?? [])) if (!found.has(keyOf(m))) found.set(keyOf(m), m);
    return [...found.values()].map((m) => ({
      key: keyOf(m),
      method: m.method,
      result: m.result,
      label: m.label,
      picture: pictureOf(m.method),
      unit: m.unit,
    }));
  });

  protected readonly inHand = computed((): InHand | null => {
    const lines = this.lines().filter((l) => l.burns !== null);
    const open = lines.findLast((l) => l.samples.some((s) => judged([s]).length < this.columns().length || s.marks.length === 0));
    if (open) {
      const sample = open.samples.at(-1)!;
      const kept = judged([sample]).map((m) => m.label.toLowerCase());
      return {
        what: `Now, load ${open.load.number}, sample ${sample.label}`,
        title: 'Its tests are open',
        says: kept.length > 0 ? `Kept so far: ${kept.join(', ')}.` : 'Nothing is kept yet.',
        picture: 'sample',
        load: open.load,
        left: open.burns,
        sampleId: sample.id,
        label: sample.label,
      };
    }
    const next = lines.find((l) => l.samples.length === 0);
    return next
      ? {
          what: `Now, load ${next.load.number}, ${next.load.truck}`,
          title: 'Not sampled yet',
          says: samplingRule(),
          picture: 'truck',
          load: next.load,
          left: next.burns,
          sampleId: null,
          label: '',
        }
      : null;
  });

  protected readonly placed = computed(() => {
    const p = this.pour();
    if (!p || p.loadList.length === 0) return null;
    const volumes = p.loadList.map((l) => ({
      at: Date.parse(l.batchedAt),
      v: convert(exact(l.design.text), l.design.unit, p.planned.unit),
    }));
    const planned = Number(p.planned.text);
    let sum = exact('0');
    const y = (): number => 72 - Math.min(1, sum.near / planned) * 64;
    const steps = volumes.map(({ at, v }) => {
      const x = this.at()(at) * 300;
      const before = y();
      sum = sum.add(v);
      return `L${x} ${before}L${x} ${y()}`;
    });
    return {
      text: brief(sum, 4),
      steps: `M0 72${steps.join('')}L300 ${y()}L300 72Z`,
      first: this.time(p.loadList[0]!.batchedAt),
      last: this.time(p.loadList.at(-1)!.batchedAt),
    };
  });

  /** The same thing from load to load, against its limits. */
  protected readonly trends = computed(() => {
    const p = this.pour();
    if (!p) return [];
    return this.columns()
      .slice(0, TRENDS)
      .flatMap((c) => {
        const points = this.lines().flatMap((l) =>
          (l.marks.get(c.key) ?? [])
            .filter((m) => m.reported !== null)
            .map((m) => ({
              sample: '',
              load: l.load.number,
              reported: m.reported!,
              unit: '1' as const,
              state: m.state,
              at: l.load.batchedAt,
            })),
        );
        const property = methodById(c.method)?.results[c.result]?.property;
        const limits = p.specifications.flatMap((s) => s.limits.filter((l) => l.property === property));
        if (points.length < 2) return [];
        // Every one of them holds: what is drawn as inside is inside of all.
        const { lower, upper } = limits.length === 0 ? {} : strictestOf(limits, limits[0]!.unit);
        const range = lower !== undefined && upper !== undefined ? `${lower}–${upper} ${c.unit}` : '';
        return [{ ...c, points, lower, upper, range: range.trim() }];
      });
  });

  protected readonly byLoad = (_at: number, line: Line): string => line.load.id;
  protected readonly day = computed(() => {
    const p = this.pour();
    return p ? (p.on === today(p.project.timezone) ? 'Today' : longDay(p.on)) : '';
  });
  protected readonly limits = computed(() =>
    (this.pour()?.specifications ?? []).map((s) => ({
      name: s.name,
      limits: s.limits.map((l) => {
        const { lower, upper } = boundsOf(l);
        const range =
          lower !== undefined && upper !== undefined
            ? `${lower} to ${upper}`
            : lower !== undefined
              ? `at least ${lower}`
              : `at most ${upper ?? ''}`;
        return { property: l.property.replaceAll('-', ' '), range: `${range} ${unitLabel(l.unit)}`.trim() };
      }),
    })),
  );

  constructor() {
    inject(Codes).ready(this.person());
    effect(() => {
      const pourId = this.pourId();
      untracked(() => this.store.dispatch(PoursActions.pourOpened({ pourId })));
    });
  }

  protected time(iso: string): string {
    return zonedTime(iso, this.pour()?.project.timezone);
  }

  protected unit = unitLabel;
  /** From where the first portion is taken. */
  protected readonly part = signal<string>(MIDDLE);
  protected readonly parts = Object.entries(PORTION_PARTS).map(([id, label]) => ({ id, label: `from ${label}` }));

  protected asState(state: string): 'within' {
    return state as 'within';
  }

  /** First portion now: the sample's id is made here, so that a lost answer cannot make two. */
  protected start(load: Load, part = MIDDLE): void {
    const by = this.person();
    if (by === null || this.starting() !== null) return;
    const id = newId();
    this.starting.set(load.id);
    const firstPortionAt = this.clock.iso();
    const body = { id, by, loadId: load.id, firstPortionAt, part };
    this.write.send(
      { id, itemId: load.id, opens: this.router.url, kind: 'sample', path: '/samples', body },
      (sample) => void this.router.navigate(['/samples', sample.id]),
      { refused: () => this.starting.set(null) },
    );
  }

  protected again(): void {
    this.store.dispatch(PoursActions.pourAsked());
  }

  ngOnDestroy(): void {
    this.store.dispatch(PoursActions.pourClosed());
  }
}
