import { ChangeDetectionStrategy, Component, input, output, viewChild } from '@angular/core';
import type { FileInfo } from '@keen-mortar/contract';
import { FileUpload, type FileUploadHandlerEvent } from 'primeng/fileupload';
import { Image } from 'primeng/image';
import type { Command } from '../../device/device-db';
import { newId } from '../../device/ids';

/** More than a photo of today’s phones, or a paper that is scanned. */
const MOST_BYTES = 12_000_000;

/** Photos and papers of an item. */
@Component({
  selector: 'km-files',
  imports: [FileUpload, Image],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Photos and papers</h2>
    <ul>
      @for (f of files(); track f.id) {
        <li>
          @if (f.size) {
            <p-image
              [src]="'/api/v1/files/' + f.id + '/preview'"
              [previewImageSrc]="'/api/v1/files/' + f.id"
              [alt]="f.name"
              [preview]="true"
              [imageStyle]="thumb"
            />
          } @else {
            <a [href]="'/api/v1/files/' + f.id" download>{{ f.name }}</a>
          }
          <span class="soft small">{{ f.size ? f.name : size(f) }}</span>
        </li>
      }
    </ul>
    @if (sending() > 0) {
      <p class="small" role="status" data-testid="sending">{{ sending() }} on the way …</p>
    }
    @if (!readOnly()) {
      <p-fileupload
        mode="basic"
        [chooseButtonProps]="{ severity: 'secondary' }"
        chooseLabel="Add a photo or a PDF"
        accept="image/jpeg,image/png,image/webp,application/pdf"
        [auto]="true"
        [multiple]="true"
        [customUpload]="true"
        [maxFileSize]="most"
        invalidFileSizeMessageSummary="Too large: "
        invalidFileSizeMessageDetail="at most {0}."
        (uploadHandler)="take($event)"
      />
      <span class="soft small">Where a photo was taken is left out of it.</span>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 6px;
      justify-items: start;
      min-width: 0;
    }
    h2 {
      font-size: 15px;
      font-weight: 720;
    }
    ul {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(112px, 1fr));
      gap: 8px;
      width: 100%;
    }
    li {
      display: grid;
      align-content: start;
      gap: 2px;
      min-width: 0;
      overflow-wrap: anywhere;
    }
  `,
})
export class Files {
  readonly files = input.required<readonly FileInfo[]>();
  /** How many are on their way. */
  readonly sending = input(0);
  readonly readOnly = input(false);
  readonly chosen = output<readonly File[]>();
  protected readonly most = MOST_BYTES;
  protected readonly thumb = { width: '100%', height: '112px', objectFit: 'cover', display: 'block' } as const;
  private readonly upload = viewChild(FileUpload);

  protected take({ files }: FileUploadHandlerEvent): void {
    this.chosen.emit([...files]);
    this.upload()?.clear();
  }

  protected size({ bytes }: FileInfo): string {
    return bytes < 1_000_000 ? `${Math.max(1, Math.round(bytes / 1000))} kB` : `${(bytes / 1e6).toFixed(1)} MB`;
  }
}

/** Files of an item as they are sent: each a write of its own. */
export const fileCommands = (itemId: string, by: string, opens: string, files: readonly File[]): Omit<Command, 'order'>[] =>
  files.map((file) => {
    const id = newId();
    const name = (file.name || 'Photo').slice(-200);
    const said = new URLSearchParams({ id, by, name });
    return { id, itemId, opens, kind: 'file', path: `/items/${itemId}/files?${said.toString()}`, body: { id, by, name }, file };
  });
