import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal, viewChild } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { IMPORT_IDS, importTable, type ImportAnswer, type ImportWhat } from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { FileUpload, type FileUploadHandlerEvent } from 'primeng/fileupload';
import { TableModule } from 'primeng/table';
import { Textarea } from 'primeng/textarea';
import { Api, problemOf } from '../../api/api';
import { newId } from '../../device/ids';
import { project, session } from '../../state/session';
import { Notice } from '../../ui/notice';
import { Pictogram } from '../../ui/pictogram';
import { Switch } from '../../ui/switch';

const MOST_BYTES = 2_000_000;
const LEADS: Readonly<Record<ImportWhat, string>> = {
  sources: '/mixes',
  specifications: '/mixes',
  mixes: '/mixes',
  kit: '/kit',
  loads: '/pours',
  tests: '/ledger',
};

/** A cell as CSV has it. */
const cell = (text: string): string => (/[",\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);

/** A list of objects in JSON as the table that it stands for, a line for each; what is no such list stays as it is. */
export function tableOf(text: string): string {
  if (!text.trimStart().startsWith('[')) return text;
  try {
    const list = JSON.parse(text) as unknown[];
    const isObject = (value: unknown): boolean => typeof value === 'object' && value !== null;
    if (!list.every((one) => isObject(one) && !Array.isArray(one))) return text;
    const rows = list as readonly Readonly<Record<string, unknown>>[];
    if (rows.some((row) => Object.values(row).some(isObject))) return text;
    const heads = [...new Set(rows.flatMap((row) => Object.keys(row)))];
    const said = (value: unknown): string =>
      value === null || value === undefined ? '' : typeof value === 'string' ? value : JSON.stringify(value);
    return [heads, ...rows.map((row) => heads.map((head) => said(row[head])))].map((row) => row.map(cell).join(',')).join('\r\n');
  } catch {
    return text;
  }
}

/** A table that a lab brings in: looked at line by line first, then made as a whole. */
@Component({
  selector: 'km-import-page',
  imports: [FormsModule, RouterLink, ButtonDirective, FileUpload, TableModule, Textarea, Notice, Pictogram, Switch],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './import-page.html',
  styleUrl: './import-page.css',
})
export class ImportPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly state = inject(Store);
  private readonly project = this.state.selectSignal(project);
  private readonly person = this.state.selectSignal(session.selectPersonId);
  private readonly upload = viewChild(FileUpload);
  readonly what = input<string>();
  protected readonly chosen = linkedSignal<ImportWhat>(() => IMPORT_IDS.find((id) => id === this.what()) ?? IMPORT_IDS[0]);
  protected readonly tables = IMPORT_IDS.map((id) => ({ id, label: importTable(id).label }));
  protected readonly table = computed(() => importTable(this.chosen()));
  protected readonly csv = signal('');
  protected readonly looked = signal<ImportAnswer | null>(null);
  protected readonly problem = signal<Problem | null>(null);
  protected readonly busy = signal(false);
  protected readonly most = MOST_BYTES;
  private id = newId();

  /** The heads, and an example below them: to begin a table with. */
  protected readonly empty = computed(() => {
    const { columns, example } = this.table();
    const lines = [columns.map((c) => c.head), ...example].map((row) => row.map(cell).join(','));
    return `data:text/csv;charset=utf-8,${encodeURIComponent(`${lines.join('\r\n')}\r\n`)}`;
  });

  protected choose(what: string): void {
    this.chosen.set(what as ImportWhat);
    this.changed(this.csv());
  }
  protected changed(csv: string): void {
    this.csv.set(csv);
    this.looked.set(null);
    this.problem.set(null);
    this.id = newId();
  }
  protected take({ files }: FileUploadHandlerEvent): void {
    this.upload()?.clear();
    void files[0]?.text().then((text) => {
      this.changed(tableOf(text));
      this.send(true);
    });
  }

  protected send(dry: boolean): void {
    const [by, p] = [this.person(), this.project()];
    if (by === null || !p || this.csv().trim() === '') return;
    this.busy.set(true);
    // Looked at it is no write; brought in it is one, the same one when it is pressed again.
    const body = { id: dry ? newId() : this.id, by, projectId: p.id, what: this.chosen(), csv: this.csv(), dry };
    this.api.write<ImportAnswer>('/imports', body).subscribe({
      next: (answer) => {
        this.busy.set(false);
        if (dry) this.looked.set(answer);
        else void this.router.navigateByUrl(LEADS[this.chosen()]);
      },
      error: (e: unknown) => {
        this.busy.set(false);
        this.looked.set(null);
        this.problem.set(problemOf(e));
      },
    });
  }
}
