import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { NextTurn, Picture, Side, VerdictState } from '@keen-mortar/core';
import { Pictogram } from '../ui/pictogram';
import { VerdictShape } from '../ui/verdict-shape';

/** A test of the run, as it came out. */
export interface Made {
  readonly id: string;
  readonly text: string;
  readonly state: VerdictState;
  readonly side: Side | undefined;
  readonly marked: boolean;
  readonly at: string;
}

const NOW: Readonly<Record<NextTurn['as'], string>> = { repeat: 'repeat now', check: 'check now', third: 'third test now' };

/** What was made, what is asked for now, and what either outcome of it would mean, drawn as the way that it is. */
@Component({
  selector: 'km-path',
  imports: [Pictogram, VerdictShape],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ol>
      @for (m of made(); track m.id) {
        <li class="made">
          <km-verdict-shape [state]="m.state" [side]="m.side" [marked]="m.marked" [size]="24" />
          <b class="fig">{{ m.text }}</b>&ngsp;
          <span class="soft small">{{ m.at }}</span>
        </li>
      }
      @if (next(); as n) {
        <li class="now">
          <km-pic [name]="picture()" [size]="34" />
          <b>{{ words[n.as] }}</b>&ngsp;
          <span class="small">another portion, same sample</span>
        </li>
        <li class="fork">
          <svg viewBox="0 0 40 80" preserveAspectRatio="none" aria-hidden="true">
            <path d="M0 40H12C24 40 20 18 40 18M12 40C24 40 20 62 40 62" />
          </svg>
          <p><km-verdict-shape state="within" [size]="18" /> {{ n.within }}</p>
          <p><km-verdict-shape state="out" [side]="side()" [size]="18" /> {{ n.out }}</p>
        </li>
      } @else if (end(); as e) {
        <li class="end" [class.out]="fails()">{{ e }}</li>
      }
    </ol>
  `,
  styles: `
    :host {
      display: block;
      overflow-x: auto;
    }
    ol {
      display: flex;
      align-items: center;
      list-style: none;
      margin: 0;
      padding: 0;
      min-width: min-content;
    }
    li {
      position: relative;
      display: grid;
      justify-items: center;
      text-align: center;
      line-height: 1.2;
    }
    /* The way between two of them. */
    .made,
    .now {
      flex: 0 0 auto;
      padding-right: 56px;
    }
    .made::after,
    .now::after {
      content: '';
      position: absolute;
      right: 8px;
      width: 40px;
      top: 17px;
      border-top: 2px solid var(--rule);
    }
    .now::after {
      display: none;
    }
    .now {
      color: var(--now);
      max-width: 190px;
      padding-right: 10px;
    }
    .now .small {
      color: var(--ink);
    }
    .fork {
      flex: 1 1 300px;
      grid-template-columns: 40px minmax(190px, 1fr);
      grid-template-rows: 1fr 1fr;
      gap: 8px 8px;
      justify-items: stretch;
      align-items: center;
      text-align: left;
    }
    svg {
      grid-row: 1 / -1;
      width: 40px;
      height: 100%;
      min-height: 64px;
    }
    path {
      fill: none;
      stroke: var(--rule);
      stroke-width: 2;
      vector-effect: non-scaling-stroke;
    }
    p {
      display: flex;
      gap: 8px;
      align-items: center;
      font-size: 15px;
    }
    .end {
      flex: 1 1 220px;
      justify-items: start;
      text-align: left;
      font-weight: 700;
    }
    .end.out {
      color: var(--out);
    }
    @media (max-width: 760px) {
      .made,
      .now {
        padding-right: 30px;
      }
      .made::after {
        width: 18px;
        right: 6px;
      }
      ol {
        flex-wrap: wrap;
        gap: 10px 0;
        min-width: 0;
      }
    }
  `,
})
export class Path {
  readonly made = input.required<readonly Made[]>();
  readonly picture = input.required<Picture>();
  readonly next = input<NextTurn | null>(null);
  readonly side = input<Side | undefined>();
  /** Where nothing more is asked for: what they say together. */
  readonly end = input<string | null>(null);
  readonly fails = input(false);
  protected readonly words = NOW;
}
