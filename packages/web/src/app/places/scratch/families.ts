import { afterNextRender, ChangeDetectionStrategy, Component, effect, ElementRef, inject, Injector, input, output } from '@angular/core';
import { FAMILIES, methodById, type Picture } from '@keen-mortar/core';
import { Pictogram } from '../../ui/pictogram';
import { PLAN } from './find';

interface Member {
  readonly id: string;
  readonly title: string;
  readonly about: string;
  readonly picture: Picture;
}

const BY_FAMILY: readonly { readonly label: string; readonly members: readonly Member[] }[] = [
  ...FAMILIES.map(({ label, members }) => ({
    label,
    members: Object.entries(members).flatMap(([id, picture]): Member[] => {
      const m = methodById(id);
      return m ? [{ id, title: m.title, about: m.about, picture }] : [];
    }),
  })),
  { label: 'Time', members: [{ id: PLAN.id, title: PLAN.title, about: PLAN.about, picture: 'clock' }] },
];

/** Every computation by its family, in the order of the work, each with the thing that it is done with. */
@Component({
  selector: 'km-families',
  imports: [Pictogram],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (family of families; track family.label) {
      <section [attr.aria-label]="family.label">
        <h2>{{ family.label }}</h2>
        <ul>
          @for (m of family.members; track m.id) {
            <li>
              <a
                [href]="'/scratch/' + m.id"
                [class.on]="m.id === chosenId()"
                [attr.aria-current]="m.id === chosenId() ? 'page' : null"
                (click)="$event.preventDefault(); chosen.emit(m.id)"
              >
                <km-pic [name]="m.picture" [size]="long() ? 32 : 22" />
                <span
                  ><b>{{ m.title }}</b>
                  @if (long()) {
                    <span class="soft small">{{ m.about }}</span>
                  }
                </span>
              </a>
            </li>
          }
        </ul>
      </section>
    }
  `,
  styles: `
    :host {
      display: block;
    }
    section {
      margin-bottom: 14px;
    }
    h2 {
      font-size: 14.5px;
      font-weight: 400;
      color: var(--soft);
      border-bottom: 1px solid var(--rule);
      padding-bottom: 3px;
      margin-bottom: 2px;
    }
    a {
      display: flex;
      align-items: center;
      gap: 10px;
      min-height: 34px;
      padding: 2px 6px;
      text-decoration: none;
      font-size: 14.5px;
      line-height: 1.2;
    }
    a span {
      min-width: 0;
    }
    b {
      font-weight: 400;
    }
    a:hover {
      background: var(--deep-wash);
    }
    a.on {
      background: var(--deep);
      color: var(--on-deep);
    }
    a.on b {
      font-weight: 720;
    }
    @media (pointer: coarse) {
      a {
        min-height: 44px;
      }
    }
    /* The index: what each is for stands beside it. */
    :host(.long) {
      padding: 0 22px 40px;
    }
    :host(.long) ul {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(330px, 1fr));
      gap: 0 26px;
    }
    :host(.long) a {
      align-items: start;
      padding: 8px 4px;
      gap: 14px;
    }
    :host(.long) b {
      display: block;
      font-weight: 720;
      font-size: 16px;
    }
    :host(.long) h2 {
      font-size: 19px;
      font-weight: 740;
      color: var(--ink);
    }
    @media (max-width: 640px) {
      :host(.long) {
        padding: 0 12px 24px;
      }
      :host(.long) ul {
        grid-template-columns: minmax(0, 1fr);
      }
    }
  `,
})
export class Families {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly injector = inject(Injector);
  readonly long = input(false);
  readonly chosenId = input<string | null>(null);
  readonly chosen = output<string>();

  constructor() {
    // The one in use is in sight in the list.
    effect(() => {
      if (this.chosenId() === null) return;
      afterNextRender(
        () => {
          const [list, on] = [this.host.nativeElement.closest('.rail'), this.host.nativeElement.querySelector<HTMLElement>('a.on')];
          if (list && on) list.scrollTop = Math.max(0, on.offsetTop - list.clientHeight / 2);
        },
        { injector: this.injector },
      );
    });
  }

  protected readonly families = BY_FAMILY;
}
