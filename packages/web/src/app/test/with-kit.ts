import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { CALIBRATION, kitOfMethod, type AnyMethod, type Keyed, type Kit, type KitKind } from '@keen-mortar/core';
import { Choice, type Option } from '../ui/choice';
import { longDay } from '../parts/when';
import { withKit, type TakenKit } from './sound-kit';

interface OneKind {
  readonly kind: KitKind;
  readonly label: string;
  readonly options: readonly Option[];
  readonly value: string | null;
}

/** What a test is made with: of each kind that its method asks for and the lab has, one. */
@Component({
  selector: 'km-with-kit',
  imports: [Choice],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (c of kinds(); track c.kind) {
      <km-choice
        [label]="c.label"
        [attr.data-kit]="c.kind"
        [quiet]="true"
        [options]="c.options"
        [value]="c.value"
        [placeholder]="c.label"
        [disabled]="disabled()"
        (chosen)="take(c.kind, $event)"
      />
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      gap: 0 14px;
      min-width: 0;
      max-width: 100%;
    }
    km-choice {
      max-width: 100%;
    }
  `,
})
export class WithKit {
  readonly method = input.required<AnyMethod>();
  readonly kit = input.required<readonly Kit[]>();
  readonly taken = input.required<TakenKit>();
  readonly disabled = input(false);
  readonly chosen = output<TakenKit>();

  protected readonly kinds = computed((): OneKind[] => {
    const { equipmentId, alsoIds } = this.taken();
    return kitOfMethod(this.method()).flatMap((kind): OneKind[] => {
      const own = this.kit().filter((k) => k.kind === kind);
      const value = own.find((k) => k.id === equipmentId || alsoIds.includes(k.id))?.id ?? null;
      return own.length === 0 || (this.disabled() && value === null)
        ? []
        : [{ kind, label: CALIBRATION[kind].label, options: own.map(option), value }];
    });
  });

  protected take(kind: KitKind, id: string): void {
    this.chosen.emit(withKit(this.method(), this.kit(), this.taken(), kind, id));
  }
}

const option = (k: Kit): Option => ({ id: k.id, label: `${k.name}${holds(k)}` });

/** How often what wears was used, this time among them. */
const used = ({ sources }: Kit): string => `, use ${(sources['pads.uses'] as Keyed | undefined)?.text ?? '1'}`;

function holds(kit: Kit): string {
  const { wrong, calibratedOn, until, kind } = kit;
  if (wrong) return ', found wrong';
  if (CALIBRATION[kind].wears) return used(kit);
  if (calibratedOn === null) return ', never calibrated';
  return until === null ? '' : `, calibrated until ${longDay(until)}`;
}
