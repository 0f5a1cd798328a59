import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { dayIn, type Specification, type Trend, type TrendPoint } from '@keen-mortar/contract';
import { boundsOf, limitWords, propertyOf, shiftOf, unitLabel, type Limit, type VerdictState } from '@keen-mortar/core';
import { longDay } from '../../parts/when';
import { ChartBox, type Drawing } from '../../ui/chart';
import { VERDICT_WORDS, VerdictShape } from '../../ui/verdict-shape';

interface Row {
  readonly property: string;
  readonly label: string;
  readonly limits: string;
  readonly newest: TrendPoint;
  readonly on: string;
  readonly unit: string;
  readonly drawing: Drawing;
  readonly says: string;
  /** Where it moved for good, and from what to what; empty where it did not. */
  readonly moved: string;
}

const MONTH = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', timeZone: 'UTC' });

/** Ends of what a property must be, where limit and results are in one unit: only to draw with. */
function endsOf(limit: Limit | undefined, unit: string): { lower: number | null; upper: number | null } {
  if (limit?.unit !== unit) return { lower: null, upper: null };
  const { lower, upper } = boundsOf(limit);
  return { lower: lower === undefined ? null : Number(lower), upper: upper === undefined ? null : Number(upper) };
}

/** What is found of a mix or a source, a line for each property: where it stands, how it went, against its limits. */
@Component({
  selector: 'km-trends',
  imports: [RouterLink, ChartBox, VerdictShape],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (r of rows(); track r.property) {
      <section [attr.data-property]="r.property">
        <div>
          <h3>{{ r.label }}</h3>
          <p class="soft small">{{ r.limits || 'no limit' }}</p>
        </div>
        <div>
          <p>
            <b class="fig">{{ r.newest.reported }}</b> <span class="soft">{{ r.unit }}</span>
            <km-verdict-shape [state]="asState(r.newest.state)" [size]="18" />
            <span [class]="'small ' + r.newest.state">{{ words[asState(r.newest.state)] }}</span>
          </p>
          <p class="small">
            <a [routerLink]="['/record', r.newest.itemId]">{{ r.newest.code }}</a> {{ r.on }}
          </p>
        </div>
        <km-chart [drawing]="r.drawing" [says]="r.says" [height]="104" />
        @if (r.moved) {
          <p class="needs small moved" data-testid="moved">{{ r.moved }}</p>
        }
      </section>
    }
  `,
  styles: `
    section {
      display: grid;
      grid-template-columns: 190px 230px minmax(0, 1fr);
      gap: 4px 18px;
      align-items: center;
      padding: 8px 14px;
      background: var(--well);
      border-bottom: 1px solid var(--hair);
    }
    h3 {
      font-size: 16px;
      font-weight: 720;
    }
    p {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 0 8px;
    }
    b {
      font-size: 27px;
      letter-spacing: -0.02em;
    }
    .moved {
      grid-column: 3;
    }
    @media (max-width: 860px) {
      .moved {
        grid-column: 1 / -1;
      }
      section {
        grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
      }
      km-chart {
        grid-column: 1 / -1;
      }
    }
  `,
})
export class Trends {
  readonly trends = input.required<readonly Trend[]>();
  readonly specifications = input.required<readonly Specification[]>();
  readonly zone = input.required<string>();
  protected readonly words = VERDICT_WORDS;
  protected asState = (state: string): VerdictState => state as VerdictState;

  protected readonly rows = computed((): Row[] => {
    const all = this.trends().flatMap((t) => t.points.map((p) => Date.parse(p.at)));
    const ends = { from: Math.min(...all), to: Math.max(...all) };
    // News first: what is out, then what is limited, each in the order of the work.
    const rank = (r: Row): number => (r.newest.state === 'out' ? 0 : r.limits === '' ? 2 : 1);
    return this.trends()
      .map((t) => this.row(t, ends))
      .sort((a, b) => rank(a) - rank(b));
  });

  private row({ property, points }: Trend, { from, to }: { readonly from: number; readonly to: number }): Row {
    const limits = this.specifications().flatMap((s) => s.limits.filter((l) => l.property === property));
    const newest = points.at(-1)!;
    const { lower, upper } = endsOf(limits[0], newest.unit);
    const label = propertyOf(property)?.label ?? property;
    const shift = shiftOf(points.map((p) => p.reported));
    const around = shift ? [points[shift.at - 1]!.at, points[shift.at]!.at] : [];
    const values = points.map((p) => Number(p.reported));
    const wall = (at: string) => [Math.min(...values), Math.max(...values)].map((y) => ({ x: Date.parse(at), y }));
    const line = (y: number | null) => (y === null ? [] : [from, to].map((x) => ({ x, y })));
    return {
      property,
      label,
      limits: limits.map((l) => limitWords(l)).join('; '),
      newest,
      on: longDay(dayIn(this.zone(), newest.at)),
      unit: unitLabel(newest.unit),
      says: `${label}, ${points.length} results, the newest ${newest.reported} ${unitLabel(newest.unit)}; ${points.filter((p) => p.state === 'out').length} out`,
      moved: shift
        ? `Moved for good between ${around.map((at) => longDay(dayIn(this.zone(), at))).join(' and ')}: ${shift.before} → ${shift.after} ${unitLabel(newest.unit)}`.trim()
        : '',
      drawing: (inks) => ({
        type: 'scatter',
        data: {
          datasets: [
            {
              data: points.map((p) => ({ x: Date.parse(p.at), y: Number(p.reported) })),
              showLine: true,
              borderColor: inks.soft,
              borderWidth: 1,
              pointRadius: points.map((p) => (p.state === 'out' ? 6 : 3.5)),
              pointStyle: points.map((p) => (p.state === 'out' ? 'triangle' : 'circle')),
              backgroundColor: points.map((p) => (p.state === 'out' ? inks.out : p.state === 'unjudged' ? inks.ink : inks.within)),
            },
            ...around.map((at) => ({
              data: wall(at),
              showLine: true,
              borderColor: inks.now,
              borderDash: [3, 3],
              borderWidth: 1.5,
              pointRadius: 0,
            })),
            ...[lower, upper].map((y) => ({ data: line(y), showLine: true, borderColor: inks.within, borderWidth: 2, pointRadius: 0 })),
          ],
        },
        options: {
          scales: {
            x: { min: from, max: to + (to === from ? 1 : 0), ticks: { maxTicksLimit: 7, callback: (x) => MONTH.format(Number(x)) } },
            y: { ticks: { maxTicksLimit: 4 }, grace: '8%' },
          },
        },
      }),
    };
  }
}
