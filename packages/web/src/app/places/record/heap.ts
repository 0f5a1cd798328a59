import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { Sheet } from '@keen-mortar/contract';
import { heapOf, ITEM_KINDS, methodById, pictureOf, RUN_LABELS, type Heaped, type PickField, type Picture } from '@keen-mortar/core';
import { stratify, tree } from 'd3-hierarchy';
import { Pictogram } from '../../ui/pictogram';
import { VerdictShape } from '../../ui/verdict-shape';

/** Room of a split, and from one to the next, px. */
const ROW = 160;
const STEP = 172;
const WIDE = 150;
const HEAP = 64;
const LEAST_HEAP = 26;
const MIDDLE = WIDE / 2;

interface Pile {
  readonly id: string;
  readonly code: string;
  readonly x: number;
  readonly y: number;
  /** How large it is drawn, px. */
  readonly size: number;
  readonly kg: string | null;
  readonly even: string;
  readonly says: string;
  readonly pictures: readonly Picture[];
  readonly short: string;
  readonly kept: boolean;
  readonly out: boolean;
}

/** From heap to test: a field sample and every portion that was cut from it, with what was weighed and what even cuts would have left. */
@Component({
  selector: 'km-heap',
  imports: [RouterLink, Pictogram, VerdictShape],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section aria-labelledby="heap-title" data-testid="heap">
      <h2 id="heap-title">From heap to test</h2>
      @if (heap().lost; as lost) {
        <p class="small" [class.out]="gained()" data-testid="lost">
          {{ gained() ? 'The splits weigh more than what they came of:' : 'Lost in the cuts:' }}
          <b class="fig">{{ gained() ? lost.slice(1) : lost }} kg</b>
        </p>
      }
      <div class="wide" role="region" tabindex="0" aria-label="From heap to test">
        <div class="drawn" [style.width.px]="width()" [style.height.px]="height()">
          <svg [attr.width]="width()" [attr.height]="height()" aria-hidden="true">
            @for (l of lines(); track l.d) {
              <path [attr.d]="l.d" [class.kept]="l.kept" />
            }
            @for (p of piles(); track p.id) {
              <path [attr.d]="mound(p)" class="mound" [class.kept]="p.kept" />
            }
          </svg>
          @for (p of piles(); track p.id; let first = $first) {
            <div class="pile" [style.left.px]="p.x" [style.top.px]="p.y + 48" [attr.data-split]="p.code">
              @if (first) {
                <b>{{ p.code }}</b>
              } @else {
                <a class="opens" [routerLink]="['/record', p.id]"
                  ><b>{{ p.code }}</b></a
                >
              }
              <span class="fig"
                >{{ p.kg ? p.kg + ' kg' : 'not weighed' }}
                @if (p.out) {
                  <km-verdict-shape state="out" [size]="15" />
                }
              </span>
              @if (p.even) {
                <span class="soft small">{{ p.even }}</span>
              }
              <span class="small" [class.soft]="p.kept">
                @for (name of p.pictures; track $index) {
                  <km-pic [name]="name" [size]="16" />
                }
                {{ p.says }}</span
              >
              @if (p.short) {
                <b class="needs small">{{ p.short }}</b>
              }
            </div>
          }
        </div>
      </div>
      <p class="soft small">{{ cutWith() }}Dashed: kept until all is accepted.</p>
    </section>
  `,
  styleUrl: './heap.css',
})
export class HeapTree {
  readonly sheet = input.required<Sheet>();
  private readonly all = computed(() => [
    { item: this.sheet().item, methods: this.sheet().tests.map((t) => t.method) },
    ...this.sheet().cut.filter(({ item }) => item.kind === 'portion'),
  ]);
  protected readonly heap = computed(() =>
    heapOf(
      this.all().map(({ item: { id, parentId, facts }, methods }) => ({
        id,
        parentId,
        facts: facts as Readonly<Record<string, unknown>>,
        methods,
      })),
    ),
  );
  protected readonly gained = computed(() => this.heap().lost?.startsWith('-') ?? false);
  /** How it was reduced, where that was said. */
  protected readonly cutWith = computed(() => {
    const ways = (ITEM_KINDS.portion.facts['way'] as PickField).options;
    const said = new Set(this.all().flatMap(({ item }) => ways[(item.facts as { way?: string }).way ?? ''] ?? []));
    return said.size === 0 ? '' : `Cut with ${[...said].join(', and with ')}. `;
  });
  protected readonly mostKg = computed(() => Math.max(...this.heap().splits.map((s) => Number(s.kg ?? 0)), 0.001));

  private readonly placed = computed(() => {
    const root = this.sheet().item.id;
    const drawn = tree<{ id: string; parentId: string | null }>()
      .nodeSize([ROW, STEP])
      .separation(() => 1)(
        stratify<{ id: string; parentId: string | null }>()
          .id((d) => d.id)
          .parentId((d) => (d.id === root ? null : d.parentId))(this.all().map(({ item }) => ({ id: item.id, parentId: item.parentId }))),
      )
      .descendants();
    const top = Math.min(...drawn.map(({ x }) => x));
    return new Map(drawn.map(({ data, x, y }) => [data.id, { x: y, y: x - top }]));
  });
  protected readonly piles = computed((): Pile[] => {
    const splits = new Map(this.heap().splits.map((s) => [s.id, s]));
    return this.all().map(({ item, methods }) => {
      const [at, split] = [this.placed().get(item.id)!, splits.get(item.id)!];
      const facts = item.facts as Readonly<Record<string, string | undefined>>;
      const purpose =
        methods.map((m) => methodById(m)?.short ?? methodById(m)?.title ?? m).join(', ') || RUN_LABELS[facts['run'] ?? ''] || '';
      const ends = !this.all().some((other) => other.item.parentId === item.id);
      const kept = ends && methods.length === 0 && facts['run'] === undefined && facts['place'] !== undefined;
      const whole = item.kind === 'field-sample' ? ITEM_KINDS[item.kind].label : '';
      return {
        id: item.id,
        code: item.code,
        ...at,
        size: LEAST_HEAP + (HEAP - LEAST_HEAP) * Math.cbrt(Number(split.kg ?? 0) / this.mostKg()),
        kg: split.kg,
        even: evenWords(split),
        says:
          whole ||
          (kept ? `kept: ${facts['place']}` : purpose || (facts['for'] ? `for ${facts['for']}` : ends ? 'nothing yet' : 'goes on')),
        pictures: methods.slice(0, 4).map((m) => pictureOf(m)),
        short: split.short ? `less than the ${split.short.least} kg at ${split.short.nominal}` : '',
        kept,
        out: item.worst === 'out',
      };
    });
  });
  protected readonly lines = computed(() => {
    const at = new Map(this.piles().map((p) => [p.id, p]));
    return this.all().flatMap(({ item }) => {
      const [to, from] = [at.get(item.id)!, item.parentId === null ? undefined : at.get(item.parentId)];
      if (!from || item.id === this.sheet().item.id) return [];
      const [x0, y0, x1, y1] = [from.x + MIDDLE + from.size / 2 + 4, from.y + 34, to.x + MIDDLE - to.size / 2 - 6, to.y + 34];
      const mid = (x0 + x1) / 2;
      return [{ d: `M${x0} ${y0}C${mid} ${y0} ${mid} ${y1} ${x1} ${y1}`, kept: to.kept }];
    });
  });
  protected readonly width = computed(() => Math.max(...this.piles().map((p) => p.x)) + WIDE);
  protected readonly height = computed(() => Math.max(...this.piles().map((p) => p.y)) + ROW + 20);

  /** A pile of that size, its foot where the line ends. */
  protected mound({ x, y, size }: Pile): string {
    const [left, foot, top] = [x + MIDDLE - size / 2, y + 46, y + 46 - size * 0.62];
    return `M${left} ${foot}Q${left + size * 0.34} ${top} ${x + MIDDLE} ${top}Q${left + size * 0.66} ${top} ${left + size} ${foot}Z`;
  }
}

const PARTS: Readonly<Record<number, string>> = { 1: 'half', 2: 'a quarter', 3: 'an eighth' };

/** What an even cut would have left, and how far two halves are apart. */
function evenWords({ even, cuts, apart }: Heaped): string {
  if (even === null || cuts === null) return '';
  const part = PARTS[cuts] ?? `1/${2 ** cuts}`;
  // Each of the two stays in one piece.
  return `${part} is ${even}${apart !== null && cuts === 1 ? `, halves ${apart} % apart` : ''}`
    .replaceAll(' ', '\u00a0')
    .replace(',\u00a0', ', ');
}
