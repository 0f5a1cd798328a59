import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { unitLabel, type PickField, type RowsField } from '@keen-mortar/core';
import { stratify, tree } from 'd3-hierarchy';
import { keyedAt, rowsAt, valueAt } from '../form/inputs';
import { ComputationStore } from '../computation.store';
import { closeTexts, wordsOf, fieldOf } from '../drawn';

const LEVEL = 62;
const WIDE = 112;

interface Box {
  readonly place: string;
  readonly x: number;
  readonly y: number;
  readonly label: string;
  readonly mass: string;
  readonly kind: 'bulk' | 'cut' | 'test' | 'kept';
}

/** The bulk halved and halved again: which split feeds which test, and which are kept. */
@Component({
  selector: 'km-tree',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (boxes().length > 0) {
      <div class="wide" role="region" tabindex="0" aria-label="Tree of splits">
        <svg
          [attr.width]="width()"
          [attr.height]="height()"
          [attr.viewBox]="'0 0 ' + width() + ' ' + height()"
          role="img"
          [attr.aria-label]="says()"
        >
          @for (l of lines(); track l) {
            <path [attr.d]="l" fill="none" stroke="var(--rule)" stroke-width="1.5" />
          }
          @for (b of boxes(); track b.place) {
            <g [attr.data-split]="b.place || 'bulk'" [attr.data-kind]="b.kind">
              @if (b.kind === 'test' || b.kind === 'kept') {
                <rect
                  [attr.x]="b.x - 49"
                  [attr.y]="b.y - 4"
                  width="98"
                  height="40"
                  [attr.fill]="b.kind === 'test' ? 'var(--well)' : 'none'"
                  [attr.stroke]="b.kind === 'test' ? 'var(--ink)' : 'var(--rule)'"
                  [attr.stroke-dasharray]="b.kind === 'kept' ? '3 3' : null"
                />
              } @else {
                <circle [attr.cx]="b.x" [attr.cy]="b.y + 14" r="5" fill="var(--con)" stroke="var(--ink)" />
              }
              <text
                [attr.x]="b.kind === 'cut' || b.kind === 'bulk' ? b.x + 10 : b.x"
                [attr.y]="b.y + 12"
                [attr.text-anchor]="b.kind === 'cut' || b.kind === 'bulk' ? 'start' : 'middle'"
                font-size="12.5"
                fill="var(--ink)"
              >
                {{ b.label }}
              </text>
              <text
                [attr.x]="b.kind === 'cut' || b.kind === 'bulk' ? b.x + 10 : b.x"
                [attr.y]="b.y + 29"
                [attr.text-anchor]="b.kind === 'cut' || b.kind === 'bulk' ? 'start' : 'middle'"
                class="fig"
                font-size="13"
                fill="var(--soft)"
              >
                {{ b.mass }}
              </text>
            </g>
          }
        </svg>
      </div>
      <p class="soft small">L and R: which pan goes on is alternated. Dashed: kept, named, until all tests are accepted.</p>
    }
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    .wide {
      position: relative;
      overflow-x: auto;
    }
  `,
})
export class Tree {
  private readonly store = inject(ComputationStore);

  private readonly leaves = computed(() => {
    const e = this.store.working();
    const unit = unitLabel(e?.results.find((r) => r.id === 'masses')?.unit ?? '1');
    const test = fieldOf<RowsField>(this.store.method(), 'leaves').of['test'] as PickField;
    const rows = rowsAt(this.store.still(), 'leaves');
    const [masses, kept] = [closeTexts(e, 'masses'), closeTexts(e, 'keptMasses')].map((texts) => texts.map((text) => `${text} ${unit}`));
    return [
      ...wordsOf(e, 'splits').map((place, i) => {
        const id = valueAt(rows[i] ?? {}, 'test') as string | null;
        return {
          place,
          label: shorten((test.options as Record<string, string>)[id ?? ''] ?? ''),
          mass: masses![i] ?? '',
          kind: 'test' as const,
        };
      }),
      ...wordsOf(e, 'kept').map((place, i) => ({ place, label: `kept ${place}`, mass: kept![i] ?? '', kind: 'kept' as const })),
    ];
  });

  /** Every cut above what it feeds, nothing over each other. */
  protected readonly boxes = computed((): Box[] => {
    const leaves = new Map(this.leaves().map((leaf) => [leaf.place, leaf]));
    const places = new Set([...leaves.keys()].flatMap((place) => Array.from({ length: place.length + 1 }, (_p, k) => place.slice(0, k))));
    if (leaves.size === 0) return [];
    const root = stratify<string>()
      .id((place) => `.${place}`)
      .parentId((place) => (place === '' ? null : `.${place.slice(0, -1)}`))([...places].sort());
    const drawn = tree<string>().nodeSize([WIDE, LEVEL])(root).descendants();
    const left = Math.min(...drawn.map(({ x }) => x)) - WIDE / 2;
    return drawn.map(({ data: place, x, y }): Box => ({
      ...(leaves.get(place) ?? {
        place,
        label: place === '' ? 'bulk' : place,
        mass: place === '' ? this.bulk() : '',
        kind: place === '' ? 'bulk' : 'cut',
      }),
      x: x - left,
      y: y + 8,
    }));
  });

  private readonly bulk = computed(() => {
    const keyed = keyedAt(this.store.still(), 'bulk');
    return keyed ? `${keyed.text} ${unitLabel(keyed.unit)}` : '';
  });

  protected readonly lines = computed(() => {
    const at = new Map(this.boxes().map((b) => [b.place, b]));
    return this.boxes().flatMap((b) => {
      const parent = b.place === '' ? undefined : at.get(b.place.slice(0, -1));
      return parent ? [`M${parent.x} ${parent.y + 14}V${b.y - 16}H${b.x}V${b.y + (b.kind === 'cut' ? 10 : -4)}`] : [];
    });
  });
  protected readonly width = computed(() => Math.max(...this.boxes().map((b) => b.x)) + WIDE);
  protected readonly height = computed(() => Math.max(...this.boxes().map((b) => b.y)) + 44);
  protected readonly says = computed(() =>
    this.leaves()
      .map((l) => `${l.label} from split ${l.place}, ${l.mass}`)
      .join('; '),
  );
}

const shorten = (label: string): string => (label.length > 15 ? `${label.slice(0, 14)}…` : label);
