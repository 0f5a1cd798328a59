import { HttpClient, HttpEventType } from '@angular/common/http';
import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal, viewChild } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { RecordTaken } from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { FileUpload, type FileUploadHandlerEvent } from 'primeng/fileupload';
import { ProgressBar } from 'primeng/progressbar';
import { Subscription } from 'rxjs';
import { problemOf } from '../../api/api';
import { SessionActions } from '../../state/session';
import { Notice } from '../../ui/notice';
import { Pictogram } from '../../ui/pictogram';

const MOST_BYTES = 2 ** 31;
const RECORD_TYPE = 'application/x-ndjson';

/** What people would count of a record, by its tables. */
const COUNTED: Readonly<Record<string, string>> = {
  item: 'things tested or sampled',
  test: 'tests',
  entry: 'readings and facts',
  mix: 'mixes',
  specification: 'specifications',
  equipment: 'instruments',
  calibration: 'calibrations',
  file: 'photos and papers',
  report: 'reports',
  person: 'people',
};

/** A whole record from another installation: looked at without a trace, then brought in as a whole or not at all. */
@Component({
  selector: 'km-bring-page',
  imports: [RouterLink, ButtonDirective, FileUpload, ProgressBar, Notice, Pictogram],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="place narrow">
      <header>
        <km-pic name="tray" [size]="38" />
        <h1>Bring in a record</h1>
      </header>
      <p>
        A file that another installation of this program gave in its ledger, under Export. All of it is brought in, with its people, its
        history and its papers, or nothing.
      </p>
      <p-fileupload
        mode="basic"
        chooseLabel="Choose the file"
        accept=".ndjson,application/x-ndjson"
        [chooseButtonProps]="{ severity: 'secondary' }"
        [auto]="true"
        [customUpload]="true"
        [disabled]="busy()"
        [maxFileSize]="most"
        invalidFileSizeMessageSummary="Too large: "
        invalidFileSizeMessageDetail="at most {0}."
        (uploadHandler)="take($event)"
      />
      @if (file(); as f) {
        <p>
          <b>{{ f.name }}</b> <span class="soft fig">{{ size() }}</span>
        </p>
      }
      @if (busy()) {
        <section aria-label="Progress">
          <p-progressbar [value]="sent()" [ariaLabel]="says()" />
          <div class="row">
            <span role="status">{{ says() }}</span>
            <button pButton type="button" severity="secondary" (click)="stop()">Stop it</button>
          </div>
        </section>
      }
      @if (stopped()) {
        <km-notice kind="info">Stopped: nothing was brought in.</km-notice>
      }
      @if (problem(); as p) {
        <km-notice
          ><b>{{ p.detail }}</b>
          @for (e of p.errors ?? []; track e.path) {
            <p>{{ e.path }}: {{ e.message }}</p>
          }
        </km-notice>
      }
      @if (looked(); as l) {
        <km-notice kind="info"
          ><b>{{ l.project.name }} ({{ l.project.code }}): all of it is right.</b>
          {{ l.dry ? 'Nothing was brought in yet.' : 'It is here now.' }}</km-notice
        >
        <dl class="figures">
          @for (c of counts(); track c.label) {
            <div>
              <dt>{{ c.label }}</dt>
              <dd class="fig">{{ c.count }}</dd>
            </div>
          }
        </dl>
        @if (l.dry && !busy()) {
          <button pButton type="button" data-testid="bring" (click)="send(false)">Bring it in</button>
        }
        @if (!l.dry) {
          <a pButton data-testid="open" routerLink="/who">Open it</a>
        }
      }
      <p><a pButton [text]="true" class="link" routerLink="/pours">Back</a></p>
    </div>
  `,
  styles: `
    .narrow {
      display: grid;
      gap: 10px;
      max-width: 760px;
      align-content: start;
    }
    .row {
      display: flex;
      align-items: center;
      justify-content: space-between;
      gap: 12px;
      padding-top: 8px;
    }
  `,
})
export class BringPage {
  private readonly http = inject(HttpClient);
  private readonly store = inject(Store);
  private readonly upload = viewChild(FileUpload);
  protected readonly most = MOST_BYTES;
  protected readonly file = signal<File | null>(null);
  protected readonly size = computed(() => `${((this.file()?.size ?? 0) / 1_000_000).toFixed(1)} MB`);
  protected readonly busy = signal(false);
  protected readonly stopped = signal(false);
  private readonly dry = signal(true);
  /** Of the file, per cent: the server takes it up as it comes. */
  protected readonly sent = signal(0);
  protected readonly says = computed(() =>
    this.sent() < 100
      ? `${this.dry() ? 'Looking at it' : 'Bringing it in'}: ${this.sent()} %`
      : 'Looking whether all of it fits together …',
  );
  protected readonly looked = signal<RecordTaken | null>(null);
  protected readonly problem = signal<Problem | null>(null);
  protected readonly counts = computed(() =>
    Object.entries(COUNTED).flatMap(([table, label]) => {
      const count = this.looked()?.tables[table] ?? 0;
      return count === 0 ? [] : [{ label, count }];
    }),
  );
  private going = new Subscription();

  constructor() {
    inject(DestroyRef).onDestroy(() => this.going.unsubscribe());
  }

  protected take({ files }: FileUploadHandlerEvent): void {
    this.upload()?.clear();
    this.file.set(files[0] ?? null);
    if (files[0]) this.send(true);
  }

  protected stop(): void {
    this.going.unsubscribe();
    this.busy.set(false);
    this.stopped.set(true);
  }

  protected send(dry: boolean): void {
    const file = this.file();
    if (!file) return;
    this.dry.set(dry);
    this.busy.set(true);
    this.sent.set(0);
    this.stopped.set(false);
    this.problem.set(null);
    if (dry) this.looked.set(null);
    this.going = this.http
      .post<RecordTaken>('/api/v1/records', file, {
        params: { dry },
        headers: { 'content-type': RECORD_TYPE },
        observe: 'events',
        reportProgress: true,
      })
      .subscribe({
        next: (event) => {
          if (event.type === HttpEventType.UploadProgress) this.sent.set(Math.round((100 * event.loaded) / Math.max(1, file.size)));
          if (event.type !== HttpEventType.Response) return;
          this.busy.set(false);
          this.looked.set(event.body);
          if (event.body && !dry) this.brought(event.body);
        },
        error: (e: unknown) => {
          this.busy.set(false);
          this.looked.set(null);
          this.problem.set(problemOf(e));
        },
      });
  }

  private brought({ project }: RecordTaken): void {
    this.store.dispatch(SessionActions.opened());
    this.store.dispatch(SessionActions.projectChosen({ projectId: project.id }));
  }
}
