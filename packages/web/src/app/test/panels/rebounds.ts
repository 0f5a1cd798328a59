import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { keyedAt, rowsAt, valueAt } from '../form/inputs';
import { ComputationStore } from '../computation.store';
import { textsOf, wordsOf } from '../drawn';

const ACROSS = 4;
const SIDE = 74;

interface Impact {
  readonly x: number;
  readonly y: number;
  readonly text: string;
  readonly name: string;
  readonly out: boolean;
  readonly number: number;
}

/** Impacts as they lie on the grid of an area, or areas of a structure: what does not count is struck through. */
@Component({
  selector: 'km-rebounds',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (impacts().length > 0) {
      <svg [attr.viewBox]="'0 0 ' + across * side + ' ' + height()" role="img" [attr.aria-label]="says()">
        @for (i of impacts(); track i.number) {
          <g [attr.data-impact]="i.number" [attr.data-out]="i.out">
            <circle
              [attr.cx]="i.x"
              [attr.cy]="i.y"
              r="25"
              [attr.fill]="i.out ? 'none' : 'var(--well)'"
              [attr.stroke]="i.out ? 'var(--now)' : 'var(--ink)'"
              [attr.stroke-width]="i.out ? 2.5 : 1.2"
              [attr.stroke-dasharray]="i.out ? '4 3' : null"
            />
            <text
              [attr.x]="i.x"
              [attr.y]="i.y + 6"
              text-anchor="middle"
              class="fig"
              font-size="17"
              [attr.fill]="i.out ? 'var(--now)' : 'var(--ink)'"
            >
              {{ i.text }}
            </text>
            @if (i.out) {
              <path [attr.d]="'M' + (i.x - 18) + ' ' + (i.y + 18) + 'l36 -36'" stroke="var(--now)" stroke-width="2.5" />
            }
            <text [attr.x]="i.x" [attr.y]="i.y + 38" text-anchor="middle" font-size="12.5" fill="var(--soft)">{{ i.name }}</text>
          </g>
        }
      </svg>
      <p class="soft small">{{ says() }}</p>
    }
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    svg {
      display: block;
      width: 100%;
      max-width: 420px;
    }
  `,
})
export class Rebounds {
  private readonly store = inject(ComputationStore);
  protected readonly across = ACROSS;
  protected readonly side = SIDE;

  /** Impacts of one area, or the mean numbers of several. */
  private readonly rows = computed(() => (this.store.methodId() === 'rebound' ? 'readings' : 'areas'));
  protected readonly impacts = computed((): Impact[] => {
    const e = this.store.working();
    const out = new Set([...wordsOf(e, 'discarded'), ...wordsOf(e, 'far'), ...wordsOf(e, 'standOut')]);
    return rowsAt(this.store.still(), this.rows()).flatMap((row, i) => {
      const text = (keyedAt(row, 'value') ?? keyedAt(row, 'number'))?.text ?? '';
      const name = (valueAt(row, 'area') as string | null)?.trim() || String(i + 1);
      if (text === '') return [];
      const [column, line] = [i % ACROSS, Math.floor(i / ACROSS)];
      // Impacts are named by what was read, areas by their names.
      const marked = out.has(this.rows() === 'readings' ? text : name);
      return [{ x: column * SIDE + SIDE / 2, y: line * (SIDE + 12) + 30, text, name, out: marked, number: i + 1 }];
    });
  });
  protected readonly height = computed(() => Math.ceil(this.impacts().length / ACROSS) * (SIDE + 12));
  protected readonly says = computed(() => {
    const out = this.impacts().filter((i) => i.out);
    const [m, e] = [this.store.method(), this.store.working()];
    const named = out.map((i) => `${i.name} (${i.text})`).join(', ');
    if (this.rows() === 'areas') {
      const mean = textsOf(m, e, 'mean')[0];
      return `${this.impacts().length} areas, ${out.length === 0 ? 'none stands out' : `standing out: ${named}`}${mean === undefined ? '' : `; mean ${mean}`}.`;
    }
    const [counted, number] = [textsOf(m, e, 'counted')[0], textsOf(m, e, 'number')[0]];
    const thrown = wordsOf(e, 'far').length > 0 ? 'far from the median' : 'thrown out, not counted';
    const apart = out.length === 0 ? 'none thrown out' : `${thrown}: ${named}`;
    return `${this.impacts().length} impacts, ${apart}${number === undefined ? '' : `; rebound number ${number} of the ${counted ?? this.impacts().length} that count`}.`;
  });
}
