import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { dayIn, isStale, type SourceSheet } from '@keen-mortar/contract';
import { USUAL_LEAVES } from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { newId } from '../../device/ids';
import { Pressed } from '../../device/pressed';
import { Write } from '../../device/write';
import { longDay } from '../../parts/when';
import { WriteTold } from '../../parts/write-told';
import { initialed, nameOf, session } from '../../state/session';
import { LEAST_REASON, Reason } from '../../test/reason';

/** The mixes that stand on a source: what each took of it, and whether somebody has looked since something else counts. */
@Component({
  selector: 'km-stands-on',
  imports: [RouterLink, ButtonDirective, Reason, WriteTold],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>
      Mixes that stand on it
      @if (stale() > 0) {
        <b class="needs">{{ stale() }} stale</b>
      }
    </h2>
    <ul>
      @for (u of mixes(); track u.mixId) {
        <li [attr.data-mix]="u.code" [class.stale]="u.stale">
          <a [routerLink]="['/mixes', u.mixId]"
            ><b>{{ u.code }}</b> {{ u.name }}, rev. {{ u.revision }}</a
          >
          <span class="soft small">gravity {{ u.took }}</span>
          @if (u.stale) {
            <span class="needs small">stale: {{ u.stale }} counts now</span>
            @if (u.also) {
              <span class="small">Look at {{ u.also }} too.</span>
            }
            @if (leaving() === u.mixId) {
              <km-write-told [write]="write" />
              <km-reason
                label="Why it stays as it is"
                inputId="leave-why"
                [usual]="reasons"
                [value]="why()"
                (given)="why.set($event)"
                (done)="leave(u.mixId)"
              />
              <span class="row">
                <button pButton type="button" data-testid="leaves" [disabled]="write.busy() || tooShort()" (click)="leave(u.mixId)">
                  Leave it
                </button>
                <button pButton severity="secondary" type="button" (click)="leaving.set(null)">Back</button>
              </span>
            } @else {
              <span class="row">
                <a pButton severity="secondary" [routerLink]="['/mixes', u.mixId, 'revise']">Revise</a>
                <button pButton [text]="true" class="link" type="button" (click)="leaving.set(u.mixId); why.set('')">Leave as it is</button>
              </span>
            }
          } @else if (u.looked) {
            <span class="soft small">{{ u.looked }}</span>
          }
        </li>
      } @empty {
        <li class="soft">None.</li>
      }
    </ul>
  `,
  styleUrl: './stands-on.css',
})
export class StandsOn {
  readonly sheet = input.required<SourceSheet>();
  readonly zone = input.required<string>();
  readonly changed = output();
  private readonly store = inject(Store);
  private readonly person = this.store.selectSignal(session.selectPersonId);
  private readonly nameOf = this.store.selectSignal(nameOf);
  protected readonly write = new Write<unknown>();
  private readonly pressed = new Pressed(() => newId());
  protected readonly reasons = USUAL_LEAVES;
  protected readonly leaving = signal<string | null>(null);
  protected readonly why = signal('');
  protected readonly tooShort = computed(() => this.why().trim().length < LEAST_REASON);

  protected readonly mixes = computed(() => {
    const { gravity, usedBy } = this.sheet();
    return usedBy.map((u) => {
      const look = u.looks.find((l) => l.testId === gravity?.test.id);
      const also = [
        'the air-free density',
        ...(u.correction === null ? [] : [`the aggregate correction factor of ${u.correction} %`]),
        ...(u.trial === null ? [] : [`trial batch ${u.trial.code} of ${this.day(u.trial.at)}`]),
      ];
      return {
        ...u,
        took: u.sgTest ? `${u.sg} by ${u.sgTest.code}` : `${u.sg} as keyed`,
        stale: isStale(u, gravity, u.looks) ? gravity!.text : null,
        also: also.join(', '),
        looked: look ? `left as it is by ${initialed(this.nameOf()(look.by))}, ${this.day(look.at)}: ${look.why}` : '',
      };
    });
  });
  protected readonly stale = computed(() => this.mixes().filter((u) => u.stale !== null).length);

  private day(iso: string): string {
    return longDay(dayIn(this.zone(), iso));
  }

  protected leave(mixId: string): void {
    const [by, test] = [this.person(), this.sheet().gravity?.test];
    if (by === null || !test || this.tooShort() || this.write.busy()) return;
    const said = { testId: test.id, why: this.why().trim() };
    const id = this.pressed.with([mixId, said]);
    const body = { id, by, ...said };
    this.write.send(
      { id, itemId: mixId, opens: `/sources/${this.sheet().item.id}`, kind: 'look', path: `/mixes/${mixId}/looks`, body },
      () => {
        this.write.busy.set(false);
        this.leaving.set(null);
        this.changed.emit();
      },
    );
  }
}
