import { ChangeDetectionStrategy, Component, computed, inject, model } from '@angular/core';
import { RouterLink } from '@angular/router';
import { unitLabel, type UnitId } from '@keen-mortar/core/units';
import { ButtonDirective } from 'primeng/button';
import { Drawer } from 'primeng/drawer';
import type { Command } from '../device/device-db';
import { Outbox } from '../device/outbox';

const SAYS: Readonly<Record<Command['kind'], string>> = {
  event: 'What happened to a sample',
  test: 'A test',
  keep: 'Readings',
  item: 'Something new on record',
  entries: 'What is known of something',
  voiding: 'Something taken back',
  file: 'A photo or a paper',
  pour: 'A pour',
  load: 'A ticket',
  water: 'Water added on site',
  sample: 'A sample',
  equipment: 'Something of the kit',
  calibration: 'A calibration',
  'kit-finding': 'An instrument that was found wrong',
  mix: 'A mix',
  revision: 'A revision of a mix',
  specification: 'A specification',
  'own-copy': 'Own figures of a method',
  specimens: 'A set of specimens',
  certificate: 'A certificate of somebody',
  planned: 'When something is to be done',
  hours: 'Opening hours',
  report: 'A report',
  view: 'A way of looking at the ledger',
  'view-removal': 'A way of looking that was put away',
  meeting: 'What something must meet',
  acceptance: 'What counts of a source',
  look: 'Why a mix is left as it is',
  decision: 'Decision',
  'decision-withdrawal': 'Decision taken back',
};

interface Meant {
  readonly text: string | null;
  readonly unit: UnitId | null;
}

/** What was read and is not on record: beside what somebody else kept meanwhile. */
function meantBy({ body }: Command): string {
  const readings = (Array.isArray(body['readings']) ? body['readings'] : []) as readonly Meant[];
  return readings.flatMap(({ text, unit }) => (text === null ? [] : `${text} ${unit === null ? '' : unitLabel(unit)}`.trim())).join(', ');
}

/** What was refused for good: why, and what can be done with it. */
@Component({
  selector: 'km-set-aside',
  imports: [ButtonDirective, Drawer, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p-drawer ariaCloseLabel="Close" position="right" header="Set aside" [(visible)]="open" [style]="{ width: 'min(520px, 100vw)' }">
      <ul>
        @for (a of aside(); track a.id) {
          <li [attr.data-aside]="a.id">
            <b>{{ a.says }}</b>
            <span>{{ a.problem.detail }}</span>
            @if (a.meant !== '') {
              <span
                >What was to be kept: <b>{{ a.meant }}</b></span
              >
            }
            @for (e of a.problem.errors ?? []; track e.path) {
              <span class="soft small">{{ e.message }}</span>
            }
            <span class="acts">
              <a pButton severity="secondary" [routerLink]="a.opens" (click)="open.set(false)">Open its sheet</a>
              <button pButton severity="secondary" type="button" (click)="outbox.tryAgain(a.id)">Send it again</button>
              <button pButton severity="secondary" type="button" (click)="outbox.dismiss(a.id)">Not needed any more</button>
            </span>
          </li>
        } @empty {
          <li>Nothing is set aside any more.</li>
        }
      </ul>
    </p-drawer>
  `,
  styles: `
    ul {
      display: grid;
      gap: 14px;
      max-width: 620px;
    }
    li {
      display: grid;
      gap: 4px;
      border-top: 1px solid var(--hair);
      padding-top: 10px;
    }
    .acts {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      padding-top: 4px;
    }
  `,
})
export class SetAside {
  protected readonly outbox = inject(Outbox);
  readonly open = model.required<boolean>();
  protected readonly aside = computed(() =>
    this.outbox
      .aside()
      .map(({ id, command, problem }) => ({ id, problem, opens: command.opens, says: SAYS[command.kind], meant: meantBy(command) })),
  );
}
