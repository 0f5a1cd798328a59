import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { marginWords, unitLabel, type ResultValue, type Verdict } from '@keen-mortar/core';
import { VERDICT_WORDS, VerdictShape } from '../ui/verdict-shape';

const WIDTH = 640;
const PAD = 14;

/** Where things lie on the line: positions only, nothing is computed from them. */
export interface Scale {
  readonly from: number;
  readonly to: number;
}

/** A round range around limits and value: both limits always on it, the value as far as it will go. */
export function scaleFor(lower: number | null, upper: number | null, value: number | null): Scale {
  const low = lower ?? upper ?? 0;
  const high = upper ?? lower ?? 1;
  const span = high > low ? high - low : Math.max(Math.abs(high) * 0.1, 0.1);
  const room = span * 1.1;
  // Between two limits a value far off is held at the edge, so that the zone stays wide enough to read.
  const far = lower === null || upper === null ? Infinity : span * 4;
  const from = Math.min(low - room, value === null ? Infinity : Math.max(value - span * 0.3, low - far));
  const to = Math.max(high + room, value === null ? -Infinity : Math.min(value + span * 0.3, high + far));
  return { from: low >= 0 ? Math.max(0, from) : from, to };
}

const numberOr = (text: string | undefined | null): number | null => (text === undefined || text === null ? null : Number(text));

/** One horizontal scale a result: allowed zone, the fringe within one standard deviation of its ends, the result on its pin. */
@Component({
  selector: 'km-spec-band',
  imports: [VerdictShape],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="says">
      @if (showLabel()) {
        <span class="what">{{ result().label }}</span>
      }
      <span class="fig value" data-testid="reported">{{ shown() }}</span>
      <km-verdict-shape [state]="verdict().state" [side]="verdict().side" [marked]="verdict().validity === 'marked'" [size]="24" />
      <span [class]="'words ' + verdict().state">{{ words() }}</span>
    </div>
    @if (verdict().limit) {
      <div class="line">
        <svg [attr.viewBox]="'0 0 ' + width + ' 56'" preserveAspectRatio="none" aria-hidden="true">
          <line [attr.x1]="pad" [attr.x2]="width - pad" y1="26" y2="26" stroke="var(--rule)" vector-effect="non-scaling-stroke" />
          <rect [attr.x]="zone().x" y="16" [attr.width]="zone().w" height="20" fill="var(--zone)" />
          @for (x of fringe(); track x) {
            <path [attr.d]="'M' + x + ' 16v20'" stroke="var(--within)" stroke-width="1.2" vector-effect="non-scaling-stroke" />
          }
          @for (end of ends(); track end.x) {
            <path [attr.d]="'M' + end.x + ' 11v30'" stroke="var(--within)" stroke-width="3" vector-effect="non-scaling-stroke" />
          }
          @if (pin(); as x) {
            <path [attr.d]="'M' + x + ' 6v34'" stroke="var(--ink)" stroke-width="3" vector-effect="non-scaling-stroke" />
          }
        </svg>
        @if (pin(); as x) {
          <km-verdict-shape
            class="pin"
            aria-hidden="true"
            [style.left.%]="(x / width) * 100"
            [state]="verdict().state"
            [side]="verdict().side"
            [size]="20"
          />
        }
      </div>
      <div class="limits fig">
        @for (end of ends(); track end.x) {
          <span [style.left.%]="(end.x / width) * 100">{{ end.text }}</span>
        }
        <span class="unit">{{ unit() }}</span>
      </div>
    }
  `,
  styles: `
    :host {
      display: block;
    }
    .says {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 2px 12px;
    }
    .value {
      font-size: 38px;
      font-weight: 700;
      letter-spacing: -0.03em;
      line-height: 1.1;
    }
    .what {
      flex: 1 0 100%;
      font-size: 15px;
      font-weight: 720;
    }
    .words {
      font-weight: 700;
      font-size: 16px;
    }
    .line {
      position: relative;
      padding-top: 4px;
    }
    .pin {
      position: absolute;
      top: -4px;
      transform: translateX(-50%);
    }
    svg {
      display: block;
      width: 100%;
      height: 48px;
    }
    .limits {
      position: relative;
      height: 20px;
      font-size: 13.5px;
      color: var(--soft);
    }
    .limits span {
      position: absolute;
      transform: translateX(-50%);
      white-space: nowrap;
    }
    .limits .unit {
      right: 0;
      transform: none;
    }
  `,
})
export class SpecBand {
  readonly verdict = input.required<Verdict>();
  readonly result = input.required<ResultValue>();
  readonly showLabel = input(false);
  protected readonly width = WIDTH;
  protected readonly pad = PAD;

  protected readonly unit = computed(() => unitLabel(this.verdict().unit ?? this.result().unit));
  protected readonly shown = computed(() => {
    const { reported, unit, state } = this.result();
    if (state === 'open') return '…';
    if (state === 'void' || reported === null) return '';
    return `${reported} ${unitLabel(unit)}`.trim();
  });
  protected readonly words = computed(() => {
    const v = this.verdict();
    const margin = marginWords(v);
    return margin ? `${VERDICT_WORDS[v.state]}, ${margin}` : VERDICT_WORDS[v.state];
  });

  private readonly scale = computed(() =>
    scaleFor(numberOr(this.verdict().lower), numberOr(this.verdict().upper), numberOr(this.verdict().compared)),
  );
  private readonly at = computed(() => {
    const { from, to } = this.scale();
    return (value: number): number => PAD + (Math.min(Math.max((value - from) / (to - from), 0), 1) || 0) * (WIDTH - 2 * PAD);
  });
  protected readonly ends = computed(() =>
    [this.verdict().lower, this.verdict().upper].flatMap((text) => (text === undefined ? [] : [{ text, x: this.at()(Number(text)) }])),
  );
  protected readonly zone = computed(() => {
    const { lower, upper } = this.verdict();
    const x = lower === undefined ? PAD : this.at()(Number(lower));
    return { x, w: (upper === undefined ? WIDTH - PAD : this.at()(Number(upper))) - x };
  });
  protected readonly fringe = computed(() => {
    const { lower, upper, sigma } = this.verdict();
    if (sigma === undefined) return [];
    const steps = [0.25, 0.5, 0.75, 1].map((part) => part * Number(sigma));
    const inside = (value: number): boolean =>
      (lower === undefined || value >= Number(lower)) && (upper === undefined || value <= Number(upper));
    const lines = [
      ...(lower === undefined ? [] : steps.map((s) => Number(lower) + s)),
      ...(upper === undefined ? [] : steps.map((s) => Number(upper) - s)),
    ];
    return lines.filter(inside).map((value) => this.at()(value));
  });
  protected readonly pin = computed(() => {
    const value = numberOr(this.verdict().compared);
    return value === null ? null : this.at()(value);
  });
}
