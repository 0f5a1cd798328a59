import { ChangeDetectionStrategy, Component, ElementRef, inject, output, signal, viewChild } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { pictureOf } from '@keen-mortar/core';
import { AutoComplete, type AutoCompleteSelectEvent } from 'primeng/autocomplete';
import { Pictogram } from '../../ui/pictogram';
import { find, type Found } from './find';

/** Type to find a method by any of its names; arrows and Enter choose. */
@Component({
  selector: 'km-finder',
  imports: [AutoComplete, FormsModule, Pictogram],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label class="unseen" for="finder">Find a computation</label>
    <p-autocomplete
      #box
      appendTo="body"
      inputId="finder"
      optionLabel="title"
      placeholder="Find: slump, SG, minus 200, break, C 39 …"
      emptyMessage="No computation has that name. Try another word for it, or its test method."
      scrollHeight="min(460px, 60vh)"
      [fluid]="true"
      [autoHighlight]="true"
      [autoOptionFocus]="true"
      [completeOnFocus]="false"
      [minQueryLength]="1"
      [delay]="0"
      [maxlength]="60"
      [suggestions]="found()"
      [ngModel]="query()"
      (ngModelChange)="query.set($event)"
      (completeMethod)="look($event.query)"
      (onSelect)="choose($event)"
      (onShow)="open = true"
      (onHide)="open = false"
    >
      <ng-template #item let-f>
        <km-pic [name]="picture(f)" [size]="26" />
        <span class="said"
          ><b>{{ f.title }}</b> <span class="small">{{ f.follows }}</span></span
        >
      </ng-template>
    </p-autocomplete>
  `,
  host: { '(keydown.escape)': 'escape($event)', '(keydown.enter)': 'enter()' },
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    .said {
      display: grid;
      margin-left: 12px;
    }
  `,
})
export class Finder {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly chosen = output<string>();
  private readonly box = viewChild.required<AutoComplete>('box');
  protected readonly query = signal<string | Found>('');
  protected readonly found = signal<Found[]>([]);
  protected open = false;
  protected readonly picture = (f: Found) => pictureOf(f.id);

  focus(): void {
    this.host.nativeElement.querySelector('input')?.focus();
  }

  protected look(text: string): void {
    this.found.set([...find(text)]);
  }

  protected choose({ value }: AutoCompleteSelectEvent): void {
    this.take(value as Found);
  }

  /** Faster than the list: the likeliest is taken. */
  protected enter(): void {
    const words = this.query();
    const [first] = this.open || typeof words !== 'string' || words.trim() === '' ? [] : find(words);
    if (first) this.take(first);
  }

  private take(found: Found): void {
    this.query.set('');
    this.box().hide();
    this.box().clear();
    this.chosen.emit(found.id);
  }

  /** Closes its own list, and nothing else with it. */
  protected escape(event: Event): void {
    if (this.open) event.stopPropagation();
  }
}
