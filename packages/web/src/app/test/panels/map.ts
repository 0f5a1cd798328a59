import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { contours } from 'd3-contour';
import { axis, ChartBox, type Drawing } from '../../ui/chart';
import { rowsAt } from '../form/inputs';
import { ComputationStore } from '../computation.store';
import { closeTexts, seriesOf, textsOf, wordsOf } from '../drawn';

const CELL = 44;
const PAD = 26;
/** A shorter ring lies within one cell or two: its name would cover their figures, and the lines about it tell. */
const NAMED_FROM = 8;

interface Cell {
  readonly line: number;
  readonly at: number;
  readonly e: number;
  readonly text: string;
  readonly kind: string;
}

/** The classes, and the result that is the share of each. */
const KINDS = [
  { kind: 'no_corrosion', share: 'noCorrosion' },
  { kind: 'uncertain', share: 'uncertain' },
  { kind: 'corrosion', share: 'corrosion' },
] as const;
/** Marks of the classes: a shape as well as a tone, for whoever does not see the tone. */
const MARK: Readonly<Record<string, string>> = { no_corrosion: 'o', uncertain: '?', corrosion: '!' };

/** While the signs are to be turned nothing is said of corrosion. */
const UNCLASSED = 'unclassed';

/** The grid of potentials with its lines of equal potential, the share of the area in each class, and how they are spread. */
@Component({
  selector: 'km-map',
  imports: [ChartBox],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (cells().length > 0) {
      <div class="wide" role="region" tabindex="0" aria-label="Potential map">
        <svg [attr.viewBox]="'0 0 ' + width() + ' ' + height()" [style.max-width.px]="width() * 1.3" role="img" [attr.aria-label]="says()">
          @for (c of cells(); track c.line + '.' + c.at) {
            <rect
              [attr.x]="pad + c.at * cell"
              [attr.y]="pad + c.line * cell"
              [attr.width]="cell"
              [attr.height]="cell"
              [attr.class]="c.kind"
              stroke="var(--hair)"
            />
          }
          @for (l of lines(); track l.value) {
            <path [attr.d]="l.path" fill="none" stroke="var(--ink)" [attr.stroke-width]="1.6" [attr.data-line]="l.value" />
            @if (l.named) {
              <text [attr.x]="l.x" [attr.y]="l.y" class="on" font-size="12.5">{{ l.value }}</text>
            }
          }
          @for (c of cells(); track c.line + '.' + c.at) {
            <text
              [attr.x]="pad + (c.at + 0.5) * cell"
              [attr.y]="pad + (c.line + 0.5) * cell + 1"
              text-anchor="middle"
              [attr.class]="'fig over ' + c.kind"
              font-size="12"
              fill="var(--ink)"
            >
              {{ whole(c.text) }}
            </text>
            <text
              [attr.x]="pad + (c.at + 0.5) * cell"
              [attr.y]="pad + (c.line + 0.5) * cell + 15"
              text-anchor="middle"
              font-size="12.5"
              fill="var(--ink)"
            >
              {{ mark(c.kind) }}
            </text>
          }
          @for (k of across(); track k) {
            <text [attr.x]="pad + (k + 0.5) * cell" y="16" text-anchor="middle" font-size="12.5" fill="var(--soft)">{{ k + 1 }}</text>
          }
          @for (k of down(); track k) {
            <text x="10" [attr.y]="pad + (k + 0.5) * cell + 4" text-anchor="middle" font-size="12.5" fill="var(--soft)">{{ k + 1 }}</text>
          }
        </svg>
      </div>
      <p class="small">
        @if (classed()) {
          Area:
          @for (k of kinds; track k.kind) {
            <span class="key {{ k.kind }}">{{ mark(k.kind) }}</span> {{ word(k.kind) }} {{ share(k.share) }} %,
          }
        } @else {
          No classes before the signs are turned;
        }
        lines every {{ step() }} mV.
        @if (unread()) {
          A cell that was not read is bridged, for the lines only.
        }
      </p>
      <km-chart [drawing]="drawing()" says="Cumulative frequency of the potentials" [height]="220" />
    }
  `,
  styleUrl: './panel.css',
  styles: `
    .wide {
      position: relative;
      overflow-x: auto;
    }
    .unclassed,
    .no_corrosion {
      fill: var(--well);
      background: var(--well);
    }
    .uncertain {
      fill: var(--con-l);
      background: var(--con-l);
    }
    .corrosion {
      fill: var(--con);
      background: var(--con);
    }
    /* A figure stands clear of the lines: its cell's own tone about it. */
    .over {
      fill: var(--ink);
      paint-order: stroke;
      stroke-width: 4px;
    }
    .over.unclassed,
    .over.no_corrosion {
      stroke: var(--well);
    }
    .over.uncertain {
      stroke: var(--con-l);
    }
    .over.corrosion {
      stroke: var(--con);
    }
    .key {
      padding: 1px 8px;
      border: 1px solid var(--rule);
    }
    .on {
      fill: var(--ink);
      paint-order: stroke;
      stroke: var(--well);
      stroke-width: 4px;
    }
  `,
})
export class PotentialMap {
  private readonly store = inject(ComputationStore);
  protected readonly cell = CELL;
  protected readonly pad = PAD;
  /** A cell has room for three digits, and none for the mark that there are more. */
  protected readonly whole = (text: string): string => text.replace('…', '');
  protected readonly kinds = KINDS;
  /** As the method names the class. */
  protected readonly word = (kind: string): string => this.store.method()?.results['classes']?.words?.[kind] ?? kind;
  protected readonly mark = (kind: string): string => MARK[kind] ?? '';

  protected readonly cells = computed((): Cell[] => {
    const e = this.store.working();
    const [values, kinds, texts] = [seriesOf(e, 'cse'), wordsOf(e, 'classes'), closeTexts(e, 'cse', 3)];
    return wordsOf(e, 'where').map((where, i) => {
      const [line, at] = where.split('.').map((n) => Number(n) - 1);
      return { line: line!, at: at!, e: values[i]!, text: texts[i]!, kind: kinds[i] ?? UNCLASSED };
    });
  });
  private readonly columns = computed(() => Math.max(0, ...this.cells().map((c) => c.at + 1)));
  private readonly lineCount = computed(() => Math.max(rowsAt(this.store.still(), 'lines').length, 0));
  protected readonly across = computed(() => Array.from({ length: this.columns() }, (_k, k) => k));
  protected readonly down = computed(() => Array.from({ length: this.lineCount() }, (_k, k) => k));
  protected readonly width = computed(() => PAD + this.columns() * CELL + 6);
  protected readonly height = computed(() => PAD + this.lineCount() * CELL + 6);
  protected readonly step = computed(() => Number(this.store.working()?.params['lines'] ?? NaN));

  /** Equipotential lines between the middles of the cells; a cell that was not read takes the mean of its neighbours, for the drawing only. */
  protected readonly lines = computed(() => {
    const [n, m] = [this.columns(), this.lineCount()];
    if (n < 2 || m < 2 || !(this.step() > 0)) return [];
    const grid = new Array<number>(n * m).fill(NaN);
    for (const c of this.cells()) grid[c.line * n + c.at] = c.e;
    const filled = fill(grid, n);
    const [low, high] = [Math.min(...filled), Math.max(...filled)];
    const step = this.step();
    const values = Array.from({ length: 60 }, (_v, i) => (Math.ceil(low / step) + i) * step).filter((v) => v < high);
    return contours()
      .size([n, m])
      .smooth(true)
      .thresholds(values)(filled)
      .flatMap(({ value, coordinates }) => {
        const strokes = coordinates.flat().map((ring) => inner(ring as [number, number][], n, m));
        const longest = strokes.reduce((most, stroke) => (stroke.length > most.length ? stroke : most), []);
        const middle = longest[Math.floor(longest.length / 2)];
        if (!middle) return [];
        const path = strokes
          .flat()
          .map(({ from, to }) => `M${at(from)}L${at(to)}`)
          .join('');
        // Half-way along a stretch of the line lies between the cells, where no figure stands.
        const [x, y] = [0, 1].map((k) => PAD + ((middle.from[k]! + middle.to[k]!) / 2) * CELL);
        return [{ value, path, x: x! - 12, y: y! + 4, named: longest.length >= NAMED_FROM }];
      });
  });

  protected share(id: string): string {
    return textsOf(this.store.method(), this.store.working(), id)[0] ?? '';
  }

  protected readonly classed = computed(() => this.cells().some((c) => c.kind !== UNCLASSED));
  protected readonly unread = computed(() => this.cells().length < this.columns() * this.lineCount());

  protected readonly says = computed(
    () =>
      `Potential map, ${this.cells().length} cells${this.classed() ? `: ${KINDS.map((k) => `${this.word(k.kind)} ${this.share(k.share)} %`).join(', ')}` : ', signs to be turned'}`,
  );

  protected readonly drawing = computed((): Drawing => {
    const e = this.store.working();
    const [x, y] = [seriesOf(e, 'sorted'), seriesOf(e, 'frequency')];
    const points = x.map((at, i) => ({ x: at, y: y[i] ?? NaN }));
    const classes = (e?.params['classes'] ?? {}) as Readonly<Record<string, string>>;
    const limits = Object.values(classes).map(Number);
    return (inks) => ({
      type: 'scatter',
      data: {
        datasets: [
          {
            data: points,
            showLine: true,
            stepped: true,
            borderColor: inks.ink,
            borderWidth: 1.5,
            pointRadius: 2,
            backgroundColor: inks.ink,
          },
          ...limits.map((at) => ({
            data: [
              { x: at, y: 0 },
              { x: at, y: 100 },
            ],
            showLine: true,
            borderColor: inks.soft,
            borderDash: [4, 4],
            borderWidth: 1,
            pointRadius: 0,
          })),
        ],
      },
      options: { scales: { x: axis('Potential against CSE, mV'), y: axis('Cumulative, %', { min: 0, max: 100 }) } },
    });
  });
}

interface Stretch {
  readonly from: readonly [number, number];
  readonly to: readonly [number, number];
}

const at = ([x, y]: readonly [number, number]): string => `${(PAD + x * CELL).toFixed(1)} ${(PAD + y * CELL).toFixed(1)}`;

/** The stretches of a ring, without those that only run along the edge of the grid. */
function inner(ring: readonly [number, number][], n: number, m: number): Stretch[] {
  const edge = ([x, y]: readonly [number, number]): boolean => x <= 0.001 || y <= 0.001 || x >= n - 0.001 || y >= m - 0.001;
  return ring.slice(1).flatMap((to, i) => (edge(ring[i]!) && edge(to) ? [] : [{ from: ring[i]!, to }]));
}

/** Cells that were not read, from the mean of the neighbours that were, outwards until none is left. */
function fill(grid: readonly number[], n: number): number[] {
  let now = [...grid];
  const mean = now.filter((v) => !Number.isNaN(v)).reduce((sum, v, _i, all) => sum + v / all.length, 0);
  for (let round = 0; round < 8 && now.some(Number.isNaN); round++) {
    const before = now;
    now = before.map((v, i) => {
      if (!Number.isNaN(v)) return v;
      const near = [i % n > 0 ? i - 1 : -1, i % n < n - 1 ? i + 1 : -1, i - n, i + n]
        .map((k) => before[k])
        .filter((k): k is number => k !== undefined && !Number.isNaN(k));
      return near.length === 0 ? NaN : near.reduce((sum, k) => sum + k, 0) / near.length;
    });
  }
  return now.map((v) => (Number.isNaN(v) ? mean : v));
}
