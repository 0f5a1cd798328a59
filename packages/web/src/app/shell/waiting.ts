import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { methodById } from '@keen-mortar/core';
import { ButtonDirective } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import type { Command } from '../device/device-db';
import { Outbox } from '../device/outbox';
import { Notice } from '../ui/notice';

const SAYS: Readonly<Record<Command['kind'], string>> = {
  event: 'What happened to a sample',
  test: 'A test',
  keep: 'Readings',
};

const says = (command: Command): string => {
  const method = typeof command.body['method'] === 'string' ? methodById(command.body['method'])?.title : undefined;
  return method ? `${SAYS[command.kind]}: ${method.toLowerCase()}` : SAYS[command.kind];
};

/** What waits to be sent and what was set aside, above the shelf: on every place, whichever sheet it came from. */
@Component({
  selector: 'km-waiting',
  imports: [ButtonDirective, Dialog, Notice, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (outbox.trouble(); as trouble) {
      <km-notice data-testid="not-stored">{{ trouble }}</km-notice>
    }
    @if (outbox.away() && waits() > 0) {
      <p class="line" role="status" data-testid="waits">
        {{ waits() === 1 ? 'One thing waits' : waits() + ' things wait' }} for the server. It is safe on this device and goes by itself.
      </p>
    }
    @if (aside().length > 0) {
      <p class="line aside" role="status">
        <b>{{ aside().length === 1 ? 'One thing was refused' : aside().length + ' things were refused' }}</b> and set aside.
        <button pButton type="button" severity="secondary" data-testid="look-aside" (click)="looking.set(true)">Look at it</button>
      </p>
    }
    <p-dialog
      header="Set aside"
      [visible]="looking()"
      (visibleChange)="looking.set($event)"
      [modal]="true"
      [draggable]="false"
      [dismissableMask]="true"
    >
      <ul>
        @for (a of aside(); track a.id) {
          <li [attr.data-aside]="a.id">
            <b>{{ a.says }}</b>
            <span>{{ a.problem.detail }}</span>
            @for (e of a.problem.errors ?? []; track e.path) {
              <span class="soft small">{{ e.message }}</span>
            }
            <span class="acts">
              <a pButton severity="secondary" [routerLink]="['/samples', a.sampleId]" (click)="looking.set(false)">Open its sheet</a>
              <button pButton severity="secondary" type="button" (click)="outbox.tryAgain(a.id)">Send it again</button>
              <button pButton severity="secondary" type="button" (click)="outbox.dismiss(a.id)">Not needed any more</button>
            </span>
          </li>
        } @empty {
          <li>Nothing is set aside any more.</li>
        }
      </ul>
    </p-dialog>
  `,
  styles: `
    .line {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px 10px;
      padding: 4px 16px;
      background: var(--deep-wash);
      border-top: 1px solid var(--rule);
    }
    .aside {
      background: var(--out-wash);
    }
    .aside button {
      margin-left: auto;
    }
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
export class Waiting {
  protected readonly outbox = inject(Outbox);
  protected readonly looking = signal(false);
  protected readonly waits = computed(() => this.outbox.commands().length);
  protected readonly aside = computed(() =>
    this.outbox.aside().map(({ id, command, problem }) => ({ id, problem, sampleId: command.sampleId, says: says(command) })),
  );
}
