import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { Item } from '@keen-mortar/contract';
import { ITEM_KIND_IDS, ITEM_KINDS, methodById, type ItemKind } from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { FormsModule } from '@angular/forms';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Paginator } from 'primeng/paginator';
import { longDay } from '../../parts/when';
import { Carried } from '../../state/carried';
import { project } from '../../state/session';
import { Choice } from '../../ui/choice';
import { Notice } from '../../ui/notice';
import { Pictogram } from '../../ui/pictogram';
import { VerdictShape } from '../../ui/verdict-shape';
import { CarriedBar } from './carried-bar';
import { calledOf, linkOf, pictureOfKind } from './kinds';
import { AT_ONCE, RecordStore } from './record.store';

const KIND = 'km.record.kind';

/** All that is on record, a kind at a time, the newest first. */
@Component({
  selector: 'km-record-list',
  imports: [CarriedBar, FormsModule, InputText, RouterLink, ButtonDirective, Paginator, Choice, Notice, Pictogram, VerdictShape],
  providers: [RecordStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="place">
      <header>
        <km-pic name="tray" [size]="38" />
        <h1>Record</h1>
        <km-choice label="Kind" data-testid="kind" [options]="kinds" [value]="kind()" (chosen)="choose($event)" />
        <input
          pInputText
          class="seek"
          type="search"
          name="seek"
          maxlength="60"
          autocomplete="off"
          placeholder="Find by its code or name"
          aria-label="Find by its code or name"
          [ngModel]="seek()"
          (ngModelChange)="find($event)"
        />
        @if (stands()) {
          <a pButton severity="secondary" class="end" [routerLink]="['/record/new', kind()]">New {{ label().toLowerCase() }}</a>
        }
      </header>
      <km-carried-bar />
      @if (record.problem(); as p) {
        <km-notice>{{ p.detail }}</km-notice>
      }
      @if (record.list(); as page) {
        <ul>
          @for (i of page.items; track i.id) {
            <li [class.gone]="i.voided">
              <a [routerLink]="link(i)">
                <km-pic [name]="picture(i.kind)" [size]="28" />
                <span class="what"
                  ><b>{{ called(i) }}</b>
                  @if (i.parentCode) {
                    <span class="soft">{{ i.parentCode }}</span>
                  }
                </span>
                <span class="soft">{{ longDay(i.on) }}</span>
                <span class="soft">{{ i.children > 0 ? i.children + ' in it' : '' }}</span>
                <span class="mark">
                  @if (i.worst === 'out' || i.outs > 0) {
                    <km-verdict-shape state="out" [size]="20" /> out
                  }
                </span>
              </a>
            </li>
          } @empty {
            <li class="empty">
              <p>
                <b>{{ seek() === '' ? 'No ' + label().toLowerCase() + ' is on record yet.' : 'None begins with that.' }}</b>
              </p>
              @if (seek() === '') {
                <p class="soft">{{ where() }}</p>
              }
            </li>
          }
        </ul>
        @if (page.total > size) {
          <p-paginator [rows]="size" [totalRecords]="page.total" [first]="from()" (onPageChange)="from.set($event.first ?? 0)" />
        }
      } @else if (!record.problem()) {
        <p class="soft" role="status">Opening the record …</p>
      }
    </div>
  `,
  styles: `
    .seek {
      flex: 0 1 280px;
    }
    ul {
      border-top: 1px solid var(--rule);
      background: var(--well);
    }
    li {
      border-bottom: 1px solid var(--hair);
    }
    li > a {
      display: grid;
      grid-template-columns: 34px minmax(0, 1fr) 150px 90px 80px;
      align-items: center;
      gap: 4px 14px;
      min-height: 56px;
      padding: 6px 16px;
      text-decoration: none;
    }
    li > a:hover {
      background: var(--sheet);
    }
    .what {
      display: flex;
      flex-wrap: wrap;
      align-items: baseline;
      gap: 0 14px;
    }
    b {
      font-size: 17px;
      overflow-wrap: anywhere;
    }
    .gone b {
      text-decoration: line-through;
    }
    .mark {
      display: flex;
      align-items: center;
      gap: 6px;
      font-weight: 700;
    }
    .empty {
      padding: 24px 18px;
      display: grid;
      gap: 8px;
    }
    @media (max-width: 760px) {
      li > a {
        grid-template-columns: 34px minmax(0, 1fr) auto;
      }
      li > a > .soft {
        grid-column: 2;
      }
    }
  `,
})
export class RecordList {
  protected readonly record = inject(RecordStore);
  private readonly project = inject(Store).selectSignal(project);
  protected readonly kinds = ITEM_KIND_IDS.map((id) => ({ id, label: ITEM_KINDS[id].plural }));
  protected readonly kind = signal<ItemKind>(remembered());
  protected readonly from = signal(0);
  protected readonly seek = signal('');
  private readonly carried = inject(Carried).hand;
  protected readonly size = AT_ONCE;
  protected readonly label = computed(() => ITEM_KINDS[this.kind()].label);
  /** Whether it may be made at the top of a tree; others are made on the sheet that they lie in. */
  protected readonly stands = computed(() => ITEM_KINDS[this.kind()].parents.includes(null) && this.kind() !== 'pour');
  protected readonly where = computed(() => {
    const { parents } = ITEM_KINDS[this.kind()];
    const places = parents.flatMap((p) => (p === null ? [] : ITEM_KINDS[p].label.toLowerCase()));
    return places.length === 0
      ? 'Make the first one with the button above.'
      : `It is made on the sheet of what it comes from: ${places.join(' or ')}.`;
  });
  protected readonly called = calledOf;
  /** What is in hand is put on a sheet of the record, whatever place the item has besides. */
  protected link(i: Item): string[] {
    return this.carried() ? ['/record', i.id] : linkOf(i);
  }
  protected readonly picture = pictureOfKind;
  protected readonly longDay = longDay;

  constructor() {
    effect(() => {
      const [p, kind, from, seek] = [this.project(), this.kind(), this.from(), this.seek()];
      if (p) this.record.find({ project: p.id, kind, from, seek: seek.trim() });
    });
    // What looks for its item looks among those that it is made on.
    effect(() => {
      const method = this.carried()?.method;
      const on = method === undefined ? undefined : methodById(method)?.on;
      untracked(() => on && !on.includes(this.kind()) && this.choose(on[0]!));
    });
  }

  protected choose(kind: string): void {
    localStorage.setItem(KIND, kind);
    this.from.set(0);
    this.seek.set('');
    this.kind.set(kind as ItemKind);
  }

  protected find(text: string): void {
    this.from.set(0);
    this.seek.set(text);
  }
}

const remembered = (): ItemKind => {
  const kind = localStorage.getItem(KIND);
  return ITEM_KIND_IDS.find((id) => id === kind) ?? 'source';
};
