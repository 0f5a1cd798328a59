import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { adviceOf, isForAcceptance, oddOf, type BreakBeside, type Companion, type StrengthTestView } from '@keen-mortar/contract';
import {
  COMPRESSIVE,
  foundBy,
  methodById,
  evidenceParts,
  partOf,
  STRENGTH_FINDING,
  TOLD_OF_LOW,
  SCHOOLS,
  unitLabel,
  type AnyMethod,
  type Evaluation,
  type PressAdvice,
  type System,
} from '@keen-mortar/core';
import { RouterLink } from '@angular/router';
import { ButtonDirective } from 'primeng/button';
import { FractureShape } from '../../test/fracture-shape';
import { VerdictShape } from '../../ui/verdict-shape';

interface Shown {
  readonly id: string;
  readonly letter: string;
  readonly text: string;
  readonly says: string;
  readonly fracture: string | null;
  readonly state: 'within' | 'edge' | 'void' | 'open';
  readonly inHand: boolean;
}

const WIDTH = 300;
const HEIGHT = 92;

/** What stands beside a specimen while it is broken: its companions, the test that forms, what its mix gave, and what 7 days promised. */
@Component({
  selector: 'km-break-side',
  imports: [ButtonDirective, FractureShape, VerdictShape, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section>
      <h2>
        Set {{ beside().set.code }}, {{ age() === null ? 'spares' : age() + ' days' }} <span class="soft">{{ unit() }}</span>
      </h2>
      <ul class="companions">
        @for (c of companions(); track c.id) {
          <li [class.on]="c.inHand">
            <a [routerLink]="['/breaks', c.id]" [attr.aria-current]="c.inHand ? 'true' : null">
              @if (c.fracture) {
                <km-fracture-shape [type]="c.fracture" />
              } @else {
                <span class="whole" aria-hidden="true"></span>
              }
              <b>{{ c.letter }}</b>
              <span class="fig text">{{ c.text }}</span>
              <small>{{ c.says }}</small>
            </a>
          </li>
        }
      </ul>
    </section>
    @if (test(); as t) {
      @if (t.range !== null) {
        <section data-testid="apart">
          <h2>
            How far they are apart <span class="fig" [class.out]="t.apart">{{ t.range }} %</span>
          </h2>
          @if (t.most !== null) {
            <svg class="band" viewBox="0 0 300 26" aria-hidden="true">
              <path d="M4 13H296" stroke="var(--rule)" />
              <rect x="4" y="5" [attr.width]="scale(+t.most)" height="16" fill="var(--zone)" />
              <path [attr.d]="'M' + (4 + scale(+t.most)) + ' 2V24'" stroke="var(--within)" stroke-width="2" />
              @if (t.apart) {
                <path [attr.d]="'M' + (scale(+t.range) - 4) + ' 5V21L' + (scale(+t.range) + 8) + ' 13Z'" fill="var(--out)" />
              } @else {
                <circle [attr.cx]="4 + scale(+t.range)" cy="13" r="6" fill="var(--within)" />
              }
            </svg>
            <p class="small">
              @if (t.apart) {
                <b class="out">Too far apart; at most {{ t.most }} %.</b> One is left out only with a cause that was seen.
                @if (odd(); as o) {
                  <span data-testid="odd"
                    >{{ o.code }} differs: {{ o.why.length === 0 ? 'nothing on record tells it from the others' : o.why.join('; ') }}.</span
                  >
                }
              } @else {
                <span class="soft">at most {{ t.most }} %</span>
              }
            </p>
          }
        </section>
      }
      <section data-testid="forming">
        <h2>
          The strength test
          <span class="soft">{{ t.count }} of {{ t.planned === 0 ? t.count : t.planned }}</span>
        </h2>
        <p>
          <b class="fig big">{{ t.reported ?? '–' }}</b> {{ unit() }}
          @if (isAccepted()) {
            @if (advice()?.below === 'floor') {
              <km-verdict-shape state="out" [size]="18" /> <b class="out">below the least single test, {{ advice()?.floor }}</b>
            } @else if (advice()?.below === 'run') {
              <km-verdict-shape state="out" [size]="18" /> <b class="out">{{ short() }}: f’c {{ specified() }}</b>
            } @else if (advice()?.below === 'specified') {
              <km-verdict-shape state="edge" [size]="18" /> <b class="edge">below f’c, {{ specified() }}</b>
            }
          }
        </p>
        @if (found(); as f) {
          <p class="small" data-testid="asked" [class.needs]="f.grade === 'asks' || f.grade === 'watch'" [class.out]="f.grade === 'out'">
            {{ f.says }}
          </p>
          @for (n of f.next; track n) {
            <p class="small">{{ n }}</p>
          }
          @if (f.choices.length > 0 && f.decision === null) {
            <a pButton severity="secondary" routerLink="/decisions" [queryParams]="{ on: f.subjectId, finding: f.finding, part: f.part }"
              >Put a decision on record</a
            >
          }
        }
      </section>
    }
    @if (telling(); as t) {
      <section class="tell" data-testid="telling" role="alert">
        <h2>Who must be told</h2>
        <p class="small">
          <b class="out">{{ t.says }}</b> {{ who }}.
        </p>
        @for (p of evidence(); track p.head) {
          <h3 class="small">{{ p.head }}</h3>
          <ul class="small">
            @for (e of p.says; track e) {
              <li>{{ e }}</li>
            }
          </ul>
        }
        <ol class="small">
          @for (n of t.next; track n) {
            <li>{{ n }}</li>
          }
        </ol>
        <a pButton severity="secondary" [href]="'/api/v1/breaks/' + specimenId() + '/letter'" target="_blank">A letter to print</a>
      </section>
    }
    @if (isAccepted() && advice()?.least) {
      <section>
        <p class="small" data-testid="least">
          To pass, this test must reach <b class="fig">{{ advice()!.least }}</b>.
          @if (advice()!.each !== null) {
            Each that is still to come: <b class="fig">{{ advice()!.each }}</b>.
          }
        </p>
      </section>
    }
    @if (advice()?.expected; as e) {
      <section>
        <h2>Expected from its 7 days</h2>
        <p>
          <b class="fig">{{ e.text }}</b> {{ unit() }} <span class="soft fig">({{ e.low }} to {{ e.high }})</span>
        </p>
      </section>
    }
    @if (isPressed() && beside().recent.length > 1) {
      <section>
        <h2>
          {{ beside().mix?.name }}, before
          @if (beside().mix; as mix) {
            <a [routerLink]="['/mixes', mix.id, 'series']" class="small">series</a>
          }
        </h2>
        <svg class="recent" [attr.viewBox]="'0 0 ' + width + ' ' + height" role="img" [attr.aria-label]="recentSays()">
          @if (chart().fc; as y) {
            <path [attr.d]="'M0 ' + y + 'H264'" stroke="var(--within)" stroke-width="2" />
            <text x="268" [attr.y]="y + 5" class="fig">{{ specified() }}</text>
          }
          @if (chart().floor; as y) {
            <path [attr.d]="'M0 ' + y + 'H264'" stroke="var(--out)" stroke-width="2" />
            <text x="268" [attr.y]="y + 5" class="fig">{{ advice()?.floor }}</text>
          }
          <polyline [attr.points]="chart().line" fill="none" stroke="var(--deep)" stroke-width="2" />
          @for (d of chart().dots; track $index) {
            <circle [attr.cx]="d.x" [attr.cy]="d.y" r="4.5" [attr.fill]="d.out ? 'var(--out)' : 'var(--within)'" />
          }
        </svg>
      </section>
    }
  `,
  styleUrl: './break-side.css',
})
export class BreakSide {
  readonly beside = input.required<BreakBeside>();
  readonly specimenId = input.required<string>();
  readonly method = input.required<AnyMethod>();
  readonly system = input.required<System>();
  /** What comes of the one in hand, before it is kept. */
  readonly come = input<Evaluation | null>(null);
  private readonly property = computed(() => foundBy(this.method()) ?? '');
  /** Split or bent, it is compared with none that was pressed. */
  protected readonly isPressed = computed(() => COMPRESSIVE.includes(this.property()));
  protected readonly width = WIDTH;
  protected readonly height = HEIGHT;

  private readonly own = computed(() => this.beside().companions.find((c) => c.id === this.specimenId()));
  protected readonly age = computed(() => this.own()?.ageDays ?? null);
  protected readonly unit = computed(() => unitLabel(this.system() === 'us' ? 'psi' : 'MPa'));
  private readonly inHandText = computed(() => {
    const r = this.come()?.results.find((one) => one.id === 'strength' || one.id === 'modulus');
    return r?.state === 'given' ? r.reported : null;
  });
  protected readonly companions = computed((): Shown[] =>
    this.beside()
      .companions.filter((c) => c.ageDays === this.age())
      .map((c) => this.shownOf(c)),
  );
  private shownOf(c: Companion): Shown {
    const inHand = c.id === this.specimenId();
    const letter = /-([A-Z]+)$/.exec(c.code)?.[1] ?? c.code;
    const base = { id: c.id, letter, inHand, fracture: c.broken?.fracture ?? null };
    if (c.became !== null) return { ...base, text: '–', says: c.became, state: 'void' };
    if (!c.broken) return { ...base, text: (inHand && this.inHandText()) || '–', says: inHand ? 'in hand' : 'waits', state: 'open' };
    if (foundBy(methodById(c.broken.method)!) !== this.property())
      return { ...base, text: c.broken.reported ?? '–', says: 'broken otherwise', state: 'open' };
    if (c.broken.left !== null) return { ...base, text: c.broken.reported ?? '–', says: 'left out', state: 'void' };
    if (c.broken.validity === 'void') return { ...base, text: '–', says: 'void', state: 'void' };
    const marked = c.broken.validity === 'marked';
    return { ...base, text: c.broken.reported ?? '–', says: marked ? 'with a remark' : '', state: marked ? 'edge' : 'within' };
  }

  protected readonly test = computed(
    (): StrengthTestView | null =>
      this.beside().tests.find((t) => t.ageDays === this.age() && t.property === this.property() && t.specimens.length > 0) ?? null,
  );
  protected readonly isAccepted = computed(() => {
    const ageDays = this.age();
    return ageDays !== null && isForAcceptance(this.beside(), { property: this.property(), ageDays });
  });
  protected readonly short = computed(() => SCHOOLS[this.beside().accepted.school].short);
  protected readonly specified = computed(() => this.beside().accepted.specified?.text ?? '');
  /** What is found of the strength test that forms, and of how low it is: in the words of every other outlet. */
  private readonly foundOf = (finding: string) => {
    const t = this.test();
    return (t && this.beside().findings.find((f) => f.finding === finding && f.subjectId === t.setId && f.part === partOf(t))) ?? null;
  };
  protected readonly found = computed(() => this.foundOf(STRENGTH_FINDING));
  protected readonly telling = computed(() => this.foundOf('low-strength'));
  protected readonly evidence = computed(() => evidenceParts(this.telling()?.evidence ?? []));
  protected readonly who = TOLD_OF_LOW.join(', ');
  protected readonly advice = computed((): PressAdvice | null => {
    const ageDays = this.age();
    return ageDays === null || !this.isPressed() ? null : adviceOf(this.beside(), { property: this.property(), ageDays }, this.system());
  });
  protected readonly odd = computed(() => (this.test() ? oddOf(this.test()!) : null));
  /** Twice what is allowed is at the end of the scale. */
  protected scale(percent: number): number {
    const most = Number(this.test()?.most ?? 10);
    return Math.min(292, (percent / (2 * most)) * 292);
  }

  protected readonly recentSays = computed(
    () =>
      `Tests before it: ${this.beside()
        .recent.map((t) => t.reported)
        .join(', ')}`,
  );
  protected readonly chart = computed(() => {
    const all = this.beside().recent.flatMap((t) => (t.reported === null ? [] : [Number(t.reported)]));
    const [fc, floor] = [Number(this.specified() || NaN), Number(this.advice()?.floor ?? NaN)];
    const marks = [...all, fc, floor].filter(Number.isFinite);
    const [least, most] = [Math.min(...marks) - 1, Math.max(...marks) + 1];
    const y = (v: number): number => Math.round(HEIGHT - 6 - ((v - least) / (most - least)) * (HEIGHT - 12));
    const dots = all.map((v, i) => ({ x: 10 + (i * 244) / Math.max(1, all.length - 1), y: y(v), out: v < floor }));
    return {
      dots,
      line: dots.map((d) => `${d.x},${d.y}`).join(' '),
      fc: Number.isFinite(fc) ? y(fc) : null,
      floor: Number.isFinite(floor) ? y(floor) : null,
    };
  });
}
