import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { lastOf, type Sheet } from '@keen-mortar/contract';
import { UNANSWERED, USUAL_ON_SITE } from '@keen-mortar/core';
import { ButtonDirective } from 'primeng/button';
import { Clock } from '../../device/clock';
import { newId } from '../../device/ids';
import { LEAST_REASON, Reason } from '../../test/reason';
import type { Sent } from './changes';

/** What was kept of an item although it is unlikely, and nobody has said why: it is kept once more as it stands, with the reason. */
@Component({
  selector: 'km-unanswered',
  imports: [Reason, ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (open().length > 0) {
      <km-reason
        label="To be answered: why is it so?"
        inputId="answer"
        [usual]="usual"
        [value]="why()"
        (given)="why.set($event)"
        (done)="answer()"
      />
      <button pButton type="button" data-testid="answer" [disabled]="!ready()" (click)="answer()">Keep the reason</button>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      align-items: end;
      gap: 8px 12px;
    }
    km-reason {
      flex: 1 1 320px;
    }
  `,
})
export class Unanswered {
  private readonly clock = inject(Clock);
  readonly sheet = input.required<Pick<Sheet, 'item' | 'entries' | 'findings'>>();
  readonly busy = input(false);
  readonly answered = output<readonly Sent[]>();
  protected readonly usual = USUAL_ON_SITE;
  protected readonly why = signal('');
  protected readonly open = computed(() => {
    const { item, entries, findings } = this.sheet();
    const last = lastOf(entries);
    return findings.filter((f) => f.finding === UNANSWERED && f.subjectId === item.id).flatMap((f) => last.get(f.part) ?? []);
  });
  protected readonly ready = computed(() => !this.busy() && this.why().trim().length >= LEAST_REASON);

  protected answer(): void {
    if (!this.ready()) return;
    const [at, reason] = [this.clock.iso(), this.why().trim()];
    this.answered.emit(this.open().map(({ id, field, text, unit }) => ({ id: newId(), field, text, unit, at, supersedes: id, reason })));
    this.why.set('');
  }
}
