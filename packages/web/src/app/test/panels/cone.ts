import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { answerTexts, fuse, type PickField, type RowsField } from '@keen-mortar/core';
import { ButtonDirective } from 'primeng/button';
import { Clock } from '../../device/clock';
import { FuseBar } from '../../ui/fuse';
import { elapsed, zonedTime } from '../../parts/when';
import { rowsAt, valueAt } from '../form/inputs';
import { ComputationStore } from '../computation.store';
import { ConeLook } from './cone-look';
import { figureOf, wordsOf, fieldOf } from '../drawn';

const TICK = 1000;

/** The cone adviser: lift, look, press what the sand did; the log says where it stands and what is next. */
@Component({
  selector: 'km-cone',
  imports: [ButtonDirective, ConeLook, FuseBar],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3 id="what-it-did">Lifted now: {{ asks.toLowerCase() }}</h3>
    <div class="looks" role="group" aria-labelledby="what-it-did">
      @for (l of looks; track l[0]) {
        <button type="button" pButton severity="secondary" [attr.data-look]="l[0]" (click)="tried(l[0])">
          <km-cone-look [look]="l[0]" />{{ l[1] }}
        </button>
      }
    </div>
    @if (covered(); as f) {
      <km-fuse [fuse]="f" data-testid="covered" />
    }
    @if (log().length > 0) {
      <ol class="log" aria-label="Trials so far">
        @for (t of log(); track $index) {
          <li>
            <km-cone-look [look]="t.look" /><span class="fig small">{{ t.at }}</span>
            <span class="small" [class.ssd]="t.ssd">{{ t.says }}</span>
          </li>
        }
      </ol>
    }
  `,
  styleUrl: './panel.css',
  styles: `
    .looks {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(104px, 1fr));
      gap: 6px;
    }
    button {
      border: 1px solid var(--rule);
      background: var(--well);
      padding: 6px;
      min-height: 96px;
      cursor: pointer;
      font-size: 14px;
      display: grid;
      gap: 4px;
      align-content: end;
    }
    .log {
      display: flex;
      gap: 4px 14px;
      overflow-x: auto;
      padding: 4px 0;
    }
    li {
      flex: 0 0 112px;
      display: grid;
      align-content: start;
      line-height: 1.2;
    }
    .ssd {
      font-weight: 700;
      color: var(--within);
    }
  `,
})
export class Cone {
  private readonly store = inject(ComputationStore);
  private readonly trialRows = fieldOf<RowsField>(this.store.method(), 'trials');
  private readonly pick = this.trialRows.of['look'] as PickField;
  protected readonly asks = this.pick.label;
  protected readonly looks = Object.entries(this.pick.options as Record<string, string>);
  private readonly clock = inject(Clock);
  private readonly now = this.clock.ticking(TICK);
  private readonly trials = computed(() => rowsAt(this.store.inputs(), 'trials'));

  protected readonly log = computed(() => {
    const e = this.store.evaluation();
    const field = this.store.method()!.results['log']!;
    const states = wordsOf(e, 'log');
    const r = e?.results.find((result) => result.id === 'log');
    const texts = r ? answerTexts(field, r) : [];
    return this.trials().flatMap((row, i) => {
      const [at, look] = [valueAt(row, 'at') as string | null, valueAt(row, 'look') as string | null];
      if (at === null || look === null) return [];
      return [{ look, at: zonedTime(at), says: texts[i] ?? '', ssd: states[i] === 'ssd' }];
    });
  });

  /** How long the wetted sand has to stay covered yet; nothing once the time is over. */
  protected readonly covered = computed(() => {
    const minutes = figureOf(this.store.evaluation(), 'wait');
    const last = this.trials().at(-1);
    const at = last ? Date.parse((valueAt(last, 'at') as string | null) ?? '') : NaN;
    // A trial that was noted since the last tick moves the clock too.
    const now = Math.max(this.now(), at);
    if (minutes === null || Number.isNaN(at) || now - at > minutes * 60_000) return null;
    const window = {
      id: 'covered',
      label: `Covered, taking up water, for ${elapsed(minutes * 60_000)}`,
      done: 'Ready for the cone',
      starts: 'test.started',
      must: 'test.finished',
      mostSeconds: minutes * 60,
      then: 'try the cone again',
    } as const;
    return fuse(window, { 'test.started': at }, now);
  });

  protected tried(look: string): void {
    this.store.addRow('trials', { at: this.clock.iso(), look });
  }
}
